"""No models: the audit lines moved to the accounts app."""

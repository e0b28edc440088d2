"""No models: the audit lines, which began here, are in the accounts app."""

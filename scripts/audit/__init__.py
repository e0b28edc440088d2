"""Known weaknesses of what is installed: the locked versions against a snapshot of advisories, without a network."""

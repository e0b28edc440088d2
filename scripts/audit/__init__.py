"""Known vulnerabilities of what is installed: the locked versions against a snapshot of advisories, offline."""

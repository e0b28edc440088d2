"""Settings, addresses, the one shape of errors."""

"""Stand-in devices: separate programs that know only the public device protocol."""

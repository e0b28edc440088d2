"""The server: translates and stores; the coaching rules are in the core."""

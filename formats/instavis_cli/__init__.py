"""The core on standard input and output."""

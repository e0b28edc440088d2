"""Commands about people."""

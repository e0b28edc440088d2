"""Lessons, their blocks, the spine and the live channel."""

"""Lessons, their blocks, station states and the live connection."""

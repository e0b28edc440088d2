"""A lesson as its screens see it: its state, its stations, the live connection."""

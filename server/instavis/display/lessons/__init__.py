"""A lesson as its screens see it: the whole of it, the state of its stations, the live line."""

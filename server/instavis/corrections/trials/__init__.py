"""Proof sets and cue comparisons: two ways in a called order, and whether they differ."""

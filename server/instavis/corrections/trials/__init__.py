"""Proof sets and cue trials: two ways in a called order, and whether they differ."""

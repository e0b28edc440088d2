"""Stored films: two swings side by side, frame by frame, and the pair on the take-home page."""

"""Correct: candidates and the chosen correction."""

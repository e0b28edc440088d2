"""Balls: recording, marking, files in and out."""

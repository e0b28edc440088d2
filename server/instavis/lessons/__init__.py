"""Lessons, their blocks, the state of their stations and the live channel."""

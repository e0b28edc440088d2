"""Bridges: programs in a bay that send the rows of a monitor's own program."""

"""Bridges: programs in a bay that hand on the rows a monitor's own program writes."""

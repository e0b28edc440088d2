"""Template tags of the printed page."""

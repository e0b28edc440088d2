"""Tags of the printed page."""

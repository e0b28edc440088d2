"""Pictures of a moment and their landmarks."""

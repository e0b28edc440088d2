"""Films of one swing that a worker measures."""

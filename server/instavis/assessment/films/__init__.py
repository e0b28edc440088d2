"""Films that are kept to look at: swings side by side, frame by frame, and the pair that goes home."""

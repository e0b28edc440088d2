"""What the balls, words and looks say: Ask to Cause, recordings, stills."""

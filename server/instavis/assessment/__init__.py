"""What balls, words and checks show: Ask to Cause, recordings, pictures."""

"""What screens of a lesson are given: the lesson as a whole, its live line, second screens."""

"""What a lesson's screens get: the lesson, its live connection, second screens."""

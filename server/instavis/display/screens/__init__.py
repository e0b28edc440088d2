"""Second screens: the student's view of a lesson, paired by a short-lived code, read-only."""

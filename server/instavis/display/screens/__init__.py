"""Second screens: a student's read-only view of a lesson, paired by a short-lived code."""

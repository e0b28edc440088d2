"""Lessons and students out of the database as open archives, in again without loss, and erased on request."""

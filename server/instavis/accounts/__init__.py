"""Academies, coaches and students; sign-in."""

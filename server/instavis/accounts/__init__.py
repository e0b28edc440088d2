"""Academies, coaches, students; signing in."""

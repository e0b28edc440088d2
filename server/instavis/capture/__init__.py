"""Balls as they come: devices and bays, shots, files of tables."""

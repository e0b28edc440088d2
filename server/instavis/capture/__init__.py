"""Incoming balls: devices and bays, shots, table files."""

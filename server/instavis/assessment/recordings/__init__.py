"""Recorded swings of motion belts and pressure mats, from devices and files."""

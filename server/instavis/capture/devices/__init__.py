"""Bays, devices and the device protocol."""

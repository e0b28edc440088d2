"""Starts and stops what the application is made of: database, server, stand-in devices."""

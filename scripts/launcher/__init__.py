"""Starts and stops the parts of the application: database, server, stand-in devices."""

"""Shared parts of the server: one shape of errors, limits, keys, request bodies."""

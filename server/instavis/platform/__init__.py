"""What every part of the server stands on: one shape of errors, limits, keys, request bodies."""

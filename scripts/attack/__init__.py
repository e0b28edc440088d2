"""Attacks on an Instavis of one's own: hard kills under load, many bays, odd requests, strangers with real keys."""

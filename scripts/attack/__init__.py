"""Attacks on an Instavis installation of your own: hard kills under load, many bays, odd requests, strangers with real
keys.
"""

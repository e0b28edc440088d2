"""Phones and tablets that film the balls of a bay."""

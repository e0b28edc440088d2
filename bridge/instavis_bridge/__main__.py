"""`python -m instavis_bridge`."""

from instavis_bridge.program import run

run()

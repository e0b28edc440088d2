"""A stand-in motion belt: `python -m instavis_standins.belt --server … --token …`."""

import sys

from instavis_standins.recorder import main

if __name__ == "__main__":
    sys.exit(main("belt"))

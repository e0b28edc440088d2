"""A stand-in pressure mat: `python -m instavis_standins.mat --server … --token …`."""

import sys

from instavis_standins.recorder import main

if __name__ == "__main__":
    sys.exit(main("mat"))

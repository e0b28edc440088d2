"""`python -m instavis_bridge`."""

import sys

from instavis_bridge.program import main

sys.exit(main())

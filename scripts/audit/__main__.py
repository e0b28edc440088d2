"""`./instavis audit [PLACE]`: the locked packages against advisories in the OSV format, a folder or a ZIP.

Exits with 1 if one of them affects a locked version, with 0 if none does, and with 3 if there are no advisories,
because then nothing was compared. It reports a snapshot older than three months.
"""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

from audit.compare import audit
from launcher.paths import ROOT

SHIPPED = ROOT / "deploy" / "advisories"


def main() -> int:
    """Print what is known."""
    parser = argparse.ArgumentParser(prog="./instavis audit", description=__doc__)
    parser.add_argument("place", nargs="?", type=Path, default=SHIPPED, help="a folder or a ZIP of advisories")
    return audit(ROOT, parser.parse_args().place)


if __name__ == "__main__":
    sys.exit(main())

"""Print the table of targets; exit 1 if one is missed."""

from __future__ import annotations

import os

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

import itertools
import sys

from bench import app, core
from bench.target import HEADER


def main() -> int:
    """Measure and print, each line as soon as it is known; ``core`` or ``app`` measures only that part."""
    parts = {"core": core.targets, "app": app.targets}
    chosen = [parts[name] for name in sys.argv[1:] if name in parts] or list(parts.values())
    print(HEADER, flush=True)
    met = True
    for measured in itertools.chain.from_iterable(part() for part in chosen):
        print(measured.row(), flush=True)
        met = met and measured.met
    return 0 if met else 1


if __name__ == "__main__":
    raise SystemExit(main())

"""`./instavis attack KIND`: start a separate academy, attack it, and report what held."""

from __future__ import annotations

import os

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

import argparse
import sys
from collections.abc import Callable, Iterator

from bench.target import HEADER, Measured

from attack import bridge, crash, filmed, films, fuzz, load, pages, tenancy
from attack.siege import Siege, besieged
from launcher.shape import Shape


def main() -> int:
    """Print each figure with its target; exit 1 if one is missed."""
    parser = argparse.ArgumentParser(prog="./instavis attack", description=__doc__)
    kinds = parser.add_subparsers(dest="kind", required=True)
    hits = kinds.add_parser("crash", help="kill random programs while eight bays send balls")
    hits.add_argument("--kills", type=int, default=200)
    hits.add_argument("--seed", type=int, default=1)
    many = kinds.add_parser("load", help="many bays: time to a verdict and cost of a ball")
    many.add_argument("--web", type=int, default=3)
    many.add_argument("--bays", type=int, default=64)
    many.add_argument("--every", type=float, default=6.0, help="seconds between the balls of a bay")
    many.add_argument("--seconds", type=int, default=60)
    written = kinds.add_parser("bridge", help="balls through files and bridges that are killed: losses and delay")
    written.add_argument("--kills", type=int, default=200)
    written.add_argument("--old", type=int, default=2000, help="old files in every folder")
    written.add_argument("--seconds", type=int, default=60, help="number of timed balls")
    written.add_argument("--seed", type=int, default=1)
    beside = kinds.add_parser("films", help="measure films while balls arrive: delay of a ball, time for a film")
    beside.add_argument("--web", type=int, default=1)
    beside.add_argument("--bays", type=int, default=8)
    beside.add_argument("--every", type=float, default=6.0, help="seconds between the balls of a bay")
    beside.add_argument("--seconds", type=int, default=60)
    alone = kinds.add_parser("filmed", help="whole lessons marked by films alone; checks the claims")
    alone.add_argument("--seed", type=int, default=3)
    alone.add_argument(
        "--browser", action="store_true", help="through the camera page of a browser with a simulated camera"
    )
    odd = kinds.add_parser("fuzz", help="random requests to every operation")
    odd.add_argument("--requests", type=int, default=100_000)
    odd.add_argument("--seed", type=int, default=1)
    others = kinds.add_parser("tenancy", help="every operation with real keys, tried by every kind of stranger")
    others.add_argument("--examples", type=int, default=3, help="bodies per operation")
    full = kinds.add_parser("pages", help="every page of an academy with years of data")
    full.add_argument("--balls", type=int, default=10_000_000)
    full.add_argument("--lessons", type=int, default=20_000)
    options = parser.parse_args()
    attacks: dict[str, Callable[[Siege], Iterator[Measured]]] = {
        "crash": lambda siege: crash.attack(siege, options.kills, options.seed),
        "load": lambda siege: load.attack(siege, options.bays, options.every, options.seconds),
        "bridge": lambda siege: bridge.attack(siege, options.kills, options.old, options.seconds, options.seed),
        "films": lambda siege: films.attack(siege, options.bays, options.every, options.seconds),
        "filmed": lambda siege: filmed.attack(siege, options.seed, options.browser),
        "fuzz": lambda siege: fuzz.attack(siege, options.requests, options.seed),
        "tenancy": lambda siege: tenancy.attack(siege, options.examples),
        "pages": lambda siege: pages.attack(siege, options.balls, options.lessons),
    }
    met = True
    with besieged(Shape(web=getattr(options, "web", 2), workers=2)) as siege:
        print(HEADER, flush=True)
        for measured in attacks[options.kind](siege):
            print(measured.row(), flush=True)
            met = met and measured.met
    return 0 if met else 1


if __name__ == "__main__":
    sys.exit(main())

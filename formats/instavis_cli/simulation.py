"""`simulate`: golfers who hit balls, and recordings of their swings."""

from __future__ import annotations

import argparse
import json
from datetime import UTC, datetime

import numpy as np

from instavis_core.errors import InputError
from instavis_core.golfer import HANDS, Golfer
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.message import Message
from instavis_core.shots import read_club
from instavis_report.catalog import english

NUMBERS = (
    "Shots of a simulated golfer as NDJSON (instavis.shot/1, device frame), or with --recording one swing's"
    " motion or pressure series as CSV. The golfer's effects are drawn around the knowledge base's, never equal"
    " to it; the same seed gives the same golfer and the same balls."
)
BAD_INPUT = 2


def add_options(parser: argparse.ArgumentParser) -> None:
    """Add the options of the verb."""
    faults = ", ".join(c.key for c in shipped_knowledge().causes.values() if c.kind != "compensation")
    golfer = parser.add_argument_group("golfer")
    golfer.add_argument("--fault", action="append", default=[], help=f"repeatable; one of {faults}")
    golfer.add_argument("--severity", type=float, default=0.85, help="strength of the faults, 0 to 1.3")
    golfer.add_argument("--hand", choices=HANDS, default="right")
    golfer.add_argument("--handicap", type=float, default=14.0)
    golfer.add_argument("--club-speed", type=float, default=None, help="club speed with a 7 iron [m/s]")
    golfer.add_argument(
        "--effect-spread", type=float, default=0.25, help="log SD of the golfer's own effects around the table's"
    )
    golfer.add_argument("--tails", type=float, default=6.0, help="degrees of freedom of the scatter, more than 2")
    golfer.add_argument("--mishits", type=float, default=0.05, help="share of mishits")
    golfer.add_argument("--fatigue-from", type=int, default=45, help="ball from which club speed falls")
    golfer.add_argument("--learn", action="store_true", help="the golfer tries the new movement and learns it")
    golfer.add_argument("--learning", type=float, default=0.06, help="share of the missing part that each try adds")
    golfer.add_argument(
        "--days", type=float, default=0.0, help="days since 40 tries in an earlier lesson; needs --learn"
    )
    golfer.add_argument("--practice", type=int, default=0, help="repetitions at home during those days")
    balls = parser.add_argument_group("balls")
    balls.add_argument("--shots", type=_count, default=12)
    balls.add_argument("--seed", type=int, default=1, help="the same seed gives the same balls")
    balls.add_argument("--club", default="7i")
    balls.add_argument("--aim", type=float, default=0.0, help="aim away from the target [°], golfer frame")
    balls.add_argument("--speed", type=float, default=1.0, help="share of full speed")
    balls.add_argument("--columns", choices=("all", "ball"), default="all", help="what the monitor measures")
    balls.add_argument("--at", default="2026-05-04T09:00:00+00:00", help="time of the first ball")
    device = parser.add_argument_group("as a device", "instead of writing them, send the balls to a server")
    device.add_argument("--server", help="address of the server, http://127.0.0.1:8765")
    device.add_argument("--token", help="token of a bay")
    device.add_argument("--pace", type=float, default=6.0, help="seconds between balls")
    balls.add_argument(
        "--recording", choices=("motion", "pressure"), help="write the curves of one swing as CSV instead of balls"
    )


def run(options: argparse.Namespace) -> int:
    """Write the result to standard output; return 2 for invalid options."""
    # Slow to load, and needed only by this verb.
    from instavis_core.simulate import (
        MOTION_SERIES,
        PRESSURE_SERIES,
        Traits,
        draw_golfer,
        record_swing,
        simulate_shots,
    )

    try:
        golfer, club = Golfer(options.hand, options.handicap), read_club(options.club)
        rng = np.random.default_rng(options.seed)
        traits = Traits(
            effect_spread=_within("effect-spread", options.effect_spread, 0, 2),
            tail_freedom=_within("tails", options.tails, 2.1, 1000),
            mishit_rate=_within("mishits", options.mishits, 0, 1),
            fatigue_from=options.fatigue_from,
            learning=_within("learning", options.learning, 0, 1),
        )
        faults = dict.fromkeys(options.fault, _within("severity", options.severity, 0, 1.3))
        sim = draw_golfer(rng, faults, golfer, club, options.club_speed, traits)
        if options.days or options.practice:
            for _ in range(40):
                sim.tries(rng)
            sim.rest(_within("days", options.days, 0, 3650), options.practice)
        if options.recording:
            movement = sim.tries(rng) if options.learn else None
            series = MOTION_SERIES if options.recording == "motion" else PRESSURE_SERIES
            print(record_swing(sim.severity_now(movement), rng, series).to_csv(), end="")
            return 0
        marks = [sim.tries(rng) for _ in range(options.shots)] if options.learn else None
        start = datetime.fromisoformat(options.at)
        start = start if start.tzinfo else start.replace(tzinfo=UTC)
        records = simulate_shots(
            sim, club, options.shots, rng, start, marks, options.columns, options.aim, options.speed
        )
    except (InputError, ValueError) as error:
        field, message = getattr(error, "field", "at"), english(getattr(error, "message", str(error)))
        print(json.dumps({"error": {"line": 0, "field": field, "message": message}}))
        return BAD_INPUT
    for record in records:
        print(json.dumps(record))
    return 0


def _within(name: str, value: float, low: float, high: float) -> float:
    if not low <= value <= high:
        raise InputError(name, value, Message("shots-number", low=low, high=f"{high:g}"))
    return value


def _count(text: str) -> int:
    value = int(text)
    if not 1 <= value <= 100_000:
        raise argparse.ArgumentTypeError(f"{text} is not a number of shots from 1 to 100000")
    return value

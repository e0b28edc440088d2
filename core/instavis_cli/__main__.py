"""`python -m instavis_cli VERB`: fly, read, cause, prove and simulate without a server."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Iterator
from datetime import UTC, datetime
from typing import IO, Any

import numpy as np

from instavis_core.documents import VERBS, answer_of
from instavis_core.errors import InputError
from instavis_core.golfer import HANDS, Golfer
from instavis_core.knowledge import load_knowledge
from instavis_core.shots import read_club

BAD_INPUT = 2
LONGEST_LINE = 64 * 1024 * 1024


def main(arguments: list[str] | None = None) -> int:
    """Run a verb; 0, or 2 when a line could not be answered."""
    options = _parser().parse_args(arguments)
    try:
        if options.verb == "simulate":
            return _simulate(options)
        return answer_stream(options.verb, sys.stdin, sys.stdout)
    except BrokenPipeError:
        sys.stderr.close()
        return 0


def answer_stream(verb: str, source: IO[str], sink: IO[str]) -> int:
    """Answer every document of ``source`` with one line on ``sink``, in order."""
    status, answer_one = 0, answer_of(verb)
    for line, document in _documents(source):
        try:
            if isinstance(document, InputError):
                raise document
            if not isinstance(document, dict):
                raise InputError("document", document, "a JSON object")
            answer = answer_one(document)
        except InputError as error:
            status = BAD_INPUT
            answer = {"error": {"line": line, "field": error.field, "message": error.message}}
        sink.write(json.dumps(answer, ensure_ascii=False, allow_nan=False) + "\n")
        sink.flush()
    return status


def _documents(source: IO[str]) -> Iterator[tuple[int, Any]]:
    """Line number and document: a document a line, or one document over many lines."""
    first = True
    for number, line in enumerate(source, start=1):
        if not line.strip():
            continue
        document = _parse(line)
        if first and isinstance(document, InputError):
            rest = source.read()
            whole = _parse(line + rest) if rest.strip() else document
            if not isinstance(whole, InputError):
                yield number, whole
                return
            yield number, document
            for later, text in enumerate(rest.splitlines(), start=number + 1):
                if text.strip():
                    yield later, _parse(text)
            return
        first = False
        yield number, document


def _parse(text: str) -> Any:
    if len(text) > LONGEST_LINE:
        return InputError("document", f"{len(text)} characters", f"at most {LONGEST_LINE} characters")
    try:
        return json.loads(text, parse_constant=_refuse_constant)
    except InputError as error:
        return error
    except (json.JSONDecodeError, RecursionError) as error:
        return InputError("document", text.strip()[:40], f"JSON ({error})")


def _refuse_constant(name: str) -> None:
    raise InputError("document", name, "finite numbers only")


def _simulate(options: argparse.Namespace) -> int:
    from instavis_core.simulate import draw_golfer, simulate_shots  # slow to load, needed only here

    try:
        golfer, club = Golfer(options.hand, options.handicap), read_club(options.club)
        rng = np.random.default_rng(options.seed)
        faults = dict.fromkeys(options.fault, options.severity)
        sim = draw_golfer(rng, faults, golfer, club, options.club_speed)
        marks = [sim.tries(rng) for _ in range(options.shots)] if options.learn else None
        start = datetime.fromisoformat(options.at)
        start = start if start.tzinfo else start.replace(tzinfo=UTC)
        records = simulate_shots(
            sim, club, options.shots, rng, start, marks, options.columns, options.aim, options.speed
        )
    except (InputError, ValueError) as error:
        field, message = getattr(error, "field", "at"), str(error)
        print(json.dumps({"error": {"line": 0, "field": field, "message": message}}))
        return BAD_INPUT
    for record in records:
        print(json.dumps(record))
    return 0


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="instavis", description="The core of Instavis on standard input and output.")
    verbs = parser.add_subparsers(dest="verb", required=True)
    for verb, told in VERBS.items():
        verbs.add_parser(verb, help=told, description=told)
    simulate = verbs.add_parser("simulate", help="Shots of a simulated golfer as NDJSON.")
    faults = ", ".join(c.key for c in load_knowledge().causes.values() if c.kind != "compensation")
    simulate.add_argument("--fault", action="append", default=[], help=f"repeatable; one of {faults}")
    simulate.add_argument("--severity", type=float, default=0.85, help="0 to 1.3, of every fault given")
    simulate.add_argument("--shots", type=_count, default=12)
    simulate.add_argument("--seed", type=int, default=1, help="the same seed gives the same balls")
    simulate.add_argument("--club", default="7i")
    simulate.add_argument("--hand", choices=HANDS, default="right")
    simulate.add_argument("--handicap", type=float, default=14.0)
    simulate.add_argument("--club-speed", type=float, default=None, help="with a 7 iron [m/s]")
    simulate.add_argument("--learn", action="store_true", help="the golfer tries the new movement and learns it")
    simulate.add_argument("--aim", type=float, default=0.0, help="aims away by this much [°], golfer frame")
    simulate.add_argument("--speed", type=float, default=1.0, help="share of full speed")
    simulate.add_argument("--columns", choices=("all", "ball"), default="all", help="what the monitor measures")
    simulate.add_argument("--at", default="2026-05-04T09:00:00+00:00", help="moment of the first ball")
    return parser


def _count(text: str) -> int:
    value = int(text)
    if not 1 <= value <= 100_000:
        raise argparse.ArgumentTypeError(f"{text} is not a number of shots from 1 to 100000")
    return value


if __name__ == "__main__":
    sys.exit(main())

"""Checks and conversions shared by all documents."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from instavis_core.errors import InputError, is_one_of
from instavis_core.golfer import read_golfer
from instavis_core.knowledge import Club, vocabulary
from instavis_core.knowledge.clubs import LIES
from instavis_core.message import Message
from instavis_core.shots import Block, Shot, block_of, of_club, read_club, read_number, read_shots
from instavis_report.catalog import english


def plain(value: Any) -> Any:
    """Return an answer as JSON can hold it: finite numbers rounded to six places, messages in English."""
    if isinstance(value, dict):
        return {k: plain(v) for k, v in value.items()}
    if isinstance(value, list | tuple):
        return [plain(v) for v in value]
    if isinstance(value, Message):
        return english(value)
    if isinstance(value, float | np.floating):
        return round(float(value), 6) if math.isfinite(value) else None
    if isinstance(value, np.integer):
        return int(value)
    return bool(value) if isinstance(value, np.bool_) else value


def only(raw: dict[str, Any], names: tuple[str, ...]) -> None:
    """Reject fields that the document does not have."""
    for name, value in raw.items():
        if name not in names:
            raise InputError(name[:60], value, Message("common-one", known=", ".join(names)))


def numbers(raw: Any, where: str, names: tuple[str, ...], required: tuple[str, ...]) -> dict[str, float]:
    """Check the numbers of an object, including required ones."""
    if not isinstance(raw, dict):
        raise InputError(where, raw, Message("files-object", known=", ".join(names)))
    metrics = vocabulary().metrics
    values = {}
    for name, value in raw.items():
        if name not in names:
            raise InputError(f"{where}.{name}"[:80], value, Message("common-one", known=", ".join(names)))
        values[name] = read_number(f"{where}.{name}", value, metrics[name].range, metrics[name].unit)
    for name in required:
        if name not in values:
            raise InputError(f"{where}.{name}", None, Message("files-number", unit=metrics[name].unit))
    return values


def club_of(raw: dict[str, Any], shots: list[Shot]) -> Club:
    """Return the requested club, otherwise the only one in the shots, otherwise the mid iron of the effect tables."""
    lie = lie_of(raw)
    if raw.get("club") is not None:
        return read_club(raw["club"]).on(lie)
    named = {s.club for s in shots if s.club}
    if len(named) > 1:
        raise InputError("club", None, Message("files-club-read-shots-name", known=", ".join(sorted(named))))
    return vocabulary().clubs[named.pop() if named else "7i"].on(lie)


def lie_of(raw: dict[str, Any]) -> str:
    """Return the contact conditions: dry by default."""
    lie = "dry" if raw.get("lie") is None else raw["lie"]
    if not is_one_of(lie, LIES):
        raise InputError("lie", lie, Message("common-one", known=", ".join(LIES)))
    return str(lie)


def block_in(raw: dict[str, Any]) -> tuple[Block, int]:
    """Return the block of a document and how many balls of other clubs were left out."""
    golfer = read_golfer(raw.get("golfer"))
    shots = read_shots(raw.get("shots"))
    club = club_of(raw, shots)
    same, left_out = of_club(shots, club)
    return block_of(same, golfer, club), left_out


def blocks_in(raw: dict[str, Any]) -> list[Block]:
    """Return the blocks of a document by club: the requested one, then the others in order of their first ball."""
    golfer = read_golfer(raw.get("golfer"))
    shots = read_shots(raw.get("shots"))
    first = club_of(raw, shots)
    clubs = dict.fromkeys([first.id, *(s.club for s in shots if s.club)])
    known = vocabulary().clubs
    lie = lie_of(raw)
    return [block_of([s for s in shots if (s.club or first.id) == c], golfer, known[c].on(lie)) for c in clubs]


def with_left_out(answer: dict[str, Any], left_out: int) -> dict[str, Any]:
    """Add a note on the balls of other clubs."""
    if left_out:
        answer["notes"].append(english(Message("files-other-clubs-left-out", count=left_out)))
    return answer

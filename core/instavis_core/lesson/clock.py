"""The lesson clock: minutes for each station, and when to move on."""

from __future__ import annotations

import functools
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from importlib import resources
from typing import Any

from instavis_core.errors import InputError
from instavis_core.message import NOTHING, Message

SHORTEST, LONGEST = 15, 240  # minutes of a lesson
STATIONS = {
    "ask": Message("lesson-ask"),
    "baseline": Message("lesson-baseline"),
    "check": Message("lesson-check"),
    "cause": Message("lesson-cause"),
    "correct": Message("lesson-correct"),
    "prove": Message("lesson-prove"),
    "take-home": Message("lesson-take-home"),
}
"""The stations in words, in the order of the work."""


@dataclass(frozen=True)
class Box:
    """A station's start and end, in minutes from the start of the lesson."""

    station: str
    begins: float
    ends: float


@dataclass(frozen=True)
class Clock:
    """The minutes of each station, and the current advice (empty for none)."""

    minutes: int
    boxes: list[Box]
    advice: Message


@functools.lru_cache(maxsize=1)
def _shares() -> tuple[dict[str, Any], ...]:
    text = (resources.files("instavis_core.knowledge") / "data" / "clock.toml").read_text(encoding="utf-8")
    return tuple(tomllib.loads(text)["box"])


def lesson_clock(minutes: int, station: str, elapsed: float, ready: Mapping[str, bool]) -> Clock:
    """Divide a lesson into minutes for each station and give advice on the current one.

    Parameters
    ----------
    minutes : int
        Length of the lesson, 15 to 240.
    station : str
        Where the lesson is.
    elapsed : float
        Minutes since it began.
    ready : mapping of bool
        By station: whether it has what the next ones need.

    Raises
    ------
    InputError
        For a length out of range.
    """
    if not SHORTEST <= minutes <= LONGEST:
        raise InputError(
            "minutes",
            minutes,
            Message("lesson-length-minutes", shortest=SHORTEST, longest=LONGEST),
        )
    rows = _shares()
    wanted = [min(max(row["share"] * minutes, row["least"]), row["most"]) for row in rows]
    # Extra or missing time goes to proving, the purpose of the lesson.
    prove = next(i for i, row in enumerate(rows) if row["station"] == "prove")
    wanted[prove] = max(minutes - sum(w for i, w in enumerate(wanted) if i != prove), 0.42 * minutes)
    scale = minutes / sum(wanted)
    boxes, at = [], 0.0
    for row, size in zip(rows, wanted, strict=True):
        boxes.append(Box(row["station"], round(at, 1), round(at + scale * size, 1)))
        at += scale * size
    return Clock(minutes, boxes, _advice(boxes, station, elapsed, ready))


def _advice(boxes: list[Box], station: str, elapsed: float, ready: Mapping[str, bool]) -> Message:
    place = next((i for i, box in enumerate(boxes) if box.station == station), None)
    if place is None or place == len(boxes) - 1:
        return NOTHING
    following = STATIONS[boxes[place + 1].station]
    if ready.get(station) and station not in ("prove", "correct"):
        return Message("lesson-next", following=following)
    if elapsed > boxes[-1].begins and station != boxes[-1].station:
        return Message("lesson-write-take-home-page-now")
    if elapsed > boxes[place].ends + 1:
        return Message("lesson-planned-until-minute", ends=boxes[place].ends)
    return NOTHING

"""The golfer, and the one place where left-handers are mirrored.

Device frame: right of the target is positive for everyone. Golfer frame: positive is in-to-out, open,
push. For a right-hander the two are equal; for a left-hander every sideways metric changes its sign.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, TypeVar

import numpy as np

from instavis_core.errors import InputError
from instavis_core.knowledge import Skill, vocabulary
from instavis_core.message import Message

HANDS = ("right", "left")
TOE = "strike_toe_mm"  # the same for both hands, but depends on the monitor's hand setting


@dataclass(frozen=True)
class Golfer:
    """A golfer: hand and handicap (None when not known; plus handicaps are negative)."""

    hand: str = "right"
    handicap: float | None = None

    @property
    def side(self) -> int:
        """+1 for a right-hander, −1 for a left-hander."""
        return 1 if self.hand == "right" else -1

    @property
    def skill(self) -> Skill:
        """Return the tolerances for this golfer's level."""
        return vocabulary().skill_of(self.handicap)


def read_golfer(raw: Any) -> Golfer:
    """Read a golfer from a document; right-handed if not given.

    Raises
    ------
    InputError
        For an unknown hand or a handicap outside −10 to 60.
    """
    if raw is None:
        return Golfer()
    if not isinstance(raw, dict):
        raise InputError("golfer", raw, Message("shots-object-hand-handicap"))
    hand = raw.get("hand", "right")
    if hand not in HANDS:
        raise InputError("golfer.hand", hand, Message("common-right-left"))
    handicap = raw.get("handicap")
    if handicap is not None:
        good = isinstance(handicap, int | float) and not isinstance(handicap, bool) and -10 <= handicap <= 60
        if not good:
            raise InputError("golfer.handicap", handicap, Message("shots-number-10-60"))
        handicap = float(handicap)
    return Golfer(hand, handicap)


Values = TypeVar("Values", np.ndarray, float)


def mirror(metric: str, values: Values, golfer: Golfer) -> Values:
    """Device frame to golfer frame or back (it is its own inverse); values of any shape."""
    known = vocabulary().metrics.get(metric)
    return values * golfer.side if known is not None and known.mirrored else values


def for_other_hand(values: dict[str, float]) -> dict[str, float]:
    """Turn around the readings of a monitor that was set to the other hand: every sideways metric, and toe and heel."""
    metrics = vocabulary().metrics
    return {name: -v if metrics[name].mirrored or name == TOE else v for name, v in values.items()}

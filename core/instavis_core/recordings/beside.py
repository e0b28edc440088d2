"""Two recorded swings side by side: what differs at a moment, and whether it exceeds the error."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.knowledge import load_motion
from instavis_core.message import Message
from instavis_core.recordings.events import Moments
from instavis_core.recordings.grades import COMMON, value_at
from instavis_core.recordings.series import SwingSeries

NINETY = 1.645  # standard errors to either side that hold nine of ten


@dataclass(frozen=True, kw_only=True)
class Difference:
    """One quantity at one moment of two swings.

    ``range`` is the 90 % interval of the difference (now minus before), and ``clear`` is True if it excludes 0.
    """

    series: str
    label: Message
    unit: str
    at: str
    before: float
    now: float
    difference: float
    range: tuple[float, float]
    clear: bool


def differences(before: tuple[SwingSeries, Moments], now: tuple[SwingSeries, Moments]) -> list[Difference]:
    """Return the differences of two swings at every moment that both have, in the order of the motion table.

    Part of a recorder's error is the same in every swing of a golfer (`COMMON`) and cancels in the difference.
    """
    found = []
    motion = load_motion()
    for moment in (m for m in before[1].at if m in now[1].at):
        for name, series in motion.series.items():
            if name not in before[0].columns or name not in now[0].columns:
                continue
            (old, old_error), (new, new_error) = (value_at(swing, name, at, moment) for swing, at in (before, now))
            reach = NINETY * float(np.hypot(old_error, new_error) * np.sqrt(1 - COMMON**2))
            change = new - old
            found.append(
                Difference(
                    series=name,
                    label=series.label,
                    unit=series.unit,
                    at=moment,
                    before=old,
                    now=new,
                    difference=change,
                    range=(change - reach, change + reach),
                    clear=abs(change) > reach,
                )
            )
    return found

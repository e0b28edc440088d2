"""What starts down first: pelvis, chest or arms."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.recordings.events import Moments
from instavis_core.recordings.series import SwingSeries

PARTS = {"pelvis": "turn_deg", "chest": "chest_turn_deg", "arms": "arm_turn_deg"}
BEGUN = 0.06  # share of the way from the farthest turn to impact after which a part has started down
TOGETHER = 0.015  # s: a smaller difference is not an order


@dataclass(frozen=True)
class FirstMover:
    """When each part starts down.

    ``starts[part]`` [s] in order of time, and the answer to the check ``first-mover`` that follows.
    """

    starts: dict[str, float]
    grade: str


def first_movers(swing: SwingSeries, moments: Moments) -> FirstMover | None:
    """Return when pelvis, chest and arms start down; None without the pelvis and one other."""
    begin, end = moments.at["halfway-back"], moments.at["impact"]
    inside = (swing.time >= begin) & (swing.time <= end)
    starts = {}
    for part, name in PARTS.items():
        if name not in swing.columns or inside.sum() < 5:
            continue
        values, time = swing.columns[name][inside], swing.time[inside]
        low = int(values.argmin())
        gone = values[low:] - values[low]
        begun = np.flatnonzero(gone >= BEGUN * gone[-1])
        if gone[-1] > 0 and begun.size:
            starts[part] = float(time[low + begun[0]])
    if "pelvis" not in starts or len(starts) < 2:
        return None
    upper = min(t for part, t in starts.items() if part != "pelvis")
    gap = upper - starts["pelvis"]
    grade = "together" if abs(gap) < TOGETHER else "pelvis" if gap > 0 else "shoulders-arms"
    return FirstMover(dict(sorted(starts.items(), key=lambda item: item[1])), grade)

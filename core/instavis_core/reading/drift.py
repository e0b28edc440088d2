"""Detect whether the block drifts: warm-up, fatigue, creep.

Spearman's rank correlation with the order of the balls tests whether it does (t approximation, Kendall & Gibbons, Rank
Correlation Methods, 1990, ch. 4); the robust centers of the first, second and last third say how much and when.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.special import stdtr

from instavis_core.knowledge import vocabulary
from instavis_core.message import Message, Quantity
from instavis_core.reading.robust import huber_centre, robust_spread

MIN_BALLS = 9
CALLED_AT = 0.01  # two-sided p for one metric
WATCHED = ("club_speed_mps", "path_deg", "face_deg", "attack_deg", "strike_toe_mm", "launch_direction_deg")
WORTH = 0.75  # of the golfer's tolerance; a smaller drift is ignored


@dataclass(frozen=True, kw_only=True)
class Drift:
    """A metric that moved within the block, golfer frame, its own unit.

    ``size`` is last third minus first third; ``kind`` is warming-up (it settled after the first third), tiring (club
    speed fell) or creeping.
    """

    metric: str
    size: float
    p: float
    kind: str
    text: Message


def find_drifts(columns: dict[str, np.ndarray], tolerance: dict[str, float]) -> list[Drift]:
    """Find drifts of some metrics over a block's clean balls in hitting order, clearest first."""
    drifts = [d for m in columns if (d := _drift(m, columns[m], tolerance.get(m, 0.0))) is not None]
    return sorted(drifts, key=lambda d: d.p)


def _drift(metric: str, values: np.ndarray, tolerance: float) -> Drift | None:
    values = values[~np.isnan(values)]
    n = values.size
    if n < MIN_BALLS:
        return None
    p = rank_p(values)
    early, middle, late = (huber_centre(part, robust_spread(part)) for part in np.array_split(values, 3))
    size = late - early
    if p >= CALLED_AT or abs(size) < WORTH * tolerance:
        return None
    kind = "creeping"
    if abs(middle - early) > 2.5 * abs(late - middle):
        kind = "warming-up"
    elif metric == "club_speed_mps" and size < 0:
        kind = "tiring"
    known = vocabulary().metrics[metric]
    moved = Message("size", size=Quantity(abs(size), known.unit))
    if known.kind == "speed":  # a share says more about a swing than a number of m/s
        moved = Message("size-percent", size=100 * abs(size) / max(abs(early), 1e-9))
    toward = (known.plus if size > 0 else known.minus) or ("up" if size > 0 else "down")
    ends = {
        "warming-up": Message("baseline-settled-after-first-third-warm"),
        "tiring": Message("baseline-tiring-easing-off"),
        "creeping": Message("baseline-pattern-moves-while-being-measured"),
    }
    text = Message(
        "baseline-moved-within-block",
        label=known.label,
        moved=moved,
        toward=toward,
        ends=ends[kind],
    )
    return Drift(metric=metric, size=float(size), p=float(p), kind=kind, text=text)


def rank_p(values: np.ndarray) -> float:
    """Return the two-sided p of Spearman's correlation of values (n,) with their order."""
    n = values.size
    order = np.arange(n)
    ranks = np.empty(n)
    ranks[np.argsort(values, kind="stable")] = order
    _, same, count = np.unique(values, return_inverse=True, return_counts=True)
    if count.max() > 1:
        ranks = (np.bincount(same, ranks) / count)[same]  # equal values share their ranks
    centred, position = ranks - ranks.mean(), order - order.mean()
    size = np.sqrt((centred**2).sum() * (position**2).sum())
    if size <= 0:
        return 1.0
    rho = float(np.clip((centred * position).sum() / size, -0.999999, 0.999999))
    return float(2 * stdtr(n - 2, -abs(rho) * np.sqrt((n - 2) / (1 - rho**2))))

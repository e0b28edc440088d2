"""What a proof needs from the baseline; cached, because it is needed after every ball."""

from __future__ import annotations

import threading
from dataclasses import dataclass

import numpy as np

from instavis_core.knowledge import vocabulary
from instavis_core.proof.change import MIN_NOISE, RunningChange
from instavis_core.proof.correction import Correction
from instavis_core.proof.pattern import Pattern, pattern_of
from instavis_core.reading import clean_balls
from instavis_core.reading.completion import complete
from instavis_core.reading.drift import find_drifts
from instavis_core.reading.robust import median, summarise
from instavis_core.shots import Block

BAND_BALLS = 3
MAX_REMEMBERED = 256
_remembered: dict[tuple[object, ...], Baseline] = {}
_lock = threading.Lock()


@dataclass(frozen=True, kw_only=True)
class Baseline:
    """The clean balls and what follows from them.

    The usual smash factor is None if unknown. The running change is that of the primary number; the same for the
    fault's whole pattern is None if too little was measured. On some of the ``known`` balls the primary number is
    inferred. ``drift`` is how far it moved during the baseline, 0 for none. ``speed`` is the club speed of a typical
    ball [m/s], None if too few balls have it. ``band`` is the median minus and plus one spread of every club and ball
    metric that three clean balls have.
    """

    clean: Block
    usual_smash: float | None
    running: RunningChange
    pattern: Pattern | None
    running_pattern: RunningChange | None
    known: int
    inferred: int
    drift: float
    band: dict[str, tuple[float, float]]
    speed: float | None

    def full_speed(self, stage: str | None) -> float | None:
        """Return the club speed [m/s] that a stage's shares refer to; None if unknown.

        A baseline hit at the stage itself says nothing about full speed.
        """
        return None if all(s == stage for s in self.clean.stage) and stage else self.speed


def baseline_of(block: Block, correction: Correction, aside: frozenset[int] = frozenset()) -> Baseline:
    """Return the baseline for a correction's proof; cached by its inputs.

    Parameters
    ----------
    block : Block
        Golfer frame.
    correction : Correction
    aside : frozenset of int
        0-based balls the coach excluded.
    """
    columns = b"".join(values.tobytes() for values in block.columns.values())
    key: tuple[object, ...] = (block.golfer, block.club, columns, block.turf, block.by_hand, block.pivot, aside)
    key += (correction.primary, tuple(correction.pattern.items()))
    known = _remembered.get(key)
    if known is None:
        known = _read(block, correction, aside)
        with _lock:  # several requests prove at once, and each may be the one that evicts an entry
            while len(_remembered) >= MAX_REMEMBERED:
                del _remembered[next(iter(_remembered))]
            _remembered[key] = known
    return known


def _read(block: Block, correction: Correction, aside: frozenset[int]) -> Baseline:
    clean = block.keep(clean_balls(block, aside))
    columns = complete(clean, check_readings=False).columns
    values = columns[correction.primary]
    there = ~np.isnan(values)
    pattern = pattern_of(correction.pattern, columns, block.golfer.skill.scatter)
    pattern_values = pattern.values(columns) if pattern else np.zeros(0)
    noise = vocabulary().metrics[correction.primary].noise
    smash = clean.column("ball_speed_mps") / clean.column("club_speed_mps")
    smash = smash[~np.isnan(smash)]
    speed = clean.column("club_speed_mps")
    speed = speed[~np.isnan(speed)]
    return Baseline(
        clean=clean,
        usual_smash=median(smash) if smash.size >= 3 else None,
        running=RunningChange(values[there], MIN_NOISE * noise),
        pattern=pattern,
        running_pattern=RunningChange(pattern_values[~np.isnan(pattern_values)], MIN_NOISE * pattern.noise)
        if pattern
        else None,
        known=int(there.sum()),
        drift=next((d.size for d in find_drifts({correction.primary: values}, block.golfer.skill.tolerance)), 0.0),
        inferred=int(np.isnan(clean.column(correction.primary)[there]).sum()),
        band=_band(columns),
        speed=median(speed) if speed.size >= BAND_BALLS else None,
    )


def _band(columns: dict[str, np.ndarray]) -> dict[str, tuple[float, float]]:
    band = {}
    for metric in vocabulary().metrics.values():
        values = columns.get(metric.id)
        if metric.lane not in ("club", "ball") or values is None or np.count_nonzero(~np.isnan(values)) < BAND_BALLS:
            continue
        result = summarise(values)
        spread = result.spread or 0.0
        band[metric.id] = (round(result.centre - spread, 2), round(result.centre + spread, 2))
    return band

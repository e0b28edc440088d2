"""The pivot lane: what an instrument measured on every ball, the gate, and the effect.

The mark of a drill names a series of the body at a moment. The size of a full movement follows from what the fault adds
to the sound motion there and from the student's own baseline. A ball that goes most of that way has the movement; one
that goes less than a third does not. The gate is set before the first ball of the stage, and no ball moves it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.special import ndtr

from instavis_core.cause.likelihood import SEVERITY
from instavis_core.knowledge import load_motion
from instavis_core.knowledge.model import Observed
from instavis_core.message import Message
from instavis_core.proof.correction import RELIEF
from instavis_core.reading.robust import median, robust_spread
from instavis_core.shots import Block, PivotValue
from instavis_core.terms import MarkBasis, Movement

DONE_FROM, FAR = 0.6, 1.7  # of a full movement (assumption; rates in `validate pivot`)
PARTLY_FROM = (0.3, 0.5)  # offset of the gate for the scatter of the baseline, within these limits
OWN_BOUNDS = (0.5, 1.5)  # of what the fault usually adds: limits for a student's own baseline
MIN_BASELINE = 3  # measured balls for a student's own median
MIN_ADDED = 2.0  # instrument errors: a smaller fault cannot be measured
GUARD_ERRORS = 3.0
MIN_SHARP = 2.0  # spreads of the baseline in a full movement: below it, a mark would often be chance
SURE = 0.9  # probability of a mark below which it is close


@dataclass(frozen=True, kw_only=True)
class PivotGate:
    """The gate of the movement.

    ``centre`` and ``band`` are those of the baseline's ``balls`` that were measured; with none, they come from the
    table. ``reach`` is a full movement from there, signed; ``gate`` its window; ``partly`` the edge from which it
    counts as partly made. ``blunt`` is true if the baseline scatters too much for marks; the values still count for the
    slope. Units are those of the series.
    """

    series: str
    label: Message
    unit: str
    at: str
    since: str
    centre: float
    band: tuple[float, float]
    balls: int
    reach: float
    gate: tuple[float, float]
    partly: float
    blunt: bool
    guards: dict[str, tuple[float, float]]

    def dose(self, value: float) -> float:
        """Return the value as a share of the full movement: 0 at the baseline, 1 for all of it."""
        return (value - self.centre) / self.reach


@dataclass(frozen=True, kw_only=True)
class PivotMark:
    """A ball's mark by an instrument, None for a blunt gate.

    ``close`` is true if its error leaves the mark open; ``broken`` names a violated limit.
    """

    value: float
    error: float
    mark: Movement | None
    close: bool
    broken: str


def pivot_gate(
    observed: Observed, fault: str, baseline: Sequence[PivotValue], severity: float | None = None
) -> PivotGate | None:
    """Return the gate for a drill's movement.

    Parameters
    ----------
    seen : Seen
        What the mark is about.
    fault : str
        The fault that the drill should remove.
    baseline : sequence of PivotValue
        Of the baseline's balls, as far as they were measured.
    severity : float, optional
        How strong the fault is held to be; a usual one when left out.

    Returns
    -------
    PivotGate or None
        None where the fault does not show in this series at this moment.
    """
    motion = load_motion()
    series = motion.series[observed.series]
    added = _between(motion.adds.get(fault, {}).get(observed.series, np.zeros(len(motion.moments))), observed)
    usual = added * (SEVERITY if severity is None else max(severity, 0.3))
    if abs(added) * SEVERITY < MIN_ADDED * series.noise:
        return None
    sound, values = _between(series.sound, observed), np.array([b.value for b in baseline])
    own = values.size >= MIN_BASELINE
    centre = median(values) if own else sound + usual
    share = (centre - sound) / usual if own else 1.0
    reach = -RELIEF * usual * float(np.clip(share, *OWN_BOUNDS))
    spread = robust_spread(values) if own else abs(usual) / 3
    near, far = sorted((centre + DONE_FROM * reach, centre + FAR * reach))
    return PivotGate(
        series=observed.series,
        label=series.label,
        unit=series.unit,
        at=observed.at,
        since=observed.since,
        centre=float(centre),
        band=(float(centre - spread), float(centre + spread)),
        balls=int(values.size) if own else 0,
        reach=reach,
        gate=(near, far),
        partly=float(centre + reach * np.clip(spread / abs(reach), *PARTLY_FROM)),
        blunt=bool(abs(reach) < MIN_SHARP * spread),
        guards=_guards(observed, fault, baseline) if own else {},
    )


def pivot_mark(gate: PivotGate, observed: PivotValue) -> PivotMark:
    """Classify the movement as done, partly or missed; a violated limit means partly at most."""
    if gate.blunt:
        return PivotMark(value=observed.value, error=observed.error, mark=None, close=True, broken="")
    dose, error = gate.dose(observed.value), abs(observed.error / gate.reach)
    partly = gate.dose(gate.partly)
    mark = Movement.DONE if dose >= DONE_FROM else Movement.PARTLY if dose >= partly else Movement.MISSED
    edges = {
        Movement.DONE: (DONE_FROM, np.inf),
        Movement.PARTLY: (partly, DONE_FROM),
        Movement.MISSED: (-np.inf, partly),
    }
    low, high = edges[mark]
    sure = float(ndtr((high - dose) / error) - ndtr((low - dose) / error)) if error else 1.0
    others = dict(observed.others)
    broken = next((g for g, (a, b) in gate.guards.items() if g in others and not a <= others[g] <= b), "")
    if broken and mark == Movement.DONE:
        mark = Movement.PARTLY
    return PivotMark(value=observed.value, error=observed.error, mark=mark, close=sure < SURE, broken=broken)


def marked(block: Block, marks: Sequence[PivotMark | None], gate: PivotGate | None) -> Block:
    """Add instrument marks where there are none; a coach's marks stay.

    A blunt gate makes no marks; the measured values are then the dose.
    """
    if gate is None or not any(marks):
        return block
    if gate.blunt:
        pairs = zip(by_coach(block), marks, strict=True)
        doses = [
            np.nan if result or not mark else float(np.clip(gate.dose(mark.value), 0, 1)) for result, mark in pairs
        ]
        return replace(block, measured_doses=tuple(doses))
    own = [mark.mark if mark and not result else None for result, mark in zip(by_coach(block), marks, strict=True)]
    return replace(
        block,
        movement=tuple(mark or result for mark, result in zip(own, block.movement, strict=True)),
        basis=tuple(MarkBasis.MEASURED if mark else basis for mark, basis in zip(own, _basis(block), strict=True)),
    )


def by_coach(block: Block) -> tuple[str | None, ...]:
    """Return the coach's own marks, (n,); None where there is none."""
    pairs = zip(block.movement, _basis(block), strict=True)
    return tuple(None if basis == MarkBasis.MEASURED else mark for mark, basis in pairs)


def _basis(block: Block) -> tuple[str | None, ...]:
    return block.basis or (None,) * len(block)


def _between(row: np.ndarray, observed: Observed) -> float:
    """Return a row of the motion table at a moment, relative to another one if given."""
    motion = load_motion()
    start = row[motion.place(observed.since)] if observed.since else 0.0
    return float(row[motion.place(observed.at)] - start)


def _guards(observed: Observed, fault: str, baseline: Sequence[PivotValue]) -> dict[str, tuple[float, float]]:
    """Return limits about the baseline's median, as wide as its scatter plus half of the fault's effect, and wider on
    the side to which the movement removes the fault.
    """
    motion, windows = load_motion(), {}
    for name in observed.guards:
        values = np.array([dict(b.others)[name] for b in baseline if name in dict(b.others)])
        if values.size < MIN_BASELINE:
            continue
        usual = float(np.median([np.abs(adds[name]).max() for adds in motion.adds.values() if name in adds]))
        half = max(GUARD_ERRORS * robust_spread(values), usual / 2)
        gone = -_between(motion.adds.get(fault, {}).get(name, np.zeros(len(motion.moments))), observed)
        windows[name] = (float(median(values) - half + min(gone, 0)), float(median(values) + half + max(gone, 0)))
    return windows

"""Turn values at the moments into proposed answers, by adjustable windows."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from instavis_core.knowledge import Check, Knowledge, load_motion
from instavis_core.knowledge.model import Observed, Window
from instavis_core.message import Message
from instavis_core.recordings.events import Moments
from instavis_core.recordings.order import FirstMover, first_movers
from instavis_core.recordings.series import SwingSeries
from instavis_core.shots import PivotValue

COMMON = 0.5  # share of a value's error common to every swing: a belt worn askew, biased moments (assumption)
ALIKE_SECONDS = 0.16
"""Camera errors t seconds apart correlate by exp(−(t/0.16)²): .73 from top to transition (sample bodies)."""
CLOSE = 2.0  # standard errors from a bound within which an answer is close


@dataclass(frozen=True, kw_only=True)
class Reading:
    """A value used by a window, with its error (one SD) and its bound.

    ``axis`` says what a positive value means; ``grade`` is the answer beyond the bound.
    """

    series: str
    label: Message
    axis: Message
    grade: str
    unit: str
    at: str
    since: str
    value: float
    error: float
    bound: float


@dataclass(frozen=True, kw_only=True)
class Proposal:
    """A proposed answer to a check; ``close`` if a bound is within two errors of a value.

    The first of the ``readings`` decides: the one beyond its bound, or the nearest to its bound if all are within.
    """

    check: str
    grade: str
    close: bool
    readings: list[Reading]
    swings: int = 1
    agree: int = 1


def propose(knowledge: Knowledge, swing: SwingSeries, moments: Moments) -> list[Proposal]:
    """Propose answers for every check that the recorded series allow, in the order of the checks."""
    windows: dict[str, list[Window]] = {}
    for window in knowledge.windows.values():
        windows.setdefault(window.look, []).append(window)
    proposals = {}
    for check, rows in windows.items():
        if all(row.series in swing.columns for row in rows):
            proposals[check] = _graded(knowledge.checks[check], rows, swing, moments)
    order = first_movers(swing, moments)
    if order is not None:
        proposals["first-mover"] = _ordered(order, moments)
    return [proposals[check] for check in knowledge.checks if check in proposals]


def joined(knowledge: Knowledge, swings: Sequence[Sequence[Proposal]]) -> list[Proposal]:
    """Combine several swings into one proposal for each check: the most frequent answer; ``close`` near a bound or
    unless two thirds agree.
    """
    by_check: dict[str, list[Proposal]] = {}
    for proposals in swings:
        for proposal in proposals:
            by_check.setdefault(proposal.check, []).append(proposal)
    return [_joined(by_check[check]) for check in knowledge.checks if check in by_check]


def _joined(proposals: list[Proposal]) -> Proposal:
    grade, agree = Counter(p.grade for p in proposals).most_common(1)[0]
    readings = []
    for first in proposals[0].readings:
        values = [r.value for p in proposals for r in p.readings if _same_window(r, first)]
        surer = max(1 / np.sqrt(len(values)), COMMON)
        readings.append(replace(first, value=float(np.median(values)), error=first.error * surer))
    near = any(abs(r.value - r.bound) < CLOSE * r.error for r in readings)
    close = near or agree < 2 * len(proposals) / 3
    return Proposal(
        check=proposals[0].check,
        grade=grade,
        close=close,
        readings=_deciding_first(readings, grade),
        swings=len(proposals),
        agree=agree,
    )


def _same_window(one: Reading, other: Reading) -> bool:
    return (one.series, one.at, one.since, one.grade) == (other.series, other.at, other.since, other.grade)


def _deciding_first(readings: list[Reading], grade: str) -> list[Reading]:
    """Return the readings with the deciding one first, then by distance to their bound."""
    return sorted(readings, key=lambda r: (r.grade != grade, abs(r.value - r.bound) / max(r.error, 1e-9)))


def _graded(check: Check, rows: list[Window], swing: SwingSeries, moments: Moments) -> Proposal:
    readings = [_reading(row, swing, moments) for row in rows]
    holds: dict[str, bool] = {}
    for row, reading in zip(rows, readings, strict=True):
        holds[row.grade] = holds.get(row.grade, True) and row.holds(reading.value)
    grade = next((g for g, held in holds.items() if held), check.grades[0])
    close = any(abs(r.value - r.bound) < CLOSE * r.error for r in readings)
    return Proposal(check=check.id, grade=grade, close=close, readings=_deciding_first(readings, grade))


def pivot_value(observed: Observed, swing: SwingSeries, moments: Moments) -> PivotValue | None:
    """Return a recorded swing's value for a drill's movement; None if its instrument does not measure it."""
    if observed.series not in swing.columns:
        return None
    value, error = _change(swing, observed.series, moments, observed.at, observed.since)
    others = [
        (g, _change(swing, g, moments, observed.at, observed.since)[0]) for g in observed.guards if g in swing.columns
    ]
    return PivotValue(value=value, error=error, others=tuple(others))


def _reading(row: Window, swing: SwingSeries, moments: Moments) -> Reading:
    series = load_motion().series[row.series]
    value, error = _change(swing, row.series, moments, row.at, row.since)
    return Reading(
        series=row.series,
        label=series.label,
        axis=series.axis,
        grade=row.grade,
        unit=series.unit,
        at=row.at,
        since=row.since,
        value=value,
        error=error,
        bound=row.bound,
    )


def _change(swing: SwingSeries, name: str, moments: Moments, at: str, since: str) -> tuple[float, float]:
    """Return a series at a moment, relative to another one if given, and its error.

    Camera errors close in time are similar and cancel in a change; sensor errors are independent.
    """
    value, error = value_at(swing, name, moments, at)
    if not since:
        return value, error
    before, other = value_at(swing, name, moments, since)
    seconds_between = (moments.at[at] - moments.at[since]) / ALIKE_SECONDS
    alike = np.exp(-(seconds_between**2)) if name in swing.errors else 0.0
    return value - before, float(np.sqrt(error**2 + other**2 - 2 * alike * error * other))


def value_at(swing: SwingSeries, name: str, moments: Moments, at: str) -> tuple[float, float]:
    """Return a series at a moment and one SD of its error, including the error of the moment times the slope."""
    time = moments.at[at]
    noise = swing.error(name, at, load_motion().series[name].noise)
    slope = (swing.at(name, time + 0.01) - swing.at(name, time - 0.01)) / 0.02
    return swing.at(name, time), float(np.hypot(noise, slope * moments.error[at]))


def _ordered(order: FirstMover, moments: Moments) -> Proposal:
    starts = order.starts
    upper = min(t for part, t in starts.items() if part != "pelvis")
    gap = 1000 * (upper - starts["pelvis"])
    reading = Reading(
        series="first_mover",
        label=Message("recordings-pelvis-before-chest-arms"),
        axis=Message("recordings-before-chest-arms"),
        grade=order.grade,
        unit="ms",
        at="transition",
        since="",
        value=gap,
        error=8.0,
        bound=15.0,
    )
    return Proposal(
        check="first-mover", grade=order.grade, close=abs(abs(gap) - 15.0) < CLOSE * 4.0, readings=[reading]
    )

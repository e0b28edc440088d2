"""How a number depends on the body, shot by shot: a slope that holds at any time.

The number is regressed on the measured pivot, over baseline and stage together, with a separate mean for the stage to
absorb whatever else is new there. Instrument error shrinks a slope, so it is divided by the share of the pivot's
scatter that belongs to the body (Fuller, Measurement Error Models, 1987, ch. 1); the uncertainty of that share widens
the interval.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.knowledge.model import Metric
from instavis_core.knowledge.motion import Series
from instavis_core.message import Message, signed
from instavis_core.proof.change import FORM_SD, MIN_NOISE, RunningChange

OWN_ERROR = 0.75  # share of an instrument's error variance that varies by ball; the rest is common (assumption)
MIN_OWN = 0.4  # share of the pivot's scatter that must be the body's own; below it there is no slope
MIN_BALLS = 6
STEPS = {"cm": (2.0, " cm"), "°": (10.0, "°"), "": (0.1, " %")}
"""The step that a slope is shown for, by the unit of the series."""


@dataclass(frozen=True, kw_only=True)
class Slope:
    """Change of the primary number per unit of the pivot, golfer frame, with its always-valid interval.

    It is None while unknown; ``sentence`` says why. ``evidence`` is an e-value that there is a slope in the direction
    of the correction; ``own`` is the share of the pivot's scatter that is not instrument error; ``balls`` are the
    stage's balls with both values.
    """

    estimate: float | None
    low: float | None
    high: float | None
    confidence: float
    evidence: float
    own: float
    balls: int
    baseline_balls: int
    unit: str
    sentence: Message

    @property
    def clear(self) -> bool:
        """Return True if the interval excludes zero."""
        return self.low is not None and self.high is not None and self.low * self.high > 0


@dataclass(frozen=True, kw_only=True)
class Pairs:
    """Number and pivot of the same balls, arrays (n,), NaN where unknown; ``errors`` of the pivot (one SD)."""

    values: np.ndarray
    pivot: np.ndarray
    errors: np.ndarray

    def known(self) -> Pairs:
        """Return the balls that have both."""
        there = ~np.isnan(self.values) & ~np.isnan(self.pivot)
        return Pairs(values=self.values[there], pivot=self.pivot[there], errors=self.errors[there])


def slope_of(
    baseline: Pairs, stage: Pairs, metric: Metric, series: Series, movement: int, sign: int, confidence: float = 0.95
) -> Slope:
    """Return the slope after the last ball.

    Parameters
    ----------
    baseline, stage : Pairs
        Clean balls; golfer frame, the pivot in the unit of its series.
    metric : Metric
        The number.
    series : Series
        What the pivot is.
    movement, sign : int
        Which way the movement moves the pivot, and the correction wants the number.
    confidence : float
        Of the interval, at all looks together.
    """
    baseline, stage = baseline.known(), stage.known()
    everything = np.concatenate([baseline.pivot, stage.pivot])
    middle = float(everything.mean()) if everything.size else 0.0
    running = RunningChange(baseline.values, MIN_NOISE * metric.noise, baseline.pivot - middle)
    result = running.follow(stage.values, (stage.pivot - middle, FORM_SD)).of(0)
    n, known = stage.values.size, bool(result.known.size and result.known[-1])
    errors = np.concatenate([baseline.errors, stage.errors])
    noise = OWN_ERROR * float(np.mean(errors**2)) if errors.size else 0.0
    information = float(result.information[-1]) if known else 0.0
    own = max(1 - noise * (everything.size - 2) / information, 0.0) if information else 0.0
    estimate = low = high = None
    if known and own >= MIN_OWN and n >= MIN_BALLS:
        raw, half = float(result.estimate[-1]), float(result.half_width(confidence)[-1])
        estimate = raw / own
        if np.isfinite(half):
            doubt = (1 - own) / own * np.sqrt(2 / max(everything.size - 2, 1))
            wide = float(np.hypot(half / own, 2 * doubt * estimate))
            low, high = estimate - wide, estimate + wide
    sentence = _waits(own, n)
    if estimate is not None and low is not None and high is not None:
        sentence = _sentence(metric, series, movement, estimate, (low, high))
    return Slope(
        estimate=estimate,
        low=low,
        high=high,
        confidence=confidence,
        evidence=float(result.evidence(sign * movement)[-1]) if known else 1.0,
        own=own,
        balls=n,
        baseline_balls=baseline.values.size,
        unit=metric.unit,
        sentence=sentence,
    )


def _waits(own: float, balls: int) -> Message:
    """Return why there is no slope yet."""
    if balls and own < MIN_OWN:
        return Message("prove-pivot-varies-no-more-instruments")
    return Message("prove-balls-measured-slope-needs-more", n=balls)


def _sentence(metric: Metric, series: Series, movement: int, estimate: float, interval: tuple[float, float]) -> Message:
    """Describe in words what a step of the movement does."""
    step, unit = STEPS[series.unit]
    size = step * movement
    low, high = sorted(end * size for end in interval)
    result = {
        "series": series.label,
        "size": signed(size * (100 if unit == " %" else 1), unit.strip(), "+g"),
        "metric": metric.label.lower(),
        "change": signed(estimate * size, metric.unit),
        "low": signed(low, metric.unit),
        "high": signed(high, metric.unit),
    }
    if low * high > 0:
        return Message("prove-to", **result)
    return Message("prove-slope-not-clear-yet", **result)

"""The running change and an interval that stays valid however often it is looked at.

Baseline and stage are two normal samples with one unknown spread. Under "no change" the ratio of the
likelihoods of their t statistic, with a normal prior on the standardised change, is a non-negative
martingale as balls arrive, so the chance that it ever passes 1/α is at most α (Ville; Robbins 1970;
t version after Lai 1976 and Pérez-Ortiz, Lardy, de Heide & Grünwald, Ann. Statist. 52 (2024) 1410,
doi:10.1214/24-AOS2394; overview Ramdas et al., Stat. Sci. 38 (2023) 576, doi:10.1214/23-STS894).
Baseline and stage values are clipped to three robust spreads about their own middles first, so that a
few wild balls neither make nor break the case; error control with skew and mishits is measured in the
tests.
"""

from __future__ import annotations

import functools
from dataclasses import dataclass

import numpy as np
from scipy.special import stdtr

from instavis_core.reading.robust import median, robust_spread

PRIOR_VARIANCE = 2.0  # of the standardised change: looks for one to two spreads (assumption)
CLIP_FROM = 5  # balls before clipping starts
CLIP_AT = 3.0
LEAST_BASELINE = 3
LEAST_SCALE = 1e-6


@dataclass(frozen=True, kw_only=True)
class Change:
    """A change of the primary metric, golfer frame, its own unit; None where it cannot be said."""

    estimate: float | None
    low: float | None
    high: float | None
    confidence: float
    baseline_centre: float | None
    baseline_spread: float | None
    baseline_balls: int
    balls: int


class RunningChange:
    """Compares a fixed baseline with the balls of a stage.

    Parameters
    ----------
    baseline : array, shape (m,)
        Clean baseline values.
    sign : int
        Direction looked for: +1 or −1.
    """

    def __init__(self, baseline: np.ndarray, sign: int) -> None:
        self.baseline = clipped(np.asarray(baseline, float))
        self.sign = sign

    def compare(self, values: np.ndarray, confidence: float = 0.95) -> Change:
        """Change with its always-valid interval for stage values of shape (n,)."""
        m, n = self.baseline.size, len(values)
        centre = float(self.baseline.mean()) if m else None
        spread = float(self.baseline.std(ddof=1)) if m > 1 else None
        if not m or not n:
            return Change(
                estimate=None,
                low=None,
                high=None,
                confidence=confidence,
                baseline_centre=centre,
                baseline_spread=spread,
                baseline_balls=m,
                balls=n,
            )
        stage = clipped(np.asarray(values, float))
        estimate = float(stage.mean() - self.baseline.mean())
        half = self._half_width(stage, confidence)
        low, high = (estimate - half, estimate + half) if half is not None else (None, None)
        return Change(
            estimate=estimate,
            low=low,
            high=high,
            confidence=confidence,
            baseline_centre=centre,
            baseline_spread=spread,
            baseline_balls=m,
            balls=n,
        )

    def e_values(self, values: np.ndarray) -> list[float]:
        """Evidence for a change in the direction looked for, after every ball of a sequence (n,).

        20 or more happens by chance in at most 5 % of sequences, at whichever ball one looks.
        """
        if self.baseline.size < LEAST_BASELINE:
            return [1.0] * len(values)
        baseline, stage = self.baseline.tobytes(), np.asarray(values, float).tobytes()
        return [_evidence(baseline, self.sign, stage[: 8 * k]) for k in range(1, len(values) + 1)]

    def _half_width(self, stage: np.ndarray, confidence: float) -> float | None:
        """Half width of the confidence sequence; None while it is unbounded."""
        m, n = self.baseline.size, stage.size
        if m < LEAST_BASELINE:
            return None
        balance, freedom = m * n / (m + n), m + n - 2
        shrink = 1 + balance * PRIOR_VARIANCE
        bar = (np.sqrt(shrink) / (1 - confidence)) ** (2 / (freedom + 1))
        if bar >= shrink:
            return None
        t_squared = freedom * (bar - 1) / (1 - bar / shrink)
        return float(_scale(self.baseline, stage) * np.sqrt(t_squared / balance))


@functools.lru_cache(maxsize=20_000)
def _evidence(baseline: bytes, sign: int, values: bytes) -> float:
    """The e-value of stage values against a clipped baseline; remembered, because every ball is followed by
    a look at all counts of balls before it.
    """
    base, stage = np.frombuffer(baseline), clipped(np.frombuffer(values))
    m, n = base.size, stage.size
    balance, freedom = m * n / (m + n), m + n - 2
    t = sign * (stage.mean() - base.mean()) / _scale(base, stage) * np.sqrt(balance)
    shrink = 1 + balance * PRIOR_VARIANCE
    ratio = (1 + t * t / freedom) / (1 + t * t / (freedom * shrink))
    both = ratio ** ((freedom + 1) / 2) / np.sqrt(shrink)
    # Half-normal prior on the direction looked for: the two-sided ratio times twice the posterior
    # share on that side (a t tail; Gronau, Ly & Wagenmakers, Am. Stat. 74 (2020) 137).
    lean = t * np.sqrt(1 - 1 / shrink) / np.sqrt((1 + t * t / (freedom * shrink)) * freedom / (freedom + 1))
    return float(2 * both * stdtr(freedom + 1, lean))


def _scale(baseline: np.ndarray, stage: np.ndarray) -> float:
    squares = ((baseline - baseline.mean()) ** 2).sum() + ((stage - stage.mean()) ** 2).sum()
    return max(float(np.sqrt(squares / (baseline.size + stage.size - 2))), LEAST_SCALE)


def clipped(values: np.ndarray) -> np.ndarray:
    """Values pulled in to three robust spreads about their median, from five values on."""
    if values.size < CLIP_FROM:
        return values
    middle, spread = median(values), robust_spread(values)
    return np.clip(values, middle - CLIP_AT * spread, middle + CLIP_AT * spread) if spread > 0 else values

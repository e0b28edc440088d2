"""Robust center, spread and interval of a small sample.

Huber's M-estimate of location with MAD scale (Huber & Ronchetti, Robust Statistics, 2009, ch. 6);
small-sample factors for the MAD after Croux & Rousseeuw (1992).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.special import betaincinv, stdtrit

HUBER_K = 1.5
BORROWED_BALLS = 5  # worth of the usual spread of the level (assumption)
MAD_FACTORS = {2: 1.196, 3: 1.495, 4: 1.363, 5: 1.206, 6: 1.200, 7: 1.140, 8: 1.129, 9: 1.107}


@dataclass(frozen=True, kw_only=True)
class Centre:
    """Center, spread (one SD) and interval of a sample; NaN if the sample is too small."""

    n: int
    centre: float
    spread: float
    low: float
    high: float


def median(values: np.ndarray) -> float:
    """Return the median of a sample without gaps; faster than NumPy for the few balls of a block."""
    ordered = np.sort(values)
    half = ordered.size // 2
    return float(ordered[half]) if ordered.size % 2 else float(ordered[half - 1] + ordered[half]) / 2


def robust_spread(values: np.ndarray) -> float:
    """Return the consistent MAD [unit of the values], never 0 for values that differ; NaN below two values."""
    n = values.size
    if n < 2:
        return float("nan")
    mad = 1.4826 * median(np.abs(values - median(values)))
    factor = MAD_FACTORS.get(n, n / (n - 0.8))
    return mad * factor if mad > 0 else float(np.std(values, ddof=1))


def shrunk_spread(spread: float, n: int, usual: float) -> float:
    """Shrink the uncertain spread of n balls toward the usual one, which counts as five balls."""
    known = spread if np.isfinite(spread) else usual
    return float(np.sqrt(((n - 1) * known**2 + BORROWED_BALLS * usual**2) / (n - 1 + BORROWED_BALLS)))


def huber_centre(values: np.ndarray, spread: float) -> float:
    """Return Huber's location estimate with fixed scale; the median without a scale."""
    centre = median(values)
    if not spread > 0:
        return centre
    for _ in range(50):
        weight = np.minimum(1.0, HUBER_K * spread / np.maximum(np.abs(values - centre), 1e-12))
        moved = float((weight * values).sum() / weight.sum())
        if abs(moved - centre) < 1e-9 * spread:
            return moved
        centre = moved
    return centre


def huber_spread(values: np.ndarray) -> float:
    """Return the spread (one SD) for intervals.

    SD of values clipped to three robust spreads, for at least two values.
    """
    rough = robust_spread(values)
    if not rough > 0:
        return 0.0 if values.size > 1 else float("nan")
    middle = median(values)
    return float(np.std(np.clip(values, middle - 3 * rough, middle + 3 * rough), ddof=1))


def summarise(values: np.ndarray, confidence: float = 0.95) -> Centre:
    """Return the center with a t interval.

    Parameters
    ----------
    values : array, shape (n,)
        NaN are left out.
    confidence : float
        Of the interval [0 to 1].
    """
    values = values[~np.isnan(values)]
    n = int(values.size)
    nan = float("nan")
    if n == 0:
        return Centre(n=0, centre=nan, spread=nan, low=nan, high=nan)
    spread = huber_spread(values)
    centre = huber_centre(values, robust_spread(values))
    if n == 1:
        return Centre(n=1, centre=centre, spread=nan, low=nan, high=nan)
    half = float(stdtrit(n - 1, 0.5 + confidence / 2)) * spread / np.sqrt(n)
    return Centre(n=n, centre=centre, spread=spread, low=centre - half, high=centre + half)


def share_interval(hits: int, n: int, confidence: float) -> tuple[float | None, float | None, float | None]:
    """Return a share of n with Jeffreys' interval (Brown, Cai & DasGupta, Stat.

    Sci. 16 (2001) 101); Nones for n = 0.
    """
    if n == 0:
        return None, None, None
    tail = (1 - confidence) / 2
    low = 0.0 if hits == 0 else float(betaincinv(hits + 0.5, n - hits + 0.5, tail))
    high = 1.0 if hits == n else float(betaincinv(hits + 0.5, n - hits + 0.5, 1 - tail))
    return hits / n, low, high


def balls_for(spread: float, tolerance: float, confidence: float = 0.90) -> int:
    """Return how many balls make the interval's half width at most ``tolerance``; at most 1,000."""
    for n in range(3, 1000):
        if float(stdtrit(n - 1, 0.5 + confidence / 2)) * spread / np.sqrt(n) <= tolerance:
            return n
    return 1000

"""Is the miss one- or two-sided? One cluster of balls against two, by the Bayesian information criterion.

Two normal clusters with a common spread, fitted by expectation-maximisation from fixed starts (Fraley &
Raftery, J. Am. Stat. Assoc. 97 (2002) 611, doi:10.1198/016214502760047131).
"""

from __future__ import annotations

import numpy as np

LEAST_BALLS = 8
ROUNDS = 60


def two_sided_probability(values: np.ndarray, tolerance: float) -> float | None:
    """Probability that the values form two clusters on either side of the target.

    Parameters
    ----------
    values : array, shape (n,)
        Where each ball finished, as an angle [°]; NaN are left out.
    tolerance : float
        A cluster counts as a side when its centre is at least this far out [°].

    Returns
    -------
    float or None
        None below eight balls.
    """
    values = np.sort(values[~np.isnan(values)])
    n = values.size
    if n < LEAST_BALLS:
        return None
    floor = 0.15 * tolerance + 1e-6
    one = _log_likelihood(values, np.array([values.mean()]), max(values.std(), floor), np.array([1.0]))
    best, centres = -np.inf, (0.0, 0.0)
    for cut in range(max(2, n // 5), n - max(2, n // 5) + 1):
        fitted = _fit_two(values, cut, floor)
        if fitted[0] > best:
            best, centres = fitted
    gain = 2 * (best - one) - 2 * np.log(n)  # two more parameters
    probability = 1 / (1 + np.exp(-np.clip(gain / 2, -50, 50)))
    sides = min(centres) < -tolerance and max(centres) > tolerance
    return float(probability if sides else 0.1 * probability)


def _fit_two(values: np.ndarray, cut: int, floor: float) -> tuple[float, tuple[float, float]]:
    low, high = values[:cut], values[cut:]
    centres = np.array([low.mean(), high.mean()])
    spread = max(float(np.concatenate([low - centres[0], high - centres[1]]).std()), floor)
    share = np.array([low.size, high.size]) / values.size
    for _ in range(ROUNDS if values.size <= 60 else 10):
        weight = share * np.exp(-0.5 * ((values[:, None] - centres) / spread) ** 2)
        weight /= np.maximum(weight.sum(1, keepdims=True), 1e-300)
        total = np.maximum(weight.sum(0), 1e-9)
        moved = (weight * values[:, None]).sum(0) / total
        spread = max(float(np.sqrt((weight * (values[:, None] - moved) ** 2).sum() / values.size)), floor)
        share = total / values.size
        done = np.abs(moved - centres).max() < 1e-6
        centres = moved
        if done:
            break
    return _log_likelihood(values, centres, spread, share), (float(centres[0]), float(centres[1]))


def _log_likelihood(values: np.ndarray, centres: np.ndarray, spread: float, share: np.ndarray) -> float:
    z = (values[:, None] - centres) / spread
    density = (share * np.exp(-0.5 * z**2)).sum(1) / (spread * np.sqrt(2 * np.pi))
    return float(np.log(np.maximum(density, 1e-300)).sum())

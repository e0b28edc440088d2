"""Is the miss one- or two-sided?

One cluster against two, by the Bayesian information criterion. Two normal clusters with a common spread, fitted by
expectation maximization from every cut of the sorted values at once (Fraley & Raftery, J. Am. Stat. Assoc. 97 (2002)
611, doi:10.1198/016214502760047131), against the best single cluster of three shapes: normal, flat, and skewed (a
normal with two halves; Wallis, Stat. Sci. 29 (2014) 106). A dozen balls can separate two sides from one wide cluster
only with prior knowledge: the spread of a cluster is kept near the usual one of the level.
"""

from __future__ import annotations

import numpy as np
from scipy.special import expit

MIN_BALLS = 8
MAX_CUTS = 40
MAX_VALUES = 240  # more are reduced to as many quantiles
ROUNDS = 40
USUAL_WITHIN = 0.2  # how golfers' spreads differ at one level, log (assumption)
FACE_TO_FINISH = 1.3  # spread of where balls finish, as an angle, over that of the face (simulated golfers)
LOG_2_PI = float(np.log(2 * np.pi))


def two_sided_probability(values: np.ndarray, tolerance: float, usual: float) -> float | None:
    """Return the probability that the values form two clusters on either side of the target.

    Parameters
    ----------
    values : array, shape (n,)
        Where each ball finished, as an angle [°]; NaN are left out.
    tolerance : float
        A cluster counts as a side when its centre is at least this far out [°].
    usual : float
        Spread of one cluster that is usual at the level, one SD [°].

    Returns
    -------
    float or None
        None below eight balls.
    """
    values = np.sort(values[~np.isnan(values)])
    n = values.size
    if n < MIN_BALLS:
        return None
    each = 1.0
    if n > MAX_VALUES:
        values, each = np.quantile(values, (np.arange(MAX_VALUES) + 0.5) / MAX_VALUES), n / MAX_VALUES
    floor = 0.15 * tolerance + 1e-6
    two, centres, spread = _best_of_two(values, floor)
    two = each * two + _held(spread, usual)
    gains = [two - each * one - _held(width, usual) - (4 - k) / 2 * np.log(n) for one, width, k in _ones(values, floor)]
    probability = 1 / (1 + np.exp(-np.clip(min(gains), -50, 50)))
    sides = centres.min() < -tolerance and centres.max() > tolerance
    return float(probability if sides else 0.1 * probability)


def _held(spread: float, usual: float) -> float:
    """Return the log prior of a spread."""
    return float(-0.5 * (np.log(spread / usual) / USUAL_WITHIN) ** 2)


def _ones(values: np.ndarray, floor: float) -> list[tuple[float, float, int]]:
    """Fit single clusters, normal, flat and skewed: log likelihood (up to a constant), one SD, number of parameters."""
    n = values.size
    spread = max(float(values.std()), floor)
    width = max(float(values[-1] - values[0]) * (n + 1) / (n - 1), 3 * floor)
    sums, squares, below = values.cumsum(), (values**2).cumsum(), np.arange(1, n + 1)
    # About every value as the mode: squares to its left and right; the best two halves follow from them.
    left = np.maximum(squares - 2 * values * sums + below * values**2, 0.0)
    right = squares[-1] - squares - 2 * values * (sums[-1] - sums) + (n - below) * values**2
    right = np.maximum(right, 0.0)
    both = left ** (1 / 3) + right ** (1 / 3)
    halves = [np.maximum(np.sqrt(side ** (2 / 3) * both / n), floor) for side in (left, right)]
    skewed = -n * np.log((halves[0] + halves[1]) / 2) - 0.5 * (left / halves[0] ** 2 + right / halves[1] ** 2)
    return [
        (float(-0.5 * (((values - values.mean()) / spread) ** 2).sum() - n * np.log(spread)), spread, 2),
        (n * (LOG_2_PI / 2 - float(np.log(width))), width / np.sqrt(12), 2),
        (float(skewed.max()), spread, 3),
    ]


def _best_of_two(values: np.ndarray, floor: float) -> tuple[float, np.ndarray, float]:
    """Return the largest log likelihood of two clusters (up to the shared constant), their centers and spread.

    With a common spread the log odds of the sides are linear in the value, so one iteration is a logistic of (cuts,
    values) and two products.
    """
    n, middle = values.size, values.mean()
    values = values - middle
    squares = float(values @ values)
    least = max(2, n // 5)
    cuts = np.unique(np.linspace(least, n - least, min(MAX_CUTS, n - 2 * least + 1)).astype(int))
    upper = (np.arange(n) >= cuts[:, None]).astype(float)  # share of each value in the upper cluster
    for _ in range(ROUNDS):
        total = np.maximum(np.stack([n - upper.sum(1), upper.sum(1)]), 1e-9)  # (2, cuts)
        above = upper @ values
        centres = np.stack([values.sum() - above, above]) / total
        spread = np.maximum(np.sqrt(np.maximum(squares - (total * centres**2).sum(0), 0.0) / n), floor)
        slope = (centres[1] - centres[0]) / spread**2
        start = np.log(total[1] / total[0]) - (centres[1] ** 2 - centres[0] ** 2) / (2 * spread**2)
        odds = start[:, None] + slope[:, None] * values
        upper = expit(odds)
    lower = np.log(total[0] / n)[:, None] - 0.5 * ((values - centres[0][:, None]) / spread[:, None]) ** 2
    likelihood = (lower + np.logaddexp(0.0, odds)).sum(1) - n * np.log(spread)
    best = int(likelihood.argmax())
    return float(likelihood[best]), centres[:, best] + middle, float(spread[best])

"""Is the miss one- or two-sided? One cluster of balls against two, by the Bayesian information criterion.

Two normal clusters with a common spread, fitted by expectation-maximisation from every cut of the
sorted values at once (Fraley & Raftery, J. Am. Stat. Assoc. 97 (2002) 611,
doi:10.1198/016214502760047131).
"""

from __future__ import annotations

import numpy as np

LEAST_BALLS = 8
MOST_CUTS = 40
ROUNDS = 40


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
    spread = max(float(values.std()), floor)
    one = float(-0.5 * (((values - values.mean()) / spread) ** 2).sum() - n * np.log(spread))
    two, centres = _best_of_two(values, floor)
    gain = 2 * (two - one) - 2 * np.log(n)  # two more parameters
    probability = 1 / (1 + np.exp(-np.clip(gain / 2, -50, 50)))
    sides = centres.min() < -tolerance and centres.max() > tolerance
    return float(probability if sides else 0.1 * probability)


def _best_of_two(values: np.ndarray, floor: float) -> tuple[float, np.ndarray]:
    """Largest log likelihood of two clusters (up to the constant shared with one) and their centres."""
    n = values.size
    least = max(2, n // 5)
    cuts = np.unique(np.linspace(least, n - least, min(MOST_CUTS, n - 2 * least + 1)).astype(int))
    below = np.arange(n) < cuts[:, None]
    weight = np.stack([below, ~below], axis=2).astype(float)  # (cuts, n, 2)
    for _ in range(ROUNDS):
        total = np.maximum(weight.sum(1), 1e-9)
        centres = (weight * values[:, None]).sum(1) / total
        square = (values[:, None] - centres[:, None, :]) ** 2
        spread = np.maximum(np.sqrt((weight * square).sum((1, 2)) / n), floor)
        share = total / n
        density = share[:, None, :] * np.exp(-0.5 * square / spread[:, None, None] ** 2)
        mixed = np.maximum(density.sum(2, keepdims=True), 1e-300)
        weight = density / mixed
    likelihood = np.log(mixed[:, :, 0]).sum(1) - n * np.log(spread)
    best = int(likelihood.argmax())
    return float(likelihood[best]), centres[best]

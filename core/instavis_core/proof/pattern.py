"""The fault's whole pattern as one number: every number it moves, weighted by effect and scatter.

The weights are those of Fisher's linear discriminant (Ann. Eugenics 7 (1936) 179): the inverse covariance times the
predicted change. Scatter is the usual one of the level; correlations are the baseline's own, shrunk toward zero as far
as a dozen balls leave them open.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.knowledge import vocabulary

MIN_BALLS = 6
MIN_KNOWN = 0.8  # share of the baseline's balls that must have a number for it to take part
MIN_MOVE = 0.15  # of the usual scatter: what moves less says nothing
CORRELATION_BALLS = 15  # at which the baseline's own correlation counts half (assumption)


@dataclass(frozen=True, kw_only=True)
class Pattern:
    """Weights by metric.

    The weighted sum changes by spreads of its own, more if the movement removes the fault. ``noise`` is the
    instrument's error on one ball, in the same spreads.
    """

    weights: dict[str, float]
    noise: float

    def values(self, columns: dict[str, np.ndarray]) -> np.ndarray:
        """Return the pattern of every ball (n,) [spreads]; NaN if a ball lacks a part."""
        return sum((weight * columns[metric] for metric, weight in self.weights.items()), start=np.zeros(1))


def pattern_of(
    predicted: dict[str, float], baseline: dict[str, np.ndarray], scatter: dict[str, float]
) -> Pattern | None:
    """Build the pattern from what a baseline knows.

    Parameters
    ----------
    predicted : dict of float
        Change of every metric when the fault is removed, golfer frame.
    baseline : dict of arrays, shape (m,)
        Clean balls.
    scatter : dict of float
        Usual one-SD scatter of the level.

    Returns
    -------
    Pattern or None
        None when fewer than two numbers of it are known on enough balls.
    """
    metrics = [
        m
        for m, change in predicted.items()
        if m in scatter and abs(change) >= MIN_MOVE * scatter[m] and _known(baseline[m])
    ]
    if len(metrics) < 2:
        return None
    usual = np.array([scatter[m] for m in metrics])
    balls = np.stack([baseline[m] for m in metrics])
    correlation = _correlation(balls[:, ~np.isnan(balls).any(0)])
    covariance = correlation * np.outer(usual, usual)
    weights = np.linalg.solve(covariance, np.array([predicted[m] for m in metrics]))
    weights /= np.sqrt(weights @ covariance @ weights)
    errors = np.array([vocabulary().metrics[m].noise for m in metrics])
    return Pattern(
        weights={m: float(w) for m, w in zip(metrics, weights, strict=True)},
        noise=float(np.sqrt(((weights * errors) ** 2).sum())),
    )


def _known(values: np.ndarray) -> bool:
    known = np.count_nonzero(~np.isnan(values))
    return bool(known >= MIN_BALLS and known >= MIN_KNOWN * values.size)


def _correlation(balls: np.ndarray) -> np.ndarray:
    """Return the correlation of the rows, shrunk toward zero; zero for balls that do not differ."""
    p, n = balls.shape
    spread = balls.std(1)
    if n < MIN_BALLS or not (spread > 0).all():
        return np.eye(p)
    share = n / (n + CORRELATION_BALLS)
    return share * np.corrcoef(balls) + (1 - share) * np.eye(p)

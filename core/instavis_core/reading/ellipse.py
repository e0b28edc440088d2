"""Where nine of ten balls land: a robust ellipse of two metrics.

Center and scatter come from the maximum-likelihood fit of a bivariate t distribution with four degrees of freedom
(Kent, Tyler & Vardi, Commun. Stat. Simul. 23 (1994) 441), rescaled to the covariance of a normal sample; the size is
that of a prediction region for one more ball (Hotelling's T², Johnson & Wichern, Applied Multivariate Statistical
Analysis, 2007, ch. 5).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.special import fdtri

MIN_BALLS = 6
SHARE = 0.90
FREEDOM = 4.0
ROUNDS = 60
NORMAL_SHARE = 0.7267  # ratio of this fit's scatter to a normal sample's covariance (solves E[6u/(4+u)] = 2)


@dataclass(frozen=True)
class Ellipse:
    """Where nine of ten balls are expected; center and half axes in the metrics' units.

    ``angle_deg`` is that of the long axis from the x axis, counterclockwise.
    """

    x: str
    y: str
    centre_x: float
    centre_y: float
    half_long: float
    half_short: float
    angle_deg: float
    n: int


def robust_ellipse(x: np.ndarray, y: np.ndarray, names: tuple[str, str] = ("x", "y")) -> Ellipse | None:
    """The ellipse of two columns of shape (n,); balls with a NaN are left out; None below six balls."""
    points = np.stack([x, y], axis=1)
    points = points[~np.isnan(points).any(axis=1)]
    n = len(points)
    if n < MIN_BALLS:
        return None
    centre, scatter = _t_fit(points)
    values, vectors = np.linalg.eigh(scatter)
    size = 2 * (n * n - 1) / (n * (n - 2)) * float(fdtri(2, n - 2, SHARE))
    half = np.sqrt(np.maximum(values, 0.0) * size)
    long = vectors[:, 1]
    angle = float(np.degrees(np.arctan2(long[1], long[0])))
    angle = (angle + 90) % 180 - 90
    return Ellipse(*names, float(centre[0]), float(centre[1]), float(half[1]), float(half[0]), angle, n)


def _t_fit(points: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Fit a robust center (2,) and scatter (2, 2) to points (n, 2)."""
    centre = np.median(points, axis=0)
    spread = np.maximum(1.4826 * np.median(np.abs(points - centre), axis=0), 1e-9)
    scatter = np.diag(spread**2)
    floor = 1e-12 * np.diag(spread**2)
    for _ in range(ROUNDS):
        away = points - centre
        distance = np.einsum("ni,ij,nj->n", away, np.linalg.inv(scatter + floor), away)
        weight = (FREEDOM + 2) / (FREEDOM + distance)
        moved = (weight[:, None] * points).sum(0) / weight.sum()
        away = points - moved
        scatter = (weight[:, None] * away).T @ away / len(points)
        done = np.all(np.abs(moved - centre) < 1e-7 * spread)
        centre = moved
        if done:
            break
    return centre, scatter / NORMAL_SHARE

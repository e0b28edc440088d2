"""Reading: do intervals and ellipses cover, are drifts and two-sided misses told from chance?"""

from __future__ import annotations

import numpy as np

from instavis_core.reading.drift import CALLED_AT, rank_p
from instavis_core.reading.ellipse import robust_ellipse
from instavis_core.reading.robust import summarise
from instavis_core.reading.two_sided import two_sided_probability
from validation.report import Table

TRIALS = 2000
SIZES = (6, 8, 12, 24, 60)


def scatters(rng: np.random.Generator):
    """Three kinds of scatter, each a function of a shape, with mean 0 and about unit spread."""
    return {
        "normal": lambda shape: rng.normal(size=shape),
        "t6": lambda shape: rng.standard_t(6, shape) / np.sqrt(1.5),
        "5 % wild": lambda shape: rng.normal(size=shape) * np.where(rng.random(shape) < 0.05, 5, 1),
    }


def tables() -> list[Table]:
    """Coverage by sample size, and the tests' error rates."""
    rng = np.random.default_rng(41)
    rows = []
    for name, draw in scatters(rng).items():
        for n in SIZES:
            centres = [summarise(row) for row in draw((TRIALS, n))]
            covered = np.mean([c.low <= 0 <= c.high for c in centres])
            rows.append([name, n, f"{covered:.3f}", f"{_ellipse_share(draw, n):.3f}"])
    coverage = Table(
        "Share of 95 % intervals that hold the middle, of 90 % ellipses that hold the next ball",
        ["scatter", "balls", "interval", "ellipse"],
        rows,
    )
    return [coverage, _drifts(rng), _sides(rng)]


def _ellipse_share(draw, n: int) -> float:
    inside = []
    for _ in range(TRIALS // 4):
        points = draw((n + 1, 2)) @ np.array([[2.0, 1.0], [0.0, 1.0]])
        e = robust_ellipse(points[:n, 0], points[:n, 1])
        angle = np.radians(e.angle_deg)
        away = points[n] - [e.centre_x, e.centre_y]
        long, short = away @ [np.cos(angle), np.sin(angle)], away @ [-np.sin(angle), np.cos(angle)]
        inside.append((long / e.half_long) ** 2 + (short / e.half_short) ** 2 <= 1)
    return float(np.mean(inside))


def _drifts(rng: np.random.Generator) -> Table:
    rows = []
    for n in (9, 12, 24, 60):
        none = np.mean([rank_p(rng.normal(size=n)) < CALLED_AT for _ in range(TRIALS)])
        drift = np.linspace(0, 2, n)
        real = np.mean([rank_p(drift + rng.normal(size=n)) < CALLED_AT for _ in range(TRIALS)])
        rows.append([n, f"{none:.3f}", f"{real:.2f}"])
    return Table(
        "Drift called: without one, with two spreads over the block", ["balls", "no drift", "two spreads"], rows
    )


def _sides(rng: np.random.Generator) -> Table:
    rows = []
    for n in (8, 12, 24):
        one = np.mean([two_sided_probability(rng.normal(2, 3, n), 1.5) >= 0.5 for _ in range(400)])
        half = n // 2
        two = np.mean(
            [
                two_sided_probability(np.append(rng.normal(-6, 2, half), rng.normal(6, 2, n - half)), 1.5) >= 0.5
                for _ in range(400)
            ]
        )
        rows.append([n, f"{one:.3f}", f"{two:.2f}"])
    return Table(
        "Two-sided miss called: one cluster, two clusters 12° apart with spread 2°", ["balls", "one", "two"], rows
    )

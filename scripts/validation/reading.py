"""Reading: do intervals and ellipses cover, and are drifts and two-sided misses separated from chance?"""

from __future__ import annotations

import numpy as np

from instavis_core.reading.drift import CALLED_AT, rank_p
from instavis_core.reading.ellipse import robust_ellipse
from instavis_core.reading.robust import summarise
from instavis_core.reading.two_sided import two_sided_probability
from validation.report import Table

TRIALS = 2000
SIZES = (6, 8, 12, 24, 60)
USUAL = 2.6  # ° of finish, at a mid handicap


def scatters(rng: np.random.Generator):
    """Return three kinds of scatter, each a function of a shape, with mean 0 and about unit spread."""
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
        "Share of 95 % intervals that contain the center, and of 90 % ellipses that contain the next ball",
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

    def called(draw) -> float:
        result = [two_sided_probability(draw(), 1.5, USUAL) for _ in range(400)]
        return float(np.mean([p >= 0.5 for p in result]))

    for n in (8, 12, 24):
        sides = np.where(np.arange(n) < n // 2, -1.0, 1.0)
        shapes = (
            lambda n=n: rng.normal(0, 3, n),
            lambda n=n: (rng.gamma(2, 1, n) - 2) * 3 / np.sqrt(2),
            lambda n=n: rng.uniform(-5.2, 5.2, n),
            lambda n=n: rng.normal(0, 4, n),
            lambda sides=sides: 4 * sides + rng.normal(0, 2.5, sides.size),
            lambda sides=sides: 6 * sides + rng.normal(0, 2.0, sides.size),
        )
        rows.append([n, *(f"{called(draw):.2f}" for draw in shapes)])
    header = ["balls", "one, SD 3", "skewed", "flat", "wide, SD 4", "two, 8° apart, SD 2.5", "12° apart, SD 2"]
    return Table("Two-sided miss called where a spread of 2.6° is usual", header, rows)

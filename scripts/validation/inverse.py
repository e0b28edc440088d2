"""Inverse: how well unmeasured values are recovered, and whether wrong readings are named."""

from __future__ import annotations

import numpy as np

from instavis_core.impact import Delivery, infer_delivery, launch_of
from instavis_core.impact.inverse import CLUB_ERROR, DELIVERY_NAMES, LAUNCH_ERROR, LAUNCH_NAMES, PRIOR_SPREAD
from instavis_core.knowledge import vocabulary
from validation.report import Table

BALLS = 2000
GROSS = {
    "path_deg": 8.0,
    "face_deg": 8.0,
    "ball_speed_mps": 9.0,
    "launch_direction_deg": 7.0,
    "spin_axis_deg": 25.0,
    "strike_toe_mm": 25.0,
}


def drawn(rng: np.random.Generator, club, n: int) -> tuple[np.ndarray, np.ndarray]:
    """Draw true deliveries of n balls and readings of delivery and launch side by side, (n, 7) and (n, 12)."""
    middle = np.array([36.0, 0, 0, club.attack, club.usual_dynamic_loft, 0, 0])
    truth = middle + rng.normal(size=(n, 7)) * np.minimum(PRIOR_SPREAD, [3, 4, 3, 1.6, 2.5, 8, 5])
    launch = np.column_stack(launch_of(Delivery(*truth.T), club).columns())
    readings = np.hstack(
        [truth + rng.normal(size=(n, 7)) * CLUB_ERROR * 0.6, launch + rng.normal(size=(n, 5)) * LAUNCH_ERROR * 0.6]
    )
    return truth, readings


def tables() -> list[Table]:
    """Recovery by what was measured, and naming of gross errors."""
    return [_recovery(), _naming()]


def _recovery() -> Table:
    club, rng = vocabulary().clubs["7i"], np.random.default_rng(31)
    truth, readings = drawn(rng, club, BALLS)
    measured_columns = {
        "ball only": [],
        "ball and club speed": [0],
        "ball, path": [1],
        "club without strike": [0, 1, 2, 3, 4],
    }
    rows = []
    for name, columns in measured_columns.items():
        club_values = np.full((BALLS, 7), np.nan)
        club_values[:, columns] = readings[:, columns]
        fit = infer_delivery(club_values, readings[:, 7:], club)
        row = [name]
        for k in (1, 2, 4, 5):
            error = fit.mean[:, k] - truth[:, k]
            row.append(f"{np.sqrt(np.mean(error**2)):.2f} ({np.mean(np.abs(error) <= 1.96 * fit.sd[:, k]):.2f})")
        rows.append(row)
    header = ["measured", *(f"{DELIVERY_NAMES[k]}" for k in (1, 2, 4, 5))]
    return Table("Inferred delivery, 7 iron: root mean square error (share within the stated 95 %)", header, rows)


def _naming() -> Table:
    club, rng = vocabulary().clubs["7i"], np.random.default_rng(32)
    _, readings = drawn(rng, club, BALLS)
    names = DELIVERY_NAMES + LAUNCH_NAMES
    calm = infer_delivery(readings[:, :7], readings[:, 7:], club).doubtful()
    rows = [["none", f"{np.mean([n is not None for n in calm]):.3f}", ""]]
    for field, size in GROSS.items():
        wrong = readings.copy()
        wrong[:, names.index(field)] += size * rng.choice([-1, 1], BALLS)
        found = infer_delivery(wrong[:, :7], wrong[:, 7:], club).doubtful()
        rows.append(
            [
                f"{field} ±{size:g}",
                f"{np.mean([n is not None for n in found]):.3f}",
                f"{np.mean([n == field for n in found]):.3f}",
            ]
        )
    return Table(
        "Wrong readings: share of balls flagged, and flagged by the right name",
        ["wrong value", "flagged", "named rightly"],
        rows,
    )

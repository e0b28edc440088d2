"""The published averages that the models are compared with."""

from __future__ import annotations

import csv
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from instavis_core.units import METRES_PER_YARD, MPS_PER_MPH

DATA = Path(__file__).resolve().parents[2] / "core" / "tests" / "data"


@dataclass(frozen=True, kw_only=True)
class Averages:
    """One table in internal units; arrays of shape (clubs,)."""

    clubs: list[str]
    club_speed: np.ndarray
    attack: np.ndarray
    ball_speed: np.ndarray
    launch: np.ndarray
    spin: np.ndarray
    apex: np.ndarray
    carry: np.ndarray


def averages(name: str) -> Averages:
    """Return the table of elite ``men`` (used to fit constants) or ``women`` (not used)."""
    file = DATA / {"men": "elite_averages.csv", "women": "elite_averages_women.csv"}[name]
    with file.open() as lines:
        rows = list(csv.DictReader(line for line in lines if not line.startswith("#")))
    column = {k: np.array([float(r[k]) for r in rows]) for k in rows[0] if k != "club"}
    return Averages(
        clubs=[r["club"] for r in rows],
        club_speed=column["club_speed"] * MPS_PER_MPH,
        attack=column["attack"],
        ball_speed=column["ball_speed"] * MPS_PER_MPH,
        launch=column["launch"],
        spin=column["spin"],
        apex=column["apex"] * METRES_PER_YARD,
        carry=column["carry"] * METRES_PER_YARD,
    )

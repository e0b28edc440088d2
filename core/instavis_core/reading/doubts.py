"""Landings that the launch cannot have led to, whatever the wind of a playable day."""

from __future__ import annotations

import numpy as np

from instavis_core.flight import fly
from instavis_core.impact.inverse import LAUNCH_NAMES
from instavis_core.shots import Block

CARRY_SHARE = 0.30  # of the carry in still air, more than ten metres of wind a second take or give (assumption)
SIDE_SHARE, SIDE_LEAST = 0.20, 8.0  # of carry, and metres; a strong cross wind stays below (assumption)
NEEDED = ("ball_speed_mps", "launch_angle_deg", "spin_rpm")


def doubtful_landings(block: Block) -> list[str | None]:
    """The landing value of each ball that cannot be reconciled with its launch, or None."""
    found: list[str | None] = [None] * len(block)
    launch = np.stack([block.column(name) for name in LAUNCH_NAMES])
    carry, side = block.column("carry_m"), block.column("side_m")
    known = ~np.isnan(np.stack([block.column(name) for name in NEEDED])).any(axis=0)
    rows = np.flatnonzero(known & ~np.isnan(carry))
    if not rows.size:
        return found
    flight = fly(*np.nan_to_num(launch[:, rows]))
    sideways = ~np.isnan(launch[2:5:2, rows]).any(axis=0) & ~np.isnan(side[rows])
    for k, i in enumerate(rows):
        if abs(carry[i] - flight.carry_m[k]) > CARRY_SHARE * max(flight.carry_m[k], 20.0):
            found[i] = "carry_m"
        elif sideways[k] and abs(side[i] - flight.side_m[k]) > max(SIDE_SHARE * carry[i], SIDE_LEAST):
            found[i] = "side_m"
    return found

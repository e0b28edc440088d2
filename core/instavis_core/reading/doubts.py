"""Landings that the launch cannot produce, whatever the wind on a playable day.

Most balls are clearly possible according to a table of simulated flights. Only balls outside the table are simulated
themselves.
"""

from __future__ import annotations

import functools

import numpy as np

from instavis_core.flight import fly

CARRY_SHARE = 0.30  # of the carry in still air, more than ten meters of wind per second add or remove (assumption)
SIDE_SHARE, MIN_SIDE = 0.20, 8.0  # of carry, and meters; a strong cross wind stays below (assumption)
ODD = 0.7  # of those limits, beyond which the table is not trusted and the ball is simulated
SPEEDS, ANGLES, SPINS = np.linspace(5, 100, 14), np.linspace(0, 60, 13), np.linspace(0, 14000, 9)
TABLE_TILT = 12.0  # °
CORNERS = np.stack(np.meshgrid([0, 1], [0, 1], [0, 1], indexing="ij"), axis=-1).reshape(8, 3)  # of a cell of the table


def doubtful_landings(launch: np.ndarray, landing: np.ndarray) -> list[str | None]:
    """Return the landing value of each ball that its launch cannot produce, or None.

    Parameters
    ----------
    launch : array of shape (n, 5)
        Ball speed, launch angle, start direction, spin, spin axis; NaN where not measured.
    landing : array of shape (n, 2)
        Carry and side [m], same frame.
    """
    found: list[str | None] = [None] * len(launch)
    known = ~np.isnan(launch[:, [0, 1, 3]]).any(axis=1) & ~np.isnan(landing[:, 0])
    rows = np.flatnonzero(known)
    if not rows.size:
        return found
    sideways = ~np.isnan(launch[rows][:, [2, 4]]).any(axis=1) & ~np.isnan(landing[rows, 1])
    filled = np.nan_to_num(launch[rows])
    carry, side = _looked_up(filled)
    odd = _off(landing[rows], carry, side, sideways, ODD) > 0
    if odd.any():
        flight = fly(*filled[odd].T)
        off = _off(landing[rows[odd]], flight.carry_m, flight.side_m, sideways[odd], 1.0)
        for i, what in zip(rows[odd], off, strict=True):
            found[i] = (None, "carry_m", "side_m")[what]
    return found


def _off(landing: np.ndarray, carry: np.ndarray, side: np.ndarray, sideways: np.ndarray, share: float) -> np.ndarray:
    """Return 0 where a landing is possible, 1 where its carry is not, 2 where its side is not; shape (n,)."""
    short = np.abs(landing[:, 0] - carry) > share * CARRY_SHARE * np.maximum(carry, 20.0)
    limit = share * np.maximum(SIDE_SHARE * landing[:, 0], MIN_SIDE)
    wide = sideways & (np.abs(np.nan_to_num(landing[:, 1]) - side) > limit)
    return np.where(short, 1, np.where(wide, 2, 0))


@functools.lru_cache(maxsize=1)
def _table() -> np.ndarray:
    """Compute carry and curve at ``TABLE_TILT`` over the grid of speeds, angles and spins; shape (2, 14, 13, 9)."""
    grid = np.stack(np.meshgrid(SPEEDS, ANGLES, SPINS, indexing="ij")).reshape(3, -1)
    flight = fly(grid[0], grid[1], 0.0, grid[2], TABLE_TILT)
    return np.stack([flight.carry_m, flight.curve_m]).reshape(2, SPEEDS.size, ANGLES.size, SPINS.size)


def _looked_up(launch: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Return carry and side [m] of launches (n, 5), interpolated linearly in the table."""
    axes = (SPEEDS, ANGLES, SPINS)
    start, step = np.array([[axis[0], axis[1] - axis[0]] for axis in axes]).T
    at = np.clip((launch[:, [0, 1, 3]] - start) / step, 0, [axis.size - 1.001 for axis in axes])
    low = at.astype(int)
    share = at - low
    weight = np.where(CORNERS[:, None] == 1, share, 1 - share).prod(axis=2)
    i, j, k = np.moveaxis(low + CORNERS[:, None], 2, 0)
    carry, curve = (weight * _table()[:, i, j, k]).sum(axis=1)
    tilt = np.sin(np.radians(launch[:, 4])) / np.sin(np.radians(TABLE_TILT))
    direction = np.radians(launch[:, 2])
    return carry, carry * np.sin(direction) + curve * tilt * np.cos(direction)

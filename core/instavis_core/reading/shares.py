"""Causes of starts, curves and weak balls: shares of every ball, and medians of the block."""

from __future__ import annotations

from dataclasses import dataclass, fields

import numpy as np

from instavis_core.impact import (
    CompressionLadder,
    CurveBudget,
    Delivery,
    StartBudget,
    compression_ladder,
    curve_budget,
    start_budget,
)
from instavis_core.impact.inverse import DELIVERY_NAMES
from instavis_core.knowledge import Club

FLEW_BY = ("club_speed_mps", "path_deg", "face_deg", "attack_deg", "dynamic_loft_deg")


@dataclass(frozen=True, kw_only=True)
class Shares:
    """Budgets of the balls at ``rows`` (positions in the block) whose delivery is known well enough."""

    rows: np.ndarray
    start: StartBudget
    curve: CurveBudget
    compression: CompressionLadder


@dataclass(frozen=True)
class BlockShares:
    """Medians over a block's clean balls, golfer frame: [°] and [m/s]."""

    balls: int
    start: dict[str, float]
    curve: dict[str, float]
    compression: dict[str, float]


def shares_of(columns: dict[str, np.ndarray], club: Club, reference_speed: float | None = None) -> Shares:
    """Return budgets of every ball with a known or inferred delivery; an unknown strike counts as centered.

    Parameters
    ----------
    columns : dict of array (n,)
        Completed columns, golfer frame.
    club : Club
    reference_speed : float, optional
        Club speed of the ladder's reference [m/s]; the median of the balls when left out.
    """
    rows = np.flatnonzero(~np.isnan(np.stack([columns[m] for m in FLEW_BY])).any(axis=0))
    table = [np.nan_to_num(columns[m][rows]) for m in DELIVERY_NAMES]
    delivery = Delivery(*table)
    speed = reference_speed
    if speed is None:
        speed = float(np.median(columns["club_speed_mps"][rows])) if rows.size else 0.0
    return Shares(
        rows=rows,
        start=start_budget(delivery, club, columns["launch_direction_deg"][rows]),
        curve=curve_budget(delivery, club, columns["spin_axis_deg"][rows]),
        compression=compression_ladder(delivery, club, speed, columns["ball_speed_mps"][rows]),
    )


def block_shares(shares: Shares, clean: np.ndarray) -> BlockShares | None:
    """Return the medians of the budgets over clean balls (bool, shape (n,)); None without any."""
    keep = clean[shares.rows]
    if not keep.any():
        return None
    return BlockShares(
        int(keep.sum()), *(_medians(part, keep) for part in (shares.start, shares.curve, shares.compression))
    )


def ball_shares(shares: Shares, ball: int) -> BlockShares | None:
    """Return the budgets of one ball by position; None if its delivery is unknown."""
    keep = shares.rows == ball
    return block_shares(
        Shares(rows=np.arange(keep.size), start=shares.start, curve=shares.curve, compression=shares.compression), keep
    )


def _medians(part: CurveBudget | StartBudget | CompressionLadder, keep: np.ndarray) -> dict[str, float]:
    return {f.name: float(np.median(getattr(part, f.name)[keep])) for f in fields(part)}

"""The delivery of every ball: measured, or inferred with its uncertainty."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from instavis_core.impact.collision import Delivery, launch_of
from instavis_core.impact.inverse import DELIVERY_NAMES, LAUNCH_ERROR, LAUNCH_NAMES
from instavis_core.reading.fits import fit_balls
from instavis_core.shots import Block

HAND_SURE = {"path_deg": 4.2, "face_deg": 3.5}  # one SD up to which these still count; nothing else is inferred
SURE_ENOUGH = {  # an inferred value with a larger SD is not shown
    "club_speed_mps": 3.0,
    "path_deg": 3.0,
    "face_deg": 2.5,
    "attack_deg": 1.8,
    "dynamic_loft_deg": 3.5,
    "strike_toe_mm": 5.0,
    "strike_high_mm": 4.0,
}


@dataclass(frozen=True, kw_only=True)
class CompletedBlock:
    """A block with gaps filled where the physics allows.

    ``columns`` are as in the block; ``sd[metric]`` (n,) is the uncertainty of each value (one SD), 0 for measured ones.
    ``inferred`` names the metrics that were filled on most balls; ``doubtful[i]`` names the value of ball i that
    contradicts the others, or None.
    """

    columns: dict[str, np.ndarray]
    sd: dict[str, np.ndarray]
    inferred: frozenset[str]
    doubtful: tuple[str | None, ...]

    def without_doubtful(self) -> CompletedBlock:
        """Return the block without doubtful values in anything computed from it."""
        columns = {m: values.copy() for m, values in self.columns.items()}
        for i, name in enumerate(self.doubtful):
            if name:
                columns[name][i] = np.nan
        return replace(self, columns=columns)


def complete(block: Block, check_readings: bool = True) -> CompletedBlock:
    """Fill what was not measured; measured values stay unchanged.

    Parameters
    ----------
    block : Block
        n balls in the golfer frame, which is the right-handed frame of the impact model.
    check_readings : bool
        Also look for values the physics cannot reconcile (costs the fit even when nothing is missing).
    """
    n = len(block)
    club = np.stack([block.column(name) for name in DELIVERY_NAMES], axis=1)
    launch = np.stack([block.column(name) for name in LAUNCH_NAMES], axis=1)
    columns = dict(block.columns)
    sd = {name: np.zeros(n) for name in (*DELIVERY_NAMES, *LAUNCH_NAMES)}
    has_launch = ~np.isnan(launch).all(axis=1)
    by_hand = block.hand_entered()
    usable = has_launch & (~np.isnan(launch[:, 0]) | by_hand)
    gaps = np.isnan(club)
    doubtful: list[str | None] = [None] * n
    needed = usable & (gaps.any(axis=1) | check_readings)
    inferred = set()
    if needed.any():
        rows = np.flatnonzero(needed)
        landing = np.stack([block.column("carry_m")[rows], block.column("side_m")[rows]], axis=1)
        fit = fit_balls(club[rows], launch[rows], landing, by_hand[rows], block.club)
        if check_readings:
            for row, name in zip(rows, fit.doubtful, strict=True):
                doubtful[row] = name
        for k, name in enumerate(DELIVERY_NAMES):
            enough = np.where(by_hand[rows], HAND_SURE.get(name, 0.0), SURE_ENOUGH[name])
            sure = gaps[rows, k] & (fit.sd[:, k] <= enough)
            if not sure.any():
                continue
            filled = columns[name].copy()
            filled[rows[sure]] = fit.mean[sure, k]
            columns[name] = filled
            sd[name][rows[sure]] = fit.sd[sure, k]
            if sure.sum() > 0.5 * n:
                inferred.add(name)
    inferred |= _fill_launch(columns, sd, club, has_launch, block)
    return CompletedBlock(columns=columns, sd=sd, inferred=frozenset(inferred), doubtful=tuple(doubtful))


def _fill_launch(
    columns: dict[str, np.ndarray], sd: dict[str, np.ndarray], club: np.ndarray, has_launch: np.ndarray, block: Block
) -> set[str]:
    """Fill the launch of balls from a club-only monitor; an unknown strike counts as centered."""
    rows = np.flatnonzero(~has_launch & ~np.isnan(club[:, :5]).any(axis=1))
    if not rows.size:
        return set()
    launch = launch_of(Delivery(*np.nan_to_num(club[rows]).T), block.club)
    for name, values, error in zip(LAUNCH_NAMES, launch.columns(), LAUNCH_ERROR, strict=True):
        filled = columns[name].copy()
        filled[rows] = values
        sd[name][rows] = error
        columns[name] = filled
    return set(LAUNCH_NAMES) if rows.size > 0.5 * len(block) else set()

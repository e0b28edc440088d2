"""Pelvis travel from four skin markers of a camera system.

The pelvis frame follows Wu et al., *J. Biomech.* 35 (2002) 543 (ISB): the line through both front markers is its width,
and the plane of all four is level. The target line is the pelvis' own width at address, so only the vertical axis of
the laboratory must be known.
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from instavis_core.errors import InputError
from instavis_core.message import Message

CORNERS = {  # generic names of the front and back corners of the pelvis, left and right
    "left-front": ("lasi", "lasis", "l_asis", "leftasis"),
    "right-front": ("rasi", "rasis", "r_asis", "rightasis"),
    "left-back": ("lpsi", "lpsis", "l_psis", "leftpsis"),
    "right-back": ("rpsi", "rpsis", "r_psis", "rightpsis"),
}
STILL = 0.15  # s at the start that count as address


def pelvis_of_markers(
    points: Mapping[str, np.ndarray], rate_hz: float, hand: str, up: int = 2
) -> dict[str, np.ndarray]:
    """Compute columns of a recording from marker paths.

    Parameters
    ----------
    points : mapping of ndarray
        Marker name → positions (k, 3) [mm], NaN where a marker was not seen.
    rate_hz : float
        Frames a second.
    hand : {"right", "left"}
        The golfer's; says which side leads.
    up : int
        Axis that points up.

    Returns
    -------
    dict of ndarray
        ``time_s``, ``sway_cm``, ``thrust_cm``, ``lift_cm``, ``turn_deg``, ``bend_deg``, ``side_bend_deg``, each (k,).

    Raises
    ------
    InputError
        When a corner of the pelvis is not among the markers, or never seen at address.
    """
    corner = {name: _found(points, name) for name in CORNERS}
    # Our axes: the third is up; a cyclic change keeps the handedness of the frame.
    moved = {name: np.roll(np.asarray(p, float), 2 - up, axis=1) / 10 for name, p in corner.items()}
    lead, trail = ("left", "right") if hand == "right" else ("right", "left")
    front = (moved[f"{lead}-front"] + moved[f"{trail}-front"]) / 2
    back = (moved[f"{lead}-back"] + moved[f"{trail}-back"]) / 2
    centre = (front + back) / 2
    across, ahead = moved[f"{lead}-front"] - moved[f"{trail}-front"], front - back
    still = slice(0, max(2, int(STILL * rate_hz)))
    with np.errstate(invalid="ignore"):
        if any(np.isnan(v[still]).all() for v in (centre, across, ahead)):
            raise InputError("markers", "unseen", Message("recordings-all-four-pelvis-markers-seen"))
        target = _level(np.nanmean(across[still], axis=0))
        ball = _level(np.nanmean(ahead[still], axis=0))
        ball -= (ball @ target) * target
        ball /= np.linalg.norm(ball)
        start = np.nanmean(centre[still], axis=0)
        travel = centre - start
        turn = np.unwrap(_filled(np.arctan2(-(across @ ball), across @ target)))
        bend = np.arctan2(-ahead[:, 2], np.linalg.norm(ahead[:, :2], axis=1))
        side = np.arctan2(across[:, 2], np.linalg.norm(across[:, :2], axis=1))
    gone = np.isnan(centre).any(1) | np.isnan(across).any(1) | np.isnan(ahead).any(1)
    columns = {
        "sway_cm": travel @ target,
        "thrust_cm": travel @ ball,
        "lift_cm": travel[:, 2],
        "turn_deg": _from_start(turn, still),
        "bend_deg": _from_start(bend, still),
        "side_bend_deg": _from_start(side, still),
    }
    return {
        "time_s": np.arange(len(centre)) / rate_hz,
        **{name: np.where(gone, np.nan, values) for name, values in columns.items()},
    }


def _found(points: Mapping[str, np.ndarray], corner: str) -> np.ndarray:
    for name, path in points.items():
        if name.split(":")[-1].strip().lower() in CORNERS[corner]:
            return path
    raise InputError(
        "markers",
        ", ".join(points)[:200],
        Message(
            "recordings-marker-corner",
            corner=corner,
            limit=", ".join(CORNERS[corner]),
        ),
    )


def _level(vector: np.ndarray) -> np.ndarray:
    flat = vector * [1, 1, 0]
    return flat / np.linalg.norm(flat)


def _filled(values: np.ndarray) -> np.ndarray:
    there = ~np.isnan(values)
    return np.interp(np.arange(values.size), np.flatnonzero(there), values[there])


def _from_start(angle: np.ndarray, still: slice) -> np.ndarray:
    degrees = np.degrees(angle)
    return degrees - np.nanmean(degrees[still])

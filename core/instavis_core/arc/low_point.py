"""Low point and swing direction from attack angle, path and the plane of the arc.

Near the ball the club head moves on a circle in an inclined plane. At an arc angle φ before its lowest
point the head descends at asin(sin φ · sin θ) and points atan(tan φ · cos θ) away from the direction
of the arc's bottom (plane geometry; θ is the inclination of the plane).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.knowledge import Club


def arc_angle(attack: np.ndarray, club: Club) -> np.ndarray:
    """Angle travelled since the lowest point [°]; negative before it. ``attack`` [°], any shape."""
    ratio = np.sin(np.radians(np.asarray(attack, float))) / np.sin(np.radians(club.plane))
    return np.degrees(np.arcsin(np.clip(ratio, -1, 1)))


def low_point_cm(attack: np.ndarray, club: Club) -> np.ndarray:
    """Distance of the arc's lowest point ahead of the ball (target side +) [cm]; any shape."""
    return -100 * club.arc_radius * np.sin(np.radians(arc_angle(attack, club)))


def swing_direction(path: np.ndarray, attack: np.ndarray, club: Club) -> np.ndarray:
    """Direction in which the arc swings at its lowest point [°], golfer frame.

    Hitting down moves the path outward of it: with the same swing direction, two degrees more downward show about one
    degree more in-to-out with a mid iron.
    """
    phi = np.radians(arc_angle(attack, club))
    away = np.degrees(np.arctan(np.tan(phi) * np.cos(np.radians(club.plane))))
    return np.asarray(path, float) + away


@dataclass(frozen=True)
class PathChange:
    """A change of path in two parts that add up [°]: the arc was met earlier or later, and the arc turned."""

    attack_deg: float
    direction_deg: float


def split_path_change(before: tuple[float, float], after: tuple[float, float], club: Club) -> PathChange:
    """Split a change of path into attack (earlier or later on the arc) and direction (the arc turned).

    Parameters
    ----------
    before, after : tuple of float
        Path and attack [°], golfer frame.
    club : Club
    """
    path, attack = np.array([before, after], float).T
    turned = float(np.diff(swing_direction(path, attack, club))[0])
    return PathChange(after[0] - before[0] - turned, turned)


# Low point relative to the ball (target side +) for each turf mark: mean and one standard deviation [cm].
# Starting estimates.
TURF_SAYS = {"fat": (-6.0, 4.0), "clean": (5.0, 6.0), "thin": (-1.0, 7.0)}
ATTACK_ERROR_CM = 2.5  # of a low point computed from one attack angle, radius included (assumption)


def low_point_with_turf(low_point: np.ndarray, turf: tuple[str | None, ...]) -> np.ndarray:
    """Return the low point [cm] of each ball, using the coach's turf mark as a second, coarser measurement.

    Parameters
    ----------
    low_point : array of shape (n,)
        From the attack angle; NaN where it was not measured.
    turf : tuple of str or None
        One mark a ball; marks that say nothing about the low point leave it as it is.
    """
    out = np.array(low_point, float)
    for i, mark in enumerate(turf):
        if mark not in TURF_SAYS:
            continue
        middle, spread = TURF_SAYS[mark]
        if np.isnan(out[i]):
            out[i] = middle
        else:
            weight = ATTACK_ERROR_CM**-2, spread**-2
            out[i] = (weight[0] * out[i] + weight[1] * middle) / sum(weight)
    return out

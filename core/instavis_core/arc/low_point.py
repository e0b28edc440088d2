"""Low point and swing direction from attack angle, path and the plane of the arc.

Near the ball the club head moves on a circle in an inclined plane. At an arc angle φ before its lowest
point the head descends at asin(sin φ · sin θ) and points atan(tan φ · cos θ) away from the direction
of the arc's bottom (plane geometry; θ is the inclination of the plane).
"""

from __future__ import annotations

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
    """Direction of the bottom of the arc [°], golfer frame.

    Hitting down moves the path outward of it: the same swing direction with two degrees more down
    shows about one degree more in-to-out with a mid iron.
    """
    phi = np.radians(arc_angle(attack, club))
    away = np.degrees(np.arctan(np.tan(phi) * np.cos(np.radians(club.plane))))
    return np.asarray(path, float) + away

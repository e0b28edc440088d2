"""A simulated picture of a golfer: where the camera sees every joint, and a rod of known length.

The camera stands four meters away at eye level, so nearer points look larger, which the still measurement does not
know. Every golfer has their own build and position.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.figure import pose_at, stand
from instavis_core.figure.pictures import GROUNDED

WIDTH, HEIGHT = 900, 1000  # pixels
CAMERA_FAR, CAMERA_HIGH = 4.0, 0.95  # m from the middle of the stance; m above the ground
PX_PER_M = 430.0  # at the middle of the stance
FLOOR = 950  # pixels from the top to the ground at the stance
BUILD_SPREAD = 0.04  # log SD of body size
OWN_POSE = {"sway_cm": 0.6, "thrust_cm": 0.6, "lift_cm": 0.6, "turn_deg": 3.0, "bend_deg": 2.0, "chest_turn_deg": 4.0}
ROD_CM = 100.0


@dataclass(frozen=True, kw_only=True)
class SimulatedStill:
    """``points`` [px, from the upper left corner] of all joints; the rod's ends and its length [cm]."""

    view: str
    moment: str
    width: int
    height: int
    points: dict[str, tuple[float, float]]
    rod: tuple[tuple[float, float], tuple[float, float]]
    rod_cm: float


def simulate_still(
    severity: dict[str, float], moment: str, view: str, hand: str, seed: int, adds: dict[str, float] | None = None
) -> SimulatedStill:
    """Take a picture of a simulated golfer at one moment.

    Parameters
    ----------
    severity : dict of float
        How strong each fault is, by cause id or ``id/variant``.
    moment : str
        One of the eight moments of ``motion.toml``.
    view : {"face-on", "down-the-line"}
    hand : {"right", "left"}
    seed : int
        The golfer: the same seed has the same build and the same own way at address.
    adds : dict of float, optional
        Added to the pose.
    """
    rng = np.random.default_rng(seed)
    build = float(np.exp(rng.normal(0, BUILD_SPREAD)))
    own = {name: float(rng.normal(0, sd)) for name, sd in OWN_POSE.items()}
    figure = stand(pose_at(moment, severity, own, adds), moment in GROUNDED)
    side = -1.0 if hand == "left" else 1.0

    def project(place: np.ndarray) -> tuple[float, float]:
        across, away = (place[0], -place[1]) if view == "face-on" else (place[1], place[0])
        scale = PX_PER_M * CAMERA_FAR / (CAMERA_FAR + away)
        x = WIDTH / 2 + side * scale * across
        # The horizon is at the camera's height; points above and below move away from it with the scale.
        horizon = FLOOR - PX_PER_M * CAMERA_HIGH
        return round(float(x), 1), round(float(horizon - scale * (place[2] - CAMERA_HIGH)), 1)

    rod = (project(np.array([0.62, 0.0, 0.0])), project(np.array([0.62, 0.0, ROD_CM / 100])))
    if view == "down-the-line":
        rod = (project(np.array([0.0, -0.55, 0.0])), project(np.array([0.0, -0.55, ROD_CM / 100])))
    points = {name: project(build * place) for name, place in figure.joints.items()}
    return SimulatedStill(view=view, moment=moment, width=WIDTH, height=HEIGHT, points=points, rod=rod, rod_cm=ROD_CM)

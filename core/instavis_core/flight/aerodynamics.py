"""Drag and lift of a dimpled, spinning ball.

The relations have the shapes found in wind tunnels: drag falls through a critical Reynolds number and rises with spin
ratio; lift saturates with spin ratio (Bearman & Harvey, Aeronaut. Q. 27 (1976) 112, doi:10.1017/S0001925900007617;
Smits & Smith, Science and Golf II (1994) 340). The balls of those papers are decades old, so the constants were fitted,
within the papers' range, to published launch and carry averages of elite men and to the usual gain of carry with
altitude and warmth (`docs/method.md`, flight).
"""

from __future__ import annotations

import numpy as np

BALL_MASS = 0.04593  # kg, the maximum under the rules of the game
BALL_RADIUS = 0.02134  # m, the minimum under the rules of the game
BALL_AREA = np.pi * BALL_RADIUS**2
BALL_INERTIA = 0.4 * BALL_MASS * BALL_RADIUS**2  # kg m², solid sphere

DRAG_BASE = 0.212
DRAG_PER_SPIN_RATIO = 0.4187
DRAG_PER_SPIN_RATIO_SQUARED = -0.2955
DRAG_SUBCRITICAL = 0.096
CRITICAL_REYNOLDS = 7.225e4
REYNOLDS_WIDTH = 0.4e4  # narrow, so that thinner air does not act like a slower ball over the whole flight
LIFT_LIMIT = 0.3309
LIFT_SLOPE = 7.436
SPIN_DECAY = 2.0e-5  # dimensionless, Smits & Smith (1994)


def drag_coefficient(spin_ratio: np.ndarray, reynolds: np.ndarray) -> np.ndarray:
    """Drag coefficient [-] for spin ratio rω/v [-] and Reynolds number [-]; same shape as the inputs."""
    below = 1 / (1 + np.exp((reynolds - CRITICAL_REYNOLDS) / REYNOLDS_WIDTH))
    spinning = DRAG_PER_SPIN_RATIO * spin_ratio + DRAG_PER_SPIN_RATIO_SQUARED * spin_ratio**2
    return DRAG_BASE + spinning + DRAG_SUBCRITICAL * below


def lift_coefficient(spin_ratio: np.ndarray) -> np.ndarray:
    """Lift coefficient [-]: zero without spin, saturating with spin ratio rω/v [-]."""
    return LIFT_LIMIT * (1 - np.exp(-LIFT_SLOPE * spin_ratio))


def spin_decay_rate(speed: np.ndarray) -> np.ndarray:
    """Rate at which spin is lost [1/s] at a ball speed [m/s]."""
    return SPIN_DECAY * speed / BALL_RADIUS

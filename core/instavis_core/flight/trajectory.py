"""Point-mass flight of many balls at once.

Axes: forward (to the target), up, right. Spin axis tilt is positive when the ball tilts to the right.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.flight.aerodynamics import (
    BALL_AREA,
    BALL_MASS,
    BALL_RADIUS,
    drag_coefficient,
    lift_coefficient,
    spin_decay_rate,
)
from instavis_core.flight.air import Air

GRAVITY = 9.81  # m/s²
STEP = 0.05  # s; fourth-order steps: carry within 0.1 % of a tight-tolerance run (tested)
LONGEST = 20.0  # s


@dataclass(frozen=True)
class Flight:
    """Where the balls went; every array has shape (n,).

    ``curve_m`` is the distance, at landing, between the ball and its start line; ``side_m`` between
    the ball and the target line (right +) [m]. ``descent_deg`` is positive downwards.
    """

    carry_m: np.ndarray
    side_m: np.ndarray
    curve_m: np.ndarray
    apex_m: np.ndarray
    descent_deg: np.ndarray
    time_s: np.ndarray


def fly(
    ball_speed: np.ndarray,
    launch_angle: np.ndarray,
    launch_direction: np.ndarray,
    spin: np.ndarray,
    spin_axis: np.ndarray,
    air: Air | None = None,
) -> Flight:
    """Fly balls to the level they left from.

    Parameters
    ----------
    ball_speed : array_like, shape (n,) or scalar
        [m/s]
    launch_angle, launch_direction, spin_axis : array_like, shape (n,) or scalar
        [°], right of the target positive.
    spin : array_like, shape (n,) or scalar
        [rpm]
    air : Air, optional
        Still air at 20 °C and sea level when left out.

    Returns
    -------
    Flight
        Arrays of shape (n,).
    """
    flight, _ = _integrate(ball_speed, launch_angle, launch_direction, spin, spin_axis, air or Air(), False)
    return flight


def fly_traced(
    ball_speed: float,
    launch_angle: float,
    launch_direction: float,
    spin: float,
    spin_axis: float,
    air: Air | None = None,
) -> tuple[Flight, np.ndarray]:
    """One ball and its points.

    Returns
    -------
    Flight, numpy.ndarray of shape (k, 4)
        The points are time [s], forward, up and right [m].
    """
    return _integrate(ball_speed, launch_angle, launch_direction, spin, spin_axis, air or Air(), True)


def _integrate(ball_speed, launch_angle, launch_direction, spin, spin_axis, air, traced):
    columns = np.broadcast_arrays(
        *(np.atleast_1d(np.asarray(c, float)) for c in (ball_speed, launch_angle, launch_direction, spin, spin_axis))
    )
    speed, rise, direction, rpm, tilt = (c.copy() for c in columns)
    rise, direction, tilt = np.radians(rise), np.radians(direction), np.radians(tilt)
    n = speed.size
    level = np.stack([np.cos(direction), np.zeros(n), np.sin(direction)])
    right = np.stack([-np.sin(direction), np.zeros(n), np.cos(direction)])
    up = np.array([[0.0], [1.0], [0.0]])
    # Lift acts along axis × velocity: with no tilt the axis makes lift point up, tilted right it leans right.
    velocity = speed * (np.cos(rise) * level + np.sin(rise) * up)
    axis = np.cos(tilt) * right + np.sin(tilt) * np.cross(level, right, axis=0)
    axis = axis - velocity * (axis * velocity).sum(0) / np.maximum((velocity**2).sum(0), 1e-12)
    axis /= np.maximum(np.linalg.norm(axis, axis=0), 1e-12)
    state = np.concatenate([np.zeros((3, n)), velocity, (rpm * 2 * np.pi / 60)[None]])

    out = {k: np.zeros(n) for k in ("forward", "right", "apex", "descent", "time")}
    alive = np.arange(n)
    points = [[0.0, 0.0, 0.0, 0.0]]
    derivative = _Derivative(air)
    time = 0.0
    while alive.size and time < LONGEST:
        before, slope = state, derivative(state, axis)
        state = _step(derivative, before, slope, axis)
        out["apex"][alive] = np.maximum(out["apex"][alive], _apex(before, state))
        landed = state[1] <= 0
        if traced and not landed.any():
            points.append([time + STEP, *state[:3, 0]])
        if landed.any():
            share = _landing_share(before[:, landed], state[:, landed])
            at = _hermite(before[:, landed], state[:, landed], share)
            hit = alive[landed]
            out["forward"][hit], out["right"][hit] = at[0], at[2]
            out["time"][hit] = time + STEP * share
            out["descent"][hit] = -np.degrees(np.arctan2(at[4], np.hypot(at[3], at[5])))
            if traced:
                points.append([time + STEP * share[0], at[0, 0], 0.0, at[2, 0]])
            alive, state, axis = alive[~landed], state[:, ~landed], axis[:, ~landed]
        time += STEP
    curve = out["right"] * np.cos(direction) - out["forward"] * np.sin(direction)
    flight = Flight(
        np.hypot(out["forward"], out["right"]), out["right"], curve, out["apex"], out["descent"], out["time"]
    )
    return flight, np.array(points)


class _Derivative:
    """Right-hand side of the equations of motion in given air; the spin axis keeps its direction."""

    def __init__(self, air: Air) -> None:
        self.force = 0.5 * air.density * BALL_AREA / BALL_MASS
        self.viscosity = air.viscosity
        self.wind = air.wind[:, None]
        self.calm = air.wind_mps == 0

    def __call__(self, state: np.ndarray, axis: np.ndarray) -> np.ndarray:
        velocity, spin = state[3:6], state[6]
        through = velocity if self.calm else velocity - self.wind * Air.wind_share(state[1])
        x, y, z = through
        speed = np.maximum(np.sqrt(x * x + y * y + z * z), 1e-6)
        ratio = BALL_RADIUS * spin / speed
        drag = -self.force * speed * drag_coefficient(ratio, 2 * BALL_RADIUS * speed / self.viscosity)
        lift = self.force * speed * lift_coefficient(ratio)
        a, b, c = axis
        slope = np.empty_like(state)
        slope[:3] = velocity
        slope[3] = drag * x + lift * (b * z - c * y)
        slope[4] = drag * y + lift * (c * x - a * z) - GRAVITY
        slope[5] = drag * z + lift * (a * y - b * x)
        slope[6] = -spin_decay_rate(speed) * spin
        return slope


def _step(derivative: _Derivative, state: np.ndarray, k1: np.ndarray, axis: np.ndarray) -> np.ndarray:
    k2 = derivative(state + STEP / 2 * k1, axis)
    k3 = derivative(state + STEP / 2 * k2, axis)
    k4 = derivative(state + STEP * k3, axis)
    return state + STEP / 6 * (k1 + 2 * k2 + 2 * k3 + k4)


def _apex(before: np.ndarray, after: np.ndarray) -> np.ndarray:
    """Highest point of one step [m]: the vertex where vertical speed changes sign, else the higher end."""
    falling = (before[4] > 0) & (after[4] <= 0)
    share = before[4] / np.where(falling, before[4] - after[4], 1.0)
    vertex = before[1] + 0.5 * before[4] * share * STEP
    return np.where(falling, vertex, np.maximum(before[1], after[1]))


def _landing_share(before: np.ndarray, after: np.ndarray) -> np.ndarray:
    """Part of the last step [0 to 1] after which the cubic through its ends crosses the ground."""
    low, high = np.zeros(before.shape[1]), np.ones(before.shape[1])
    for _ in range(40):
        middle = (low + high) / 2
        above = _hermite(before, after, middle)[1] > 0
        low, high = np.where(above, middle, low), np.where(above, high, middle)
    return (low + high) / 2


def _hermite(before: np.ndarray, after: np.ndarray, s: np.ndarray) -> np.ndarray:
    """Position (cubic Hermite) and velocity (its linear blend) inside one step, rows as in the state."""
    p0, p1, m0, m1 = before[:3], after[:3], STEP * before[3:6], STEP * after[3:6]
    position = (
        (2 * s**3 - 3 * s**2 + 1) * p0 + (s**3 - 2 * s**2 + s) * m0 + (3 * s**2 - 2 * s**3) * p1 + (s**3 - s**2) * m1
    )
    return np.concatenate([position, before[3:6] + s * (after[3:6] - before[3:6])])

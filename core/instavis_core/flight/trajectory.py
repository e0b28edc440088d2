"""Point-mass flight of many balls at once.

Axes: forward (to the target), up, right. Spin axis tilt is positive when the ball tilts to the right.
"""

from __future__ import annotations

from collections.abc import Sequence
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
from instavis_core.units import Floats

GRAVITY = 9.81  # m/s²
# Every ball has its own step, a share of its flight time in vacuum: carry within 0.06 % of a
# tight-tolerance run, for long and short flights (tested).
STEP_SHARE, SHORTEST_STEP = 0.16, 0.04  # -, s
LONGEST_STEP, LONGEST_STEP_IN_WIND = 0.5, 0.2  # s; the wind's profile is steep near the ground
STILL_FLYING = 0.75  # share of balls in the air below which landed ones are removed
AT_ONCE = 4000  # balls per chunk; keeps arrays in the processor's cache
LONGEST = 20.0  # s


@dataclass(frozen=True, kw_only=True)
class Flight:
    """Where the balls went; every array has shape (n,).

    ``curve_m`` is the distance, at landing, between the ball and its start line; ``side_m`` between the ball and the
    target line (right +) [m]. ``descent_deg`` is positive downward; ``landing_mps`` and ``landing_rpm`` are speed and
    spin at landing.
    """

    carry_m: np.ndarray
    side_m: np.ndarray
    curve_m: np.ndarray
    apex_m: np.ndarray
    descent_deg: np.ndarray
    time_s: np.ndarray
    landing_mps: np.ndarray
    landing_rpm: np.ndarray


def fly(
    ball_speed: Floats,
    launch_angle: Floats,
    launch_direction: Floats,
    spin: Floats,
    spin_axis: Floats,
    air: Air | None = None,
) -> Flight:
    """Simulate balls until they are back at the height they started from.

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
    flight, _ = _integrate((ball_speed, launch_angle, launch_direction, spin, spin_axis), air or Air(), False)
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
    return _integrate((ball_speed, launch_angle, launch_direction, spin, spin_axis), air or Air(), True)


def _integrate(launch: Sequence[Floats], air: Air, traced: bool) -> tuple[Flight, np.ndarray]:
    """Simulate balls from five launch values; return the points of the first one if asked."""
    columns = np.broadcast_arrays(*(np.atleast_1d(np.asarray(c, float)) for c in launch))
    direction = np.radians(columns[2])
    state, axis, step = _start(columns, LONGEST_STEP_IN_WIND if air.wind_mps else LONGEST_STEP)
    n = step.size
    landing = np.empty((7, n))
    apex = np.zeros(n)
    points = [[0.0, 0.0, 0.0, 0.0]]
    for first in range(0, n, AT_ONCE):
        some = slice(first, first + AT_ONCE)
        landing[:, some], apex[some] = _land(state[:, some], axis[:, some], step[some], air, points if traced else None)
    forward, right, time, vx, vy, vz, spinning = landing
    curve = right * np.cos(direction) - forward * np.sin(direction)
    descent = -np.degrees(np.arctan2(vy, np.hypot(vx, vz)))
    landing_speed = np.sqrt(vx * vx + vy * vy + vz * vz)
    landing_rpm = spinning * 60 / (2 * np.pi)
    flight = Flight(
        carry_m=np.copysign(np.hypot(forward, right), forward),  # a ball blown back behind the tee has no roll
        side_m=right,
        curve_m=curve,
        apex_m=apex,
        descent_deg=descent,
        time_s=time,
        landing_mps=landing_speed,
        landing_rpm=landing_rpm,
    )
    return flight, np.array(points)


def _start(columns: Sequence[np.ndarray], longest: float) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """First states (7, n), spin axes (3, n) and time steps (n,) [s]."""
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
    in_vacuum = 2 * speed * np.maximum(np.sin(rise), 0.0) / GRAVITY
    return state, axis, np.clip(STEP_SHARE * in_vacuum, SHORTEST_STEP, longest)


def _land(
    state: np.ndarray, axis: np.ndarray, step: np.ndarray, air: Air, points: list[list[float]] | None
) -> tuple[np.ndarray, np.ndarray]:
    """Fly until every ball is down.

    Rows forward, right [m], time [s], velocity [m/s], spin [rad/s], each (n,); and apexes [m].
    """
    n = step.size
    # The ends of the step in which each ball lands; the exact point is computed once, for all together.
    last, next_, started = np.zeros((7, n)), np.zeros((7, n)), np.zeros(n)
    steps, apex = step, np.zeros(n)
    ball, flying, derivative, count = np.arange(n), np.ones(n, dtype=bool), _Derivative(air), 0
    while flying.any() and count * SHORTEST_STEP < LONGEST:
        before = state
        state = _step(derivative, before, axis, step)
        apex[ball] = np.maximum(apex[ball], _apex(before, state, step))
        landed = np.flatnonzero(flying & (state[1] <= 0))
        if landed.size:
            hit = ball[landed]
            last[:, hit], next_[:, hit], started[hit] = before[:, landed], state[:, landed], count * step[landed]
            flying[landed] = False
            if np.count_nonzero(flying) < STILL_FLYING * flying.size:  # not every time: moving arrays costs more
                keep = np.flatnonzero(flying)
                ball, state, axis, step = ball[keep], state.take(keep, 1), axis.take(keep, 1), step[keep]
                flying = np.ones(keep.size, dtype=bool)
        elif points is not None:
            points.append([(count + 1) * step[0], *state[:3, 0]])
        count += 1
    share = _landing_share(last, next_, steps)
    at = _hermite(last, next_, steps, share)
    landing = np.concatenate([at[[0, 2]], (started + steps * share)[None], at[3:], next_[6:]])
    if points is not None:
        points.append([landing[2, 0], at[0, 0], 0.0, at[2, 0]])
    return landing, apex


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
        pressure = self.force * speed
        drag = -pressure * drag_coefficient(ratio, (2 * BALL_RADIUS / self.viscosity) * speed)
        lift = pressure * lift_coefficient(ratio)
        a, b, c = axis
        slope = np.empty_like(state)
        slope[:3] = velocity
        slope[3] = drag * x + lift * (b * z - c * y)
        slope[4] = drag * y + lift * (c * x - a * z) - GRAVITY
        slope[5] = drag * z + lift * (a * y - b * x)
        slope[6] = -spin_decay_rate(speed) * spin
        return slope


def _step(derivative: _Derivative, state: np.ndarray, axis: np.ndarray, step: np.ndarray) -> np.ndarray:
    """One classical fourth-order Runge-Kutta step of every ball, each with its own length."""
    half = step / 2
    k1 = derivative(state, axis)
    k2 = derivative(state + half * k1, axis)
    k3 = derivative(state + half * k2, axis)
    k4 = derivative(state + step * k3, axis)
    k2 += k3
    k2 *= 2
    k1 += k2
    k1 += k4
    k1 *= step / 6
    k1 += state
    return k1


def _apex(before: np.ndarray, after: np.ndarray, step: np.ndarray) -> np.ndarray:
    """Highest point of one step [m]: that of the cubic through its ends, or the higher end."""
    highest = np.maximum(before[1], after[1])
    turning = np.flatnonzero((before[4] > 0) & (after[4] <= 0))
    if turning.size:
        y0, y1, m0, m1 = (row[turning] for row in (before[1], after[1], step * before[4], step * after[4]))
        # The slope of the cubic is a s² + b s + m0; its falling zero is the vertex.
        a, b = 3 * (m0 + m1) - 6 * (y1 - y0), 6 * (y1 - y0) - 4 * m0 - 2 * m1
        share = 2 * m0 / (np.sqrt(np.maximum(b * b - 4 * a * m0, 0.0)) - b)
        highest[turning] = _cubic(y0, y1, m0, m1, np.clip(share, 0.0, 1.0))
    return highest


def _landing_share(before: np.ndarray, after: np.ndarray, step: np.ndarray) -> np.ndarray:
    """Part of the last step [0 to 1] after which the cubic through its ends crosses the ground."""
    low, high = np.zeros(before.shape[1]), np.ones(before.shape[1])
    for _ in range(40):
        middle = (low + high) / 2
        above = _cubic(before[1], after[1], step * before[4], step * after[4], middle) > 0
        low, high = np.where(above, middle, low), np.where(above, high, middle)
    return (low + high) / 2


def _hermite(before: np.ndarray, after: np.ndarray, step: np.ndarray, s: np.ndarray) -> np.ndarray:
    """Position (cubic) and velocity (linear blend) inside one step, rows as in the state."""
    position = _cubic(before[:3], after[:3], step * before[3:6], step * after[3:6], s)
    return np.concatenate([position, before[3:6] + s * (after[3:6] - before[3:6])])


def _cubic(p0: np.ndarray, p1: np.ndarray, m0: np.ndarray, m1: np.ndarray, s: np.ndarray) -> np.ndarray:
    """Cubic Hermite curve at a share s [0 to 1] from the end points and the slopes there over the whole step."""
    return (2 * s**3 - 3 * s**2 + 1) * p0 + (s**3 - 2 * s**2 + s) * m0 + (3 * s**2 - 2 * s**3) * p1 + (s**3 - s**2) * m1

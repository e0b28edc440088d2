"""Run after landing: bounces, then roll.

A rough estimate for level fairway turf. Bounce and roll follow Penner, Can. J. Phys. 80 (2002) 931,
doi:10.1139/p02-035: the turf gives way, which tilts the surface toward the ball; normal restitution falls with impact
speed; friction slides or grips. Between bounces the ball flies without drag. The firmness of the turf is unknown on a
range or in a bay, so every screen calls the result rough.
"""

from __future__ import annotations

import numpy as np

from instavis_core.flight.aerodynamics import BALL_RADIUS
from instavis_core.flight.trajectory import GRAVITY

FRICTION = 0.40  # ball on turf (Penner 2002)
ROLLING = 0.18  # deceleration over g on a fairway (assumption; greens are near 0.06)
TILT_DEG, TILT_SPEED, TILT_ANGLE = 15.4, 18.6, 44.4  # how the turf gives way (Penner 2002)
FLATTEST_DEG, FASTEST = 25.0, 32.0  # [°], [m/s]: the range of Penner's measurements, a little beyond
MAX_BOUNCES = 12
LOWEST_BOUNCE = 0.005  # m


def roll_after(landing_mps: np.ndarray, descent_deg: np.ndarray, backspin_rpm: np.ndarray) -> np.ndarray:
    """Return the run along the direction of landing [m]; negative if the ball comes back.

    Parameters
    ----------
    landing_mps : array_like of shape (n,)
        Speed at landing [m/s].
    descent_deg : array_like of shape (n,)
        Angle of descent [°], downward positive.
    backspin_rpm : array_like of shape (n,)
        Backspin at landing [rpm].

    Returns
    -------
    array of shape (n,)
        NaN for a ball that lands flatter or faster than what the model was made for: topped and thinned ones.
    """
    speed, descent, rpm = np.broadcast_arrays(*(np.asarray(c, float) for c in (landing_mps, descent_deg, backspin_rpm)))
    along, down = speed * np.cos(np.radians(descent)), speed * np.sin(np.radians(np.maximum(descent, 0.0)))
    spin = rpm * 2 * np.pi / 60
    run = np.zeros(speed.shape)
    for _ in range(MAX_BOUNCES):
        bouncing = down**2 / (2 * GRAVITY) > LOWEST_BOUNCE
        if not bouncing.any():
            break
        after, up, turned = _bounce(along, down, spin)
        along, spin = np.where(bouncing, after, along), np.where(bouncing, turned, spin)
        down = np.where(bouncing, up, 0.0)
        run = run + np.where(bouncing, along * 2 * up / GRAVITY, 0.0)
    # Slipping ends in rolling: the backspin's momentum is taken from the forward speed.
    rolling = (5 * along - 2 * BALL_RADIUS * spin) / 7
    run = run + np.sign(rolling) * rolling**2 / (2 * ROLLING * GRAVITY)
    return np.where((descent >= FLATTEST_DEG) & (speed <= FASTEST), run, np.nan)


def _bounce(along: np.ndarray, down: np.ndarray, spin: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """One bounce: forward speed, upward speed and backspin after it."""
    speed, angle = np.hypot(along, down), np.degrees(np.arctan2(np.abs(along), down))
    tilt = np.sign(along) * np.radians(TILT_DEG * speed / TILT_SPEED * angle / TILT_ANGLE)
    tangent = along * np.cos(tilt) - down * np.sin(tilt)
    normal = along * np.sin(tilt) + down * np.cos(tilt)
    restitution = np.where(normal <= 20, 0.510 - 0.0375 * normal + 0.000903 * normal**2, 0.120)
    # Sliding friction, at most what stops the contact point (then the ball rolls off).
    slip = tangent + BALL_RADIUS * spin
    pull = np.minimum(FRICTION * normal * (1 + restitution), 2 / 7 * np.abs(slip)) * np.sign(slip)
    tangent, spin = tangent - pull, spin - 2.5 * pull / BALL_RADIUS
    rebound = restitution * normal
    return (
        tangent * np.cos(tilt) - rebound * np.sin(tilt),
        np.maximum(tangent * np.sin(tilt) + rebound * np.cos(tilt), 0.0),
        spin,
    )

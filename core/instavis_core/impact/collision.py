"""Impact of club and ball: an oblique collision of two rigid bodies.

The impulse follows from the relative velocity at the contact point, the masses and moments of inertia of head and ball,
a normal restitution, and a tangential restitution (zero: the ball just rolls; above: it winds up and springs back;
below: it still slides), limited by friction (Penner, Rep. Prog. Phys. 66 (2003) 131, doi:10.1088/0034-4885/66/2/202;
Cross & Nathan, Am. J. Phys. 74 (2006) 896, doi:10.1119/1.2209246). Both restitutions are in the club table, each at one
speed, and fall with impact speed. Start direction, launch angle, ball speed, spin and gear effect all follow from this
one balance; none has a constant of its own. Axes: forward (to the target), up, right. The golfer is right-handed here;
left-handers are mirrored before.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.flight.aerodynamics import BALL_INERTIA, BALL_MASS, BALL_RADIUS
from instavis_core.impact.edges import MISSED, contact_of
from instavis_core.knowledge import Club
from instavis_core.units import Floats

RESTITUTION_SLOPE = 0.0028  # s/m, loss of normal restitution with normal speed (Penner 2003, fig. 5)
RESTITUTION_AT = 45.0  # m/s, where a club's own restitution is stated
MAX_RESTITUTION = 0.88  # the driver's own: slower impacts do not give more (assumption)
TANGENTIAL_AT = 36.0  # m/s, where a club's own tangential restitution is stated
TANGENTIAL_SLOPE = 0.0105  # s/m
TANGENTIAL_HARD_FROM, TANGENTIAL_HARD = 40.0, 0.002  # m/s, s²/m²; all three fitted to elite men and women


@dataclass(frozen=True)
class Delivery:
    """How the club arrives, right-handed frame; arrays of shape (n,) or scalars.

    Speed [m/s]; path, face (to the target), attack and dynamic loft [°]; strike toe and high [mm]. Face and loft are
    those of the face center; bulge and roll are added here. A strike beyond the face meets an edge or the hosel
    (`impact.edges`).
    """

    club_speed: Floats
    path: Floats
    face: Floats
    attack: Floats
    dynamic_loft: Floats
    toe: Floats
    high: Floats

    def columns(self) -> list[np.ndarray]:
        """The seven columns, broadcast to one shape (n,)."""
        raw = (self.club_speed, self.path, self.face, self.attack, self.dynamic_loft, self.toe, self.high)
        return list(np.broadcast_arrays(*(np.atleast_1d(np.asarray(c, float)) for c in raw)))


@dataclass(frozen=True)
class Launch:
    """How the ball leaves; arrays of shape (n,): [m/s], [°], [°], [rpm], [°], right positive."""

    ball_speed: np.ndarray
    launch_angle: np.ndarray
    launch_direction: np.ndarray
    spin: np.ndarray
    spin_axis: np.ndarray

    def columns(self) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
        """The five columns in the order of the fields."""
        return self.ball_speed, self.launch_angle, self.launch_direction, self.spin, self.spin_axis

    def first(self) -> tuple[float, float, float, float, float]:
        """The five values of the first ball."""
        speed, angle, direction, spin, tilt = (float(c[0]) for c in self.columns())
        return speed, angle, direction, spin, tilt


def launch_of(delivery: Delivery, club: Club) -> Launch:
    """Launch from delivery.

    Parameters
    ----------
    delivery : Delivery
        n deliveries of one club.
    club : Club
        Its row of the club table.

    Returns
    -------
    Launch
        Arrays of shape (n,).
    """
    speed, path, face, attack, loft, toe, high = delivery.columns()
    path, attack = np.radians(path), np.radians(attack)
    contact = contact_of(toe, high, club)
    toe, high = contact.toe, contact.high
    face = np.radians(face) + (toe / (club.bulge / 1000) if club.bulge else 0.0)
    loft = np.radians(loft) + (high / (club.roll / 1000) if club.roll else 0.0)

    velocity = speed * np.array([np.cos(attack) * np.cos(path), np.sin(attack), np.cos(attack) * np.sin(path)])
    cf, sf, cl, sl = np.cos(face), np.sin(face), np.cos(loft), np.sin(loft)
    normal = np.array([cl * cf, sl, cl * sf])
    across = np.array([-sf, np.zeros_like(sf), cf])  # toward the toe
    upward = np.array([-sl * cf, cl, -sl * sf])  # across × normal
    if contact.across.any() or contact.upward.any():
        normal, across = _turned(normal, across, contact.across)
        normal, upward = _turned(normal, upward, contact.upward)
    basis = np.stack([normal, upward, across])  # rows: the axes of the contact
    local = np.einsum("akn,kn->an", basis, velocity)

    impulse = _impulse(local, _mobility(club, toe, high), club)
    impulse[:, contact.part == MISSED] = 0.0
    ball = np.einsum("akn,an->kn", basis, impulse) / BALL_MASS
    spin_local = BALL_RADIUS / BALL_INERTIA * np.array([np.zeros_like(toe), impulse[2], -impulse[1]])
    spin = np.einsum("akn,an->kn", basis, spin_local)
    return _describe(ball, spin)


def spin_loft(path: np.ndarray, face: np.ndarray, attack: np.ndarray, loft: np.ndarray) -> np.ndarray:
    """Angle in space between club velocity and face normal [°], all inputs [°]."""
    p, f, a, d = (np.radians(np.asarray(x, float)) for x in (path, face, attack, loft))
    cosine = np.cos(a) * np.cos(d) * np.cos(p - f) + np.sin(a) * np.sin(d)
    return np.degrees(np.arccos(np.clip(cosine, -1, 1)))


def _turned(normal: np.ndarray, toward: np.ndarray, angle: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Return two axes of shape (3, n), turned so that the first leans toward the second by an angle (n,) [rad]."""
    return (
        normal * np.cos(angle) + toward * np.sin(angle),
        toward * np.cos(angle) - normal * np.sin(angle),
    )


def _mobility(club: Club, toe: np.ndarray, high: np.ndarray) -> np.ndarray:
    """Velocity change at the contact point per unit impulse, ball and head together; shape (n, 3, 3) [1/kg]."""
    n = toe.size
    arm = np.stack([np.full(n, club.depth / 1000), high, toe], axis=1)
    cross = np.zeros((n, 3, 3))
    cross[:, 0, 1], cross[:, 0, 2] = -arm[:, 2], arm[:, 1]
    cross[:, 1, 0], cross[:, 1, 2] = arm[:, 2], -arm[:, 0]
    cross[:, 2, 0], cross[:, 2, 1] = -arm[:, 1], arm[:, 0]
    inertia = 1e7 / np.array([club.moi_toe, club.moi_toe, club.moi_high])  # g cm² to 1/(kg m²)
    head = np.eye(3) * 1000 / club.head_mass - cross @ (inertia[:, None] * cross)
    slip = BALL_RADIUS**2 / BALL_INERTIA
    return head + np.diag([1 / BALL_MASS, 1 / BALL_MASS + slip, 1 / BALL_MASS + slip])


def _impulse(velocity: np.ndarray, mobility: np.ndarray, club: Club) -> np.ndarray:
    """Impulse on the ball in the face's axes, shape (3, n) [N s]."""
    closing = np.maximum(velocity[0], 0.0)
    restitution = np.clip(club.cor - RESTITUTION_SLOPE * (closing - RESTITUTION_AT), 0.3, MAX_RESTITUTION)
    grip = 1 + _tangential(club, closing)
    change = velocity * np.stack([1 + restitution, grip, grip])
    impulse = np.linalg.solve(mobility, change.T[:, :, None])[:, :, 0].T
    impulse[0] = np.maximum(impulse[0], 0.0)
    sideways = np.hypot(impulse[1], impulse[2])
    impulse[1:] *= np.minimum(1.0, club.friction * impulse[0] / np.maximum(sideways, 1e-12))
    return impulse


def _tangential(club: Club, closing: np.ndarray) -> np.ndarray:
    """Tangential restitution (n,): it falls with the normal impact speed [m/s], faster for hard impacts."""
    hard = np.maximum(closing - TANGENTIAL_HARD_FROM, 0.0)
    return club.tangential - TANGENTIAL_SLOPE * (closing - TANGENTIAL_AT) - TANGENTIAL_HARD * hard**2


def _describe(ball: np.ndarray, spin: np.ndarray) -> Launch:
    """Return speeds and angles of a ball velocity [m/s] and spin vector [rad/s], both of shape (3, n)."""
    level = np.hypot(ball[0], ball[2])
    direction = np.arctan2(ball[2], ball[0])
    rise = np.arctan2(ball[1], level)
    right = np.array([-np.sin(direction), np.zeros_like(direction), np.cos(direction)])
    over = np.array([-np.sin(rise) * np.cos(direction), np.cos(rise), -np.sin(rise) * np.sin(direction)])
    back, side = (spin * right).sum(0), -(spin * over).sum(0)
    # Below-zero backspin (topped balls) keeps the axis within ±90°: the sign of the spin is lost on purpose.
    axis = np.arctan2(side, np.maximum(back, 1e-9))
    return Launch(
        np.linalg.norm(ball, axis=0),
        np.degrees(rise),
        np.degrees(direction),
        np.hypot(back, side) * 60 / (2 * np.pi),
        np.degrees(axis),
    )

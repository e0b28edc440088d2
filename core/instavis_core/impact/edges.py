"""Where the ball meets the head: the face or an edge.

Beyond an edge the ball rolls around it: the line from the head to the ball's center tilts away from the face's normal
by the angle whose sine is the overhang over the two radii. The hosel is a cylinder whose axis lies in the plane of the
face. The ball meets it before the face if its center comes nearer to that axis than the face allows (plane geometry;
the radii are assumptions).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.flight.aerodynamics import BALL_RADIUS
from instavis_core.knowledge import Club
from instavis_core.message import Message
from instavis_core.units import Floats

EDGE_RADIUS = 1.5e-3  # m, of a face's rim (assumption)
FACE, HOSEL, TOE_EDGE, HEEL_EDGE, TOP_EDGE, LEADING_EDGE, MISSED = (
    "face",
    "hosel",
    "toe-edge",
    "heel-edge",
    "top-edge",
    "leading-edge",
    "missed",
)
PARTS = {
    HOSEL: Message("baseline-hosel"),
    TOE_EDGE: Message("baseline-toe-edge"),
    HEEL_EDGE: Message("baseline-heel-edge"),
    TOP_EDGE: Message("baseline-top-edge"),
    LEADING_EDGE: Message("baseline-leading-edge"),
    MISSED: Message("baseline-air"),
}
"""The parts a ball can meet instead of the face, in words."""


@dataclass(frozen=True)
class Contact:
    """Contact of n balls; arrays of shape (n,).

    ``part`` names what was met; ``toe`` and ``high`` are the contact point from the center of the face [m]; ``across``
    and ``upward`` tilt the normal toward the toe and upward [rad].
    """

    part: np.ndarray
    toe: np.ndarray
    high: np.ndarray
    across: np.ndarray
    upward: np.ndarray


def contact_of(toe: Floats, high: Floats, club: Club) -> Contact:
    """Return which part of the head the ball met.

    Parameters
    ----------
    toe, high : array_like of shape (n,)
        The ball's centre over the face, from its middle [mm].
    club : Club
    """
    toe, high = (np.atleast_1d(np.asarray(c, float)) / 1000 for c in (toe, high))
    right, left, low, top = (v / 1000 for v in (club.face_toe, club.face_heel, club.face_low, club.face_high))
    met = Contact(np.full(toe.shape, FACE, dtype=object), toe.copy(), high.copy(), *np.zeros((2, *toe.shape)))
    hosel_from = left if not club.hosel else left - np.sqrt((BALL_RADIUS + club.hosel / 1000) ** 2 - BALL_RADIUS**2)
    odd = ~((toe < right) & (toe > -hosel_from) & (high < top) & (high > -low))
    if odd.any():  # nearly every ball meets the face, so there is nothing to turn
        beyond = _beyond_the_face(toe[odd], high[odd], club)
        for name in ("part", "toe", "high", "across", "upward"):
            getattr(met, name)[odd] = getattr(beyond, name)
    return met


def _beyond_the_face(toe: np.ndarray, high: np.ndarray, club: Club) -> Contact:
    """Return contacts [m] beyond the face that an edge or the hosel may have."""
    right, left, low, top = (v / 1000 for v in (club.face_toe, club.face_heel, club.face_low, club.face_high))
    part = np.full(toe.shape, FACE, dtype=object)
    over = {
        TOE_EDGE: toe - right,
        HEEL_EDGE: -left - toe if not club.hosel else np.full(toe.shape, -1.0),
        TOP_EDGE: high - top,
        LEADING_EDGE: -low - high,
    }
    reach = BALL_RADIUS + EDGE_RADIUS
    tilt = {name: np.arcsin(np.clip(overhang / reach, 0.0, 1.0)) for name, overhang in over.items()}
    across = tilt[TOE_EDGE] - tilt[HEEL_EDGE]
    for name, overhang in over.items():
        part[overhang > 0] = name
    if club.hosel:
        hosel = club.hosel / 1000
        beside = toe + left
        touches = beside < np.sqrt((BALL_RADIUS + hosel) ** 2 - BALL_RADIUS**2)
        across = np.where(touches, np.arcsin(np.clip(beside / (BALL_RADIUS + hosel), -1.0, 1.0)), across)
        part[touches] = HOSEL
        over[HOSEL] = np.where(touches, -beside - hosel, -1.0)
    part[np.max(list(over.values()), axis=0) >= reach] = MISSED
    return Contact(
        part, np.clip(toe, -left, right), np.clip(high, -low, top), across, tilt[TOP_EDGE] - tilt[LEADING_EDGE]
    )

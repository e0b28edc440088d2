"""What else went along with the movement: aim and club speed, tested beside it after every ball.

A number can follow the movement because the balls with the movement were also aimed elsewhere or swung slower. A new
aim turns path and face by the same angle, while a movement turns the face by its own share of the path; their
difference shows what remains without the aim. Where an alignment stick fixes the aim, those balls need no such
difference. Club speed is measured, so it is held constant in the regression (analysis of covariance). *Verified* needs
evidence that remains beside each of them.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from instavis_core.message import Message
from instavis_core.proof.change import RunningChange
from instavis_core.proof.correction import Correction

RIVAL_METRICS = ("path_deg", "face_deg", "club_speed_mps")
REMAINS_BAR: Mapping[str, float] = {"aim": 4.0, "speed": 4.0}
"""Evidence for the movement that must remain beside each (figures: `./instavis validate proof`)."""
AIMED = ("path_deg", "face_deg")  # numbers that a new aim moves
MIN_GAP = 0.3  # share of the path by which a movement's face must differ from that of a new aim
MIN_SHARE = 0.8  # of the balls must have the other number
REASONS: Mapping[str, str] = {"aim": "prove-aim-could-explain", "speed": "prove-speed-could-explain"}


@dataclass(frozen=True, kw_only=True)
class Rival:
    """Another explanation of the change, and the evidence (n,) for the movement that remains beside it."""

    id: str
    remains: np.ndarray

    @property
    def stands(self) -> np.ndarray:
        """Return True after the balls (n,) where it could explain the change."""
        return self.remains < REMAINS_BAR[self.id]

    @property
    def reason(self) -> Message:
        """Return why the claim waits, and what to hit next."""
        return Message(REASONS[self.id])


def rivals_of(
    running: RunningChange,
    columns: Mapping[str, np.ndarray],
    doses: np.ndarray,
    correction: Correction,
    aim_held: np.ndarray,
) -> list[Rival]:
    """Return the other explanations that these balls can test.

    Parameters
    ----------
    running : RunningChange
        Of the primary number's baseline.
    columns : mapping of array, shape (n,)
        Primary number, path and face [°] and club speed [m/s] of the stage's balls, golfer frame; NaN where unknown.
    doses : array, shape (n,)
        Of the movement, 0 to 1; NaN for a ball that does not count.
    correction : Correction
    aim_held : array of bool, shape (n,)
        Balls hit along an alignment stick.
    """
    values, rivals = columns[correction.primary], []
    if correction.primary in AIMED:
        without_aim = _without_aim(columns, correction)
        remains = np.zeros(doses.size)
        if without_aim is not None and _covers(without_aim, values):
            remains = _evidence(running, without_aim, doses, correction)
        if aim_held.any():
            held = np.where(aim_held, doses, np.nan)
            remains = np.maximum(remains, _evidence(running, values, held, correction))
        rivals.append(Rival(id="aim", remains=remains))
    speed = columns["club_speed_mps"]
    if _covers(speed, values):
        rivals.append(Rival(id="speed", remains=running.beside(values, doses, speed).evidence(correction.sign)))
    return rivals


def _evidence(running: RunningChange, values: np.ndarray, doses: np.ndarray, correction: Correction) -> np.ndarray:
    """Return the evidence (n,), from the stage alone, that the values follow the doses."""
    return running.follow(values, (doses, np.inf)).of(0).evidence(correction.sign)


def _covers(other: np.ndarray, values: np.ndarray) -> bool:
    """Return True if nearly all balls with the number have the other one too."""
    known = ~np.isnan(values)
    return bool(known.any()) and bool((~np.isnan(other[known])).mean() >= MIN_SHARE)


def _without_aim(columns: Mapping[str, np.ndarray], correction: Correction) -> np.ndarray | None:
    """Return the primary number (n,) without what a new aim does to it; None if aim and movement look alike."""
    gap, ratio = columns["path_deg"] - columns["face_deg"], correction.face_per_path
    if ratio is None:
        return -gap if correction.primary == "face_deg" else gap
    share = 1 if correction.primary == "path_deg" else ratio
    if abs(1 - ratio) < MIN_GAP or abs(share) < MIN_GAP:
        return None
    return gap * share / (1 - ratio)

"""What is known about this golfer, in the form the engine uses."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from instavis_core.errors import InputError, is_one_of
from instavis_core.golfer import Golfer
from instavis_core.knowledge import Club, Knowledge, vocabulary
from instavis_core.message import Message
from instavis_core.reading import clean_balls
from instavis_core.reading.completion import complete
from instavis_core.reading.disagreements import disagreements
from instavis_core.reading.robust import shrunk_spread, summarise
from instavis_core.shots import Block

CENTRES = ("path_deg", "face_deg", "attack_deg", "dynamic_loft_deg", "strike_toe_mm", "strike_high_mm")
SPREADS = {"face_spread": "face_deg", "low_point_spread": "attack_deg"}
PIECES = CENTRES + tuple(SPREADS)
NOT_SEEN = "not-seen"
SIDES = ("left", "straight", "right", "both")
SPREAD_FROM = 6  # clean balls before a spread is evidence
CLUB_OWN = 0.3  # club-to-club difference of a golfer, as a share of how golfers differ (assumption)
CLUB_OWN_SPREAD = 0.1  # the same of spreads, log (assumption)
DEVICE_BIAS = {  # constant offset of a monitor, one SD (assumption)
    "path_deg": 0.5,
    "face_deg": 0.5,
    "attack_deg": 0.5,
    "dynamic_loft_deg": 0.8,
    "strike_toe_mm": 1.5,
    "strike_high_mm": 1.5,
}


@dataclass(frozen=True, kw_only=True)
class Intake:
    """The student's own words; sides are as seen from behind the ball (device frame)."""

    start: str | None = None
    curve: str | None = None
    contact: tuple[str, ...] = ()
    feels: tuple[str, ...] = ()
    old_faults: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Measured:
    """Block statistics as evidence, golfer frame.

    ``away`` (p,) is the distance of each piece from a golfer without faults (log ratio for spreads), NaN where unknown.
    ``error`` (p,) is its sampling, device and inference error, one SD; ``device`` (p,) is the part of it that all balls
    share. The pieces are `PIECES`. ``disagreements`` name numbers that the other numbers of the same balls contradict
    too often. ``clubs`` are the clubs that were joined; the numbers shown are those of the first.
    """

    away: np.ndarray
    error: np.ndarray
    device: np.ndarray
    clean: int
    inferred: frozenset[str]
    disagreements: tuple[Message, ...]
    clubs: tuple[Club, ...]


def read_intake(raw: Any) -> Intake:
    """Check an intake document.

    Raises
    ------
    InputError
        For unknown sides or words.
    """
    if raw is None:
        return Intake()
    if not isinstance(raw, dict):
        raise InputError("intake", raw, Message("cause-object-start-curve-contact-feels"))
    words, known_faults = vocabulary().intake_words, vocabulary().fault_ids
    old_faults = raw.get("old_faults") or []
    if not isinstance(old_faults, list):
        raise InputError("intake.old_faults", old_faults, Message("cause-list-faults"))
    for fault in old_faults:
        if not is_one_of(fault, known_faults):
            raise InputError("intake.old_faults", fault, Message("common-one", known=", ".join(sorted(known_faults))))
    sides = {}
    for name in ("start", "curve"):
        value = raw.get(name)
        if value not in (None, "") and value not in SIDES:
            raise InputError(f"intake.{name}", value, Message("common-one", known=", ".join(SIDES)))
        sides[name] = value or None
    lists = {}
    for name, kind in (("contact", "contact"), ("feels", "feel")):
        values = raw.get(name) or []
        if not isinstance(values, list):
            raise InputError(f"intake.{name}", values, Message("cause-list-words"))
        for value in values:
            if f"{kind}:{value}" not in words:
                known = [w.id for w in words.values() if w.kind == kind]
                raise InputError(f"intake.{name}", value, Message("common-one", known=", ".join(known)))
        lists[name] = tuple(dict.fromkeys(values))
    return Intake(
        start=sides["start"],
        curve=sides["curve"],
        contact=lists["contact"],
        feels=lists["feels"],
        old_faults=tuple(dict.fromkeys(old_faults)),
    )


def read_checks(knowledge: Knowledge, raw: Any) -> dict[str, str]:
    """Check answers against the checks of a knowledge; ``not-seen`` answers are left out.

    Raises
    ------
    InputError
        For unknown looks or grades.
    """
    if raw is None:
        return {}
    if not isinstance(raw, dict):
        raise InputError("checks", raw, Message("cause-object-check-answer"))
    checks = knowledge.checks
    graded = {}
    for name, grade in raw.items():
        if name not in checks:
            raise InputError(f"checks.{name}"[:80], grade, Message("common-one-checks", known=", ".join(checks)))
        if grade == NOT_SEEN:
            continue
        if grade not in checks[name].grades:
            raise InputError(
                f"checks.{name}", grade, Message("common-one", known=", ".join((*checks[name].grades, NOT_SEEN)))
            )
        graded[name] = grade
    return graded


def measure(block: Block, set_aside: frozenset[int] = frozenset()) -> Measured:
    """Reduce a block to the pieces the engine weighs."""
    clean = clean_balls(block, set_aside)
    checked = complete(block)
    completed = checked.without_doubtful()
    neutral = neutral_delivery(block.club)
    usual = block.golfer.skill.scatter
    away, error, device = np.full(len(PIECES), np.nan), np.full(len(PIECES), np.nan), np.zeros(len(PIECES))
    for k, metric in enumerate(CENTRES):
        values = completed.columns[metric][clean]
        values = values[~np.isnan(values)]
        if not values.size:
            continue
        centre = summarise(values)
        # The spread of a few balls is uncertain: add five balls' worth of the usual one.
        spread = shrunk_spread(centre.spread, centre.n, usual[metric])
        shared = float(np.mean(completed.sd.get(metric, np.zeros(1))[clean])) if metric in completed.sd else 0.0
        away[k] = centre.centre - neutral.get(metric, 0.0)
        device[k] = DEVICE_BIAS[metric]
        error[k] = np.sqrt(spread**2 / centre.n + device[k] ** 2 + shared**2)
    for k, metric in enumerate(SPREADS.values(), start=len(CENTRES)):
        values = completed.columns[metric][clean]
        values = values[~np.isnan(values)]
        if values.size < SPREAD_FROM or metric in completed.inferred:
            continue
        away[k] = np.log(max(summarise(values).spread, 0.2) / usual[metric])
        error[k] = np.sqrt(1 / (2 * (values.size - 1)) + 0.12**2)
    return Measured(
        away=away,
        error=error,
        device=device,
        clean=int(clean.sum()),
        inferred=completed.inferred,
        disagreements=disagreements(checked.doubtful),
        clubs=(block.club,),
    )


def joined(first: Measured, others: Sequence[Measured], golfer: Golfer) -> Measured:
    """Combine what a golfer did with several clubs into numbers for the first club.

    A cause moves every club's numbers by that club's scale in the table. Their average, weighted by scale ÷ variance,
    holds all the information about the cause (the sufficient statistic of a common factor). Each club may have an error
    of its own; the device's error is the same for all.
    """
    parts = [first, *(m for m in others if m.clean)]
    if len(parts) == 1:
        return first
    scale = np.stack([club_scale(m.clubs[0]) / club_scale(first.clubs[0]) for m in parts])
    away = np.stack([m.away for m in parts])
    own = [CLUB_OWN * golfer.skill.between_sd[m] for m in CENTRES] + [CLUB_OWN_SPREAD] * len(SPREADS)
    device = np.max([m.device for m in parts], axis=0)
    variance = np.stack([m.error**2 - m.device**2 for m in parts]) + np.square(own)
    precision = np.where(np.isnan(away), 0.0, scale**2 / variance)
    known = precision.sum(0) > 0
    total = np.where(known, precision.sum(0), 1.0)
    centre = (precision * np.nan_to_num(away / scale)).sum(0) / total
    return Measured(
        away=np.where(known, centre, np.nan),
        error=np.where(known, np.sqrt(1 / total + device**2), np.nan),
        device=device,
        clean=sum(m.clean for m in parts),
        inferred=frozenset[str]().union(*(m.inferred for m in parts)),
        disagreements=tuple(dict.fromkeys(text for m in parts for text in m.disagreements)),
        clubs=tuple(m.clubs[0] for m in parts),
    )


def club_scale(club: Club) -> np.ndarray:
    """Return how large an effect of the tables is with a club, shape (p,)."""
    by_metric = {"path_deg": club.path_scale, "face_deg": club.path_scale}
    by_metric |= {"attack_deg": club.attack_scale, "dynamic_loft_deg": club.attack_scale}
    return np.array([by_metric.get(piece, 1.0) for piece in PIECES])


def neutral_delivery(club: Club) -> dict[str, float]:
    """Delivery of a golfer without faults with this club [°]; every other metric is 0."""
    return {"attack_deg": club.attack, "dynamic_loft_deg": club.usual_dynamic_loft}


def golfer_side(side: str | None, golfer: Golfer) -> str | None:
    """Convert a side as seen from behind the ball to the golfer's: ``trail`` (push side), ``lead``, straight, both."""
    if side in (None, "straight", "both"):
        return side
    return "trail" if (side == "right") == (golfer.hand == "right") else "lead"

"""One swing of a practice lesson's golfer: the ball, the movement and the body."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any

import numpy as np

from instavis_core.errors import InputError
from instavis_core.figure import MovingFigure, Shown, View, moving_figure
from instavis_core.knowledge import Club
from instavis_core.knowledge.figure import Picture, load_figure
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.message import Message
from instavis_core.simulate import simulate_shots
from instavis_core.training.golfer import TrainingGolfer

SHARES = {"done": 1.0, "partly": 0.5}
"""How much of the movement's relief a swing has; 0 if it was missed or nothing was tried."""
AMOUNT_SPREAD, TEMPO_SPREAD = 0.1, 0.05  # log SD, from swing to swing


@dataclass(frozen=True, kw_only=True)
class Attempt:
    """The movement that a swing tried: against which ``fault`` (id), and how well."""

    fault: str
    effort: str


def training_ball(
    who: TrainingGolfer,
    club: Club,
    seed: int,
    number: int,
    at: datetime,
    fault: str | None = None,
    skill: float | None = None,
) -> tuple[dict[str, Any], Attempt | None, float]:
    """Hit one ball.

    Parameters
    ----------
    who : TrainingGolfer
    club : Club
    seed, number : int
        Of the lesson, and of the ball in it: the same ball comes back by both.
    at : datetime
        With zone.
    fault : str, optional
        Id of the fault that is corrected; without one nothing is tried.
    skill : float, optional
        The chance that the movement comes off; a beginner's without it.

    Returns
    -------
    record, attempt, skill
        The shot record (device frame), what was tried, and the skill afterwards.
    """
    rng = np.random.default_rng([seed, number])
    sim = replace(who.simulated, balls=number - 1)
    if skill is not None:
        sim.skill_of_move = skill
    attempt = Attempt(fault=fault, effort=sim.tries(rng)) if fault else None
    sim.severity = {key: much * (1 - _relief(who, key, attempt)) for key, much in who.faults.items()}
    (record,) = simulate_shots(sim, club, 1, rng, at)
    record.pop("turf", None)
    return record, attempt, sim.skill_of_move


def training_figure(who: TrainingGolfer, check: str, seed: int, number: int, attempt: Attempt | None) -> MovingFigure:
    """Draw the swing of a ball for a check, with everything that is not OK in the body.

    Parameters
    ----------
    who : TrainingGolfer
    look : str
        Id of the look; it says from where.
    seed, number : int
        As for `training_ball`.
    attempt : Attempt, optional
        What was tried on the ball.

    Raises
    ------
    InputError
        For an unknown look.
    """
    table = load_figure().checks
    if check not in table:
        raise InputError("check", check, Message("common-one-checks", known=", ".join(table)))
    rng = np.random.default_rng([seed, number, 1])
    tempo = float(np.exp(rng.normal(0, TEMPO_SPREAD)))
    shown = list(_visible_signs(rng, who, table, attempt, first=check))
    return moving_figure(shown, View(table[check].view, who.golfer.hand), tempo)


def _relief(who: TrainingGolfer, key: str, attempt: Attempt | None) -> float:
    """Return how much of a fault the attempt removes."""
    if attempt is None or who.fault_of(attempt.fault) != key:
        return 0.0
    return who.simulated.traits.relief * SHARES.get(attempt.effort, 0.0)


def _visible_signs(
    rng: np.random.Generator, who: TrainingGolfer, table: dict[str, Picture], attempt: Attempt | None, first: str
) -> Iterator[Shown]:
    """Return checks that are not OK.

    Of two that move the same part at the same moment, only one is drawn: the requested one if it is among them.
    """
    taken: set[tuple[str, str]] = set()
    for name in sorted(who.checks, key=lambda n: n != first):
        grade, amount = who.checks[name]
        amount *= float(np.exp(rng.normal(0, AMOUNT_SPREAD)))
        picture = table[name]
        moved = {(picture.at, part) for part in picture.grades[grade]}
        if moved & taken:
            continue
        taken |= moved
        yield Shown(picture=picture, grade=grade, amount=amount * (1 - _eased(who, name, grade, attempt)))


def _eased(who: TrainingGolfer, check: str, grade: str, attempt: Attempt | None) -> float:
    """Return how much less of an answer shows because its fault was reduced."""
    if attempt is None or shipped_knowledge().checks[check].speaks.get(grade, {}).get(attempt.fault, 0) <= 0:
        return 0.0
    key = who.fault_of(attempt.fault)
    return _relief(who, key, attempt) if key else 0.0

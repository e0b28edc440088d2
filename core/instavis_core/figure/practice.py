"""Made-up swings for eye practice: the figure at full speed with one answer of a check, and often another fault."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.errors import InputError
from instavis_core.figure.moving import MovingFigure, Shown, moving_figure
from instavis_core.figure.views import View
from instavis_core.knowledge.figure import Picture, load_figure
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.message import Message

SWINGS = 10
SOUND_SHARE = 0.5  # of the swings in which the check is OK
AMOUNT = (0.6, 1.3)  # range of strength of an answer in a swing
BESIDE_SHARE, BESIDE_AMOUNT = 0.6, (0.3, 0.8)  # another check's answer in the same swing, and its strength
TEMPO_SPREAD = 0.06  # log SD


@dataclass(frozen=True, kw_only=True)
class PracticeSwing:
    """A practice swing: the ``figure`` shows ``grade``, one of ``grades``."""

    check: str
    grade: str
    grades: tuple[str, ...]
    figure: MovingFigure


@dataclass(frozen=True, kw_only=True)
class Planned:
    """The contents of a swing before it is drawn: ``grade``, one of ``grades``, and what is ``shown``."""

    picture: Picture
    grade: str
    grades: tuple[str, ...]
    shown: tuple[Shown, ...]
    tempo: float


def planned_swing(check: str, seed: int, number: int) -> Planned:
    """Decide the contents of one swing of a series.

    Parameters
    ----------
    look : str
        Id of the look.
    seed : int
        Of the series: the same series comes back by the same seed.
    number : int
        Of the swing in its series, from 0 below `SWINGS`.

    Raises
    ------
    InputError
        For an unknown look, or a number beyond the series.
    """
    table = load_figure().checks
    if check not in table:
        raise InputError("check", check, Message("common-one-checks", known=", ".join(table)))
    if not 0 <= number < SWINGS:
        raise InputError("number", number, Message("figures-from-0-to", last=SWINGS - 1))
    rng = np.random.default_rng([seed, number, list(table).index(check)])
    picture, grades = table[check], shipped_knowledge().checks[check].grades
    grade = grades[0] if rng.random() < SOUND_SHARE else str(rng.choice(grades[1:]))
    shown = [Shown(picture=picture, grade=grade, amount=rng.uniform(*AMOUNT))]
    if rng.random() < BESIDE_SHARE:
        shown += _beside(rng, picture, table)
    tempo = float(np.exp(rng.normal(0, TEMPO_SPREAD)))
    return Planned(picture=picture, grade=grade, grades=tuple(grades), shown=tuple(shown), tempo=tempo)


def practice_swing(check: str, seed: int, number: int, hand: str = "right") -> PracticeSwing:
    """Draw one swing of a series.

    Parameters
    ----------
    look, seed, number
        As for `planned_swing`.
    hand : {"right", "left"}

    Raises
    ------
    InputError
        For an unknown look, or a number beyond the series.
    """
    planned = planned_swing(check, seed, number)
    figure = moving_figure(planned.shown, View(planned.picture.view, hand), planned.tempo)
    return PracticeSwing(check=check, grade=planned.grade, grades=planned.grades, figure=figure)


def _beside(rng: np.random.Generator, picture: Picture, table: dict[str, Picture]) -> list[Shown]:
    """Return a fault of another check that does not affect this one."""
    own = {name for adds in picture.grades.values() for name in adds}
    others = [
        (other, grade)
        for other in table.values()
        for grade, adds in other.grades.items()
        if adds and not own & set(adds)
    ]
    other, grade = others[int(rng.integers(len(others)))]
    return [Shown(picture=other, grade=grade, amount=rng.uniform(*BESIDE_AMOUNT))]

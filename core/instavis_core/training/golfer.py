"""The golfer of a practice lesson: the same faults for the same level and seed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

import numpy as np

from instavis_core.errors import InputError
from instavis_core.golfer import Golfer
from instavis_core.knowledge import Check, vocabulary
from instavis_core.knowledge.figure import load_figure
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.message import Message
from instavis_core.simulate import SimulatedGolfer, Traits, draw_golfer

CLUB = "7i"
LEFT_SHARE = 0.15
STRONG, WEAK = 2, 1
ELSEWHERE_AMOUNT = (0.3, 0.6)  # strength of an answer without a fault


@dataclass(frozen=True, kw_only=True)
class Level:
    """Difficulty of a practice lesson: ranges of ``severity`` of every fault and of ``handicap``, traits, the
    probability that a ``strong`` or ``weak`` sign of a fault shows, and that a sign shows without a fault.
    """

    severity: tuple[tuple[float, float], ...]
    handicap: tuple[float, float]
    traits: Traits
    strong: float
    weak: float
    elsewhere: float


LEVELS: Mapping[str, Level] = MappingProxyType(
    {
        "clear": Level(
            severity=((0.95, 1.15),),
            handicap=(4, 9),
            traits=Traits(effect_spread=0.15, mishit_rate=0.02, learning=0.09),
            strong=1.0,
            weak=0.75,
            elsewhere=0.0,
        ),
        "usual": Level(
            severity=((0.8, 1.0), (0.25, 0.4)),
            handicap=(9, 18),
            traits=Traits(),
            strong=0.95,
            weak=0.6,
            elsewhere=0.05,
        ),
        "tangled": Level(
            severity=((0.75, 0.95), (0.45, 0.65)),
            handicap=(14, 26),
            traits=Traits(effect_spread=0.35, mishit_rate=0.08, learning=0.045),
            strong=0.9,
            weak=0.5,
            elsewhere=0.1,
        ),
    }
)
"""By name, the easiest first."""


@dataclass(frozen=True, kw_only=True)
class TrainingGolfer:
    """The golfer of a practice lesson: ``faults`` with their severity, strongest first; ``looks`` are the answers that
    checks show, if not OK, and how strongly.
    """

    golfer: Golfer
    simulated: SimulatedGolfer
    faults: Mapping[str, float]
    checks: Mapping[str, tuple[str, float]]

    def true_grade(self, check: Check) -> str:
        """Return what a check shows."""
        return self.checks[check.id][0] if check.id in self.checks else check.grades[0]

    def fault_of(self, fault: str) -> str | None:
        """Return the golfer's own row of a fault by id, any variant; None if absent."""
        return next((key for key in self.faults if key.partition("/")[0] == fault), None)


def training_golfer(level: str, seed: int) -> TrainingGolfer:
    """Draw the golfer of a practice lesson.

    Parameters
    ----------
    level : str
        One of `LEVELS`.
    seed : int
        The same golfer comes back by the same seed.

    Raises
    ------
    InputError
        For an unknown level.
    """
    if level not in LEVELS:
        raise InputError("level", level, Message("common-one", known=", ".join(LEVELS)))
    drawn, rng = LEVELS[level], np.random.default_rng([seed, list(LEVELS).index(level)])
    hand = "left" if rng.random() < LEFT_SHARE else "right"
    golfer = Golfer(hand, round(float(rng.uniform(*drawn.handicap)), 1))
    faults: dict[str, float] = {}
    keys = [c.key for c in shipped_knowledge().of_kind("fault")]
    for severity in drawn.severity:
        others = [k for k in keys if k.partition("/")[0] not in {f.partition("/")[0] for f in faults}]
        faults[str(rng.choice(others))] = float(rng.uniform(*severity))
    simulated = draw_golfer(rng, faults, golfer, vocabulary().clubs[CLUB], traits=drawn.traits)
    return TrainingGolfer(golfer=golfer, simulated=simulated, faults=faults, checks=_signs(rng, faults, drawn))


def _signs(rng: np.random.Generator, faults: Mapping[str, float], level: Level) -> dict[str, tuple[str, float]]:
    shown = {}
    severity = {key.partition("/")[0]: much for key, much in faults.items()}
    for name in load_figure().checks:
        check = shipped_knowledge().checks[name]
        signs = {g: max((check.speaks.get(g, {}).get(f, 0) for f in severity), default=0) for g in check.grades[1:]}
        grade = max(signs, key=lambda g: signs[g])
        lucky, amount = rng.random(), rng.uniform(*ELSEWHERE_AMOUNT)
        chance = {STRONG: level.strong, WEAK: level.weak}.get(signs[grade], level.elsewhere)
        if lucky >= chance:
            continue
        if signs[grade] > 0:
            amount = max(much for f, much in severity.items() if check.speaks[grade].get(f, 0) == signs[grade])
        else:
            grade = str(rng.choice(check.grades[1:]))
        shown[name] = (grade, float(amount))
    return shown

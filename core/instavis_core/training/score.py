"""The coach's score in a practice lesson, shown at the end."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.message import Message
from instavis_core.terms import JUDGED, Outcome
from instavis_core.training.golfer import TrainingGolfer


@dataclass(frozen=True, kw_only=True)
class CoachActions:
    """What the coach did.

    ``balls`` were hit, looks ``graded`` by eye, a fault ``corrected`` (id), which had its ``outcome``; ``marked`` is by
    ball how the movement went beside what the coach said.
    """

    balls: int
    graded: Mapping[str, str]
    corrected: str | None = None
    outcome: str | None = None
    marked: Sequence[tuple[str, str]] = ()


@dataclass(frozen=True, kw_only=True)
class HiddenFault:
    """A fault of the golfer; ``leads`` for the strongest."""

    id: str
    label: Message
    severity: float
    leads: bool


@dataclass(frozen=True, kw_only=True)
class GradedLook:
    """A check as the coach answered it, and the truth."""

    look: str
    label: Message
    grade: str
    true_grade: str


@dataclass(frozen=True, kw_only=True)
class Score:
    """What was hidden, and how the coach did.

    ``right_cause`` says whether the correction was of a fault the golfer had, ``leading_cause`` of the strongest; None
    where none was chosen. ``right_claim`` says whether what was claimed is what was there: verified where the cause was
    right, not verified where it was not; None while nothing is claimed. ``marks_right`` of ``marks`` told how the
    movement went; without a fault of the golfer's nobody can tell, and there are none.
    """

    faults: list[HiddenFault]
    balls: int
    looks: list[GradedLook]
    looks_right: int
    corrected: Message | None = None
    right_cause: bool | None = None
    leading_cause: bool | None = None
    outcome: str | None = None
    right_claim: bool | None = None
    marks: int = 0
    marks_right: int = 0


def score(who: TrainingGolfer, actions: CoachActions) -> Score:
    """Compare what a coach did with what was hidden.

    Parameters
    ----------
    who : TrainingGolfer
    actions : CoachActions
    """
    known = shipped_knowledge()
    leading = next(iter(who.faults)).partition("/")[0]
    corrected = actions.corrected
    right = None if corrected is None else who.fault_of(corrected) is not None
    judged = corrected is not None and actions.outcome in JUDGED
    marked = [(true, result) for true, result in actions.marked if result] if right else []
    looks = [
        GradedLook(look=name, label=check.label, grade=actions.graded[name], true_grade=who.true_grade(check))
        for name, check in known.checks.items()
        if actions.graded.get(name) in check.grades
    ]
    return Score(
        faults=[
            HiddenFault(
                id=key.partition("/")[0],
                label=known.label_of(key.partition("/")[0]),
                severity=severity,
                leads=place == 0,
            )
            for place, (key, severity) in enumerate(who.faults.items())
        ],
        balls=actions.balls,
        looks=looks,
        looks_right=sum(look.grade == look.true_grade for look in looks),
        corrected=known.label_of(corrected) if corrected else None,
        right_cause=right,
        leading_cause=None if corrected is None else corrected == leading,
        outcome=actions.outcome,
        right_claim=(actions.outcome == Outcome.VERIFIED) == right if judged else None,
        marks=len(marked),
        marks_right=sum(true == result for true, result in marked),
    )

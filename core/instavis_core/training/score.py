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
    """What the coach did: ``balls`` hit, checks ``graded`` by eye, the fault ``corrected`` (id) and its ``outcome``;
    ``marked`` holds, by ball, the true movement and the coach's mark.
    """

    balls: int
    graded: Mapping[str, str]
    corrected: str | None = None
    outcome: str | None = None
    marked: Sequence[tuple[str, str]] = ()


@dataclass(frozen=True, kw_only=True)
class HiddenFault:
    """A fault of the golfer; ``leads`` is true for the strongest."""

    id: str
    label: Message
    severity: float
    leads: bool


@dataclass(frozen=True, kw_only=True)
class AnsweredCheck:
    """A check as the coach answered it, and the truth."""

    check: str
    label: Message
    grade: str
    true_grade: str


@dataclass(frozen=True, kw_only=True)
class Score:
    """What was hidden, and how the coach did.

    ``right_cause`` says whether the corrected fault was one of the golfer's, ``leading_cause`` whether it was the
    strongest; None without a correction. ``right_claim`` says whether the claim was true: verified with the right
    cause, or not verified with a wrong one; None without a claim. ``marks_right`` of ``marks`` agreed with the
    movement; without a fault to correct, no mark can be right or wrong and there are none.
    """

    faults: list[HiddenFault]
    balls: int
    checks: list[AnsweredCheck]
    checks_right: int
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
    checks = [
        AnsweredCheck(check=name, label=check.label, grade=actions.graded[name], true_grade=who.true_grade(check))
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
        checks=checks,
        checks_right=sum(check.grade == check.true_grade for check in checks),
        corrected=known.label_of(corrected) if corrected else None,
        right_cause=right,
        leading_cause=None if corrected is None else corrected == leading,
        outcome=actions.outcome,
        right_claim=(actions.outcome == Outcome.VERIFIED) == right if judged else None,
        marks=len(marked),
        marks_right=sum(true == result for true, result in marked),
    )

"""What is known about a coach's accuracy."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from statistics import median

from instavis.accounts.models import Coach
from instavis.assessment.eyes.models import EyePair, EyePractice
from instavis_core.cause import USUAL_EYE, Eye, Record, calibrated_eye
from instavis_core.knowledge import Knowledge
from instavis_core.message import Message


@dataclass(frozen=True, kw_only=True)
class EyeRow:
    """One check: how often the eye and the instruments agreed, and what was seen of faults that were there and of
    faults that were not; the same for made-up swings with the usual time for an answer [s]; and the share of answers
    that the ranking treats as uninformative.
    """

    check: str
    label: Message
    both: int
    same: int
    faults: int
    hits: int
    sound: int
    false_alarms: int
    practised: int
    practised_same: int
    practised_seconds: float | None
    says_nothing: float


def eye_of(coaches: Iterable[int], knowledge: Knowledge) -> Eye:
    """Return the accuracy of some coaches for the ranking; the usual one if unknown."""
    who = set(coaches)
    pairs, practice = EyePair.objects.filter(coach_id__in=who), EyePractice.objects.filter(coach_id__in=who)
    records = _records(pairs, practice, knowledge)
    return calibrated_eye(records) if records else USUAL_EYE


def rows_of(coach: Coach, knowledge: Knowledge) -> list[EyeRow]:
    """Return every check with comparisons, in the order of the checks."""
    pairs = list(EyePair.objects.filter(coach=coach))
    practice = list(EyePractice.objects.filter(coach=coach))
    eye = calibrated_eye(_records(pairs, practice, knowledge))
    rows = []
    for name, check in knowledge.checks.items():
        mine = [p for p in pairs if p.check_id == name]
        practised = [p for p in practice if p.check_id == name]
        if not mine and not practised:
            continue
        faults = [p for p in mine if p.measured != check.grades[0]]
        sound = [p for p in mine if p.measured == check.grades[0]]
        rows.append(
            EyeRow(
                check=name,
                label=check.label,
                both=len(mine),
                same=sum(p.grade == p.measured for p in mine),
                faults=len(faults),
                hits=sum(p.grade != check.grades[0] for p in faults),
                sound=len(sound),
                false_alarms=sum(p.grade != check.grades[0] for p in sound),
                practised=len(practised),
                practised_same=sum(p.grade == p.true_grade for p in practised),
                practised_seconds=median(p.seconds for p in practised) if practised else None,
                says_nothing=eye.says_nothing[name],
            )
        )
    return rows


def _records(pairs: Iterable[EyePair], practice: Iterable[EyePractice], knowledge: Knowledge) -> dict[str, Record]:
    measured: dict[str, list[bool]] = {}
    practised: dict[str, list[bool]] = {}
    for pair in pairs:
        measured.setdefault(pair.check_id, []).append(pair.grade == pair.measured)
    for swing in practice:
        practised.setdefault(swing.check_id, []).append(swing.grade == swing.true_grade)
    records = {}
    for check in (*measured, *practised):
        if check in knowledge.checks:
            same, right = measured.get(check, []), practised.get(check, [])
            grades = len(knowledge.checks[check].grades)
            records[check] = Record(
                same=sum(same), both=len(same), grades=grades, right=sum(right), practised=len(right)
            )
    return records

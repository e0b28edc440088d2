"""What is known of a coach's eye."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from instavis.accounts.models import Coach
from instavis.assessment.eyes.models import EyePair
from instavis_core.cause import USUAL_EYE, Eye, Record, calibrated_eye
from instavis_core.knowledge import Knowledge
from instavis_core.message import Message


@dataclass(frozen=True, kw_only=True)
class EyeRow:
    """One look: how often the eye and the instruments said the same, what was seen of faults that were there and of
    none that was, and the share of grades that the ranking takes to say nothing.
    """

    look: str
    label: Message
    both: int
    same: int
    faults: int
    hits: int
    sound: int
    false_alarms: int
    says_nothing: float


def eye_of(coaches: Iterable[int], knowledge: Knowledge) -> Eye:
    """The eye of some coaches, as the ranking weighs it; a usual one where nothing is known."""
    records = _records(EyePair.objects.filter(coach_id__in=set(coaches)), knowledge)
    return calibrated_eye(records) if records else USUAL_EYE


def rows_of(coach: Coach, knowledge: Knowledge) -> list[EyeRow]:
    """Every look that a coach's eye could be compared in, in the order of the looks."""
    pairs = list(EyePair.objects.filter(coach=coach))
    eye = calibrated_eye(_records(pairs, knowledge))
    rows = []
    for look, check in knowledge.checks.items():
        mine = [p for p in pairs if p.look == look]
        if not mine:
            continue
        faults = [p for p in mine if p.measured != check.grades[0]]
        sound = [p for p in mine if p.measured == check.grades[0]]
        rows.append(
            EyeRow(
                look=look,
                label=check.label,
                both=len(mine),
                same=sum(p.grade == p.measured for p in mine),
                faults=len(faults),
                hits=sum(p.grade != check.grades[0] for p in faults),
                sound=len(sound),
                false_alarms=sum(p.grade != check.grades[0] for p in sound),
                says_nothing=eye.says_nothing[look],
            )
        )
    return rows


def _records(pairs: Iterable[EyePair], knowledge: Knowledge) -> dict[str, Record]:
    counted: dict[str, list[bool]] = {}
    for pair in pairs:
        if pair.look in knowledge.checks:
            counted.setdefault(pair.look, []).append(pair.grade == pair.measured)
    return {
        look: Record(same=sum(same), both=len(same), grades=len(knowledge.checks[look].grades))
        for look, same in counted.items()
    }

"""What a change of the academy's knowledge would do to the rankings of stored lessons."""

from __future__ import annotations

from typing import Any

from ninja import Router, Schema

from instavis.accounts.requests import CoachRequest
from instavis.assessment.findings.selectors import rank
from instavis.knowledge.api import ChangesIn
from instavis.knowledge.selectors import knowledge_of, knowledge_with
from instavis.knowledge.services import checked
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import lessons_of
from instavis.platform.errors import Problems
from instavis_core.cause import Ranking
from instavis_core.knowledge import Knowledge

LESSONS_COMPARED = 12
FAULTS_SHOWN = 3
MIN_MOVED = 0.01

router = Router()


class RankedOut(Schema):
    fault: str
    probability: float


class ComparedOut(Schema):
    """A stored lesson whose ranking would change."""

    lesson_id: int
    student: str
    day: str
    before: list[RankedOut]
    after: list[RankedOut]


class PreviewOut(Schema):
    """How many stored lessons were ranked, and which would change."""

    lessons: int
    moved: list[ComparedOut]


@router.post("/knowledge/preview", response={200: PreviewOut, 422: Problems})
def preview_changes(request: CoachRequest, data: ChangesIn) -> dict[str, Any]:
    """Return what the changes would do to the rankings of the newest lessons; nothing is saved."""
    after = knowledge_with(checked(data.changes))
    lessons = list(lessons_of(request.user)[:LESSONS_COMPARED])
    return {"lessons": len(lessons), "moved": compare(lessons, knowledge_of(request.user.academy), after)}


def compare(lessons: list[Lesson], before: Knowledge, after: Knowledge) -> list[ComparedOut]:
    """Return the stored lessons where a probability changes by 0.01 or more."""
    rows = []
    for lesson in lessons:
        first, then = _leading(rank(lesson, before)), _leading(rank(lesson, after))
        if any(abs(first.get(i, 0.0) - then.get(i, 0.0)) >= MIN_MOVED for i in {**first, **then}):
            rows.append(
                ComparedOut(
                    lesson_id=lesson.pk,
                    student=lesson.student.name,
                    day=lesson.day.isoformat(),
                    before=_shown(first),
                    after=_shown(then),
                )
            )
    return rows


def _leading(ranking: Ranking) -> dict[str, float]:
    return {f.id: round(f.probability, 3) for f in ranking.faults[:FAULTS_SHOWN]}


def _shown(leading: dict[str, float]) -> list[RankedOut]:
    return [RankedOut(fault=fault, probability=p) for fault, p in leading.items()]

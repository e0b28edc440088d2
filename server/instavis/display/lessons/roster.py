"""All students with the lesson to continue: one row per student, a fixed number of queries."""

from __future__ import annotations

from collections import defaultdict
from datetime import timedelta
from typing import Any

from django.db.models import Exists, OuterRef, Subquery
from django.utils import timezone
from ninja import Query, Router, Schema
from pydantic import Field

from instavis.accounts.access import staff
from instavis.accounts.api import StudentOut
from instavis.accounts.requests import CoachRequest
from instavis.accounts.selectors import real_students
from instavis.display.lessons.api import LessonRow
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import real_lessons
from instavis.platform.errors import Problems

router = Router()
MAX_SHOWN, MAX_LETTERS = 100, 120


class RosterRow(Schema):
    """A student; ``going`` is the newest open lesson, ``last`` the newest of all."""

    student: StudentOut
    going: LessonRow | None
    last: LessonRow | None
    coach_ids: list[int]


class RosterOut(Schema):
    """The first matches by name, and their total; ``there`` is true if there are any students."""

    rows: list[RosterRow]
    found: int
    there: bool


class Wanted(Schema):
    """A search: every word in the name, a coach, seen within days."""

    archived: bool = False
    words: str = Field(default="", max_length=MAX_LETTERS)
    coach: int | None = None
    days: int | None = Field(default=None, ge=1, le=3660)


@router.get("/roster", auth=staff, response={200: RosterOut, 422: Problems})
def get_roster(request: CoachRequest, wanted: Query[Wanted]) -> dict[str, object]:
    """Return the academy's students by name, limited; archived ones on request."""
    academy = request.user.academy
    everybody = real_students(academy).filter(archived_at__isnull=not wanted.archived)
    students = everybody
    for word in wanted.words.split():
        students = students.filter(name__icontains=word)
    theirs = Lesson.objects.filter(student=OuterRef("pk")).order_by("-started_at", "-pk")
    if wanted.coach is not None:
        students = students.filter(Exists(theirs.filter(coach_id=wanted.coach)))
    if wanted.days is not None:
        since = timezone.now() - timedelta(days=wanted.days)
        students = students.filter(pk__in=real_lessons(academy.pk).filter(started_at__gte=since).values("student"))
    going = theirs.filter(ended_at__isnull=True)
    shown = students.annotate(last_id=Subquery(theirs.values("pk")[:1]), going_id=Subquery(going.values("pk")[:1]))
    rows = list(shown[:MAX_SHOWN])
    found = len(rows) if len(rows) < MAX_SHOWN else students.count()
    return {"rows": _rows(rows), "found": found, "there": bool(rows) or everybody.exists()}


def _rows(students: list[Any]) -> list[dict[str, object]]:
    """Return students with ``last_id`` and ``going_id``, the keys of their lessons, as rows."""
    keys = {key for row in students for key in (row.last_id, row.going_id) if key is not None}
    lessons = Lesson.objects.select_related("student", "coach").in_bulk(keys)
    coaches: dict[int, set[int]] = defaultdict(set)
    taught = Lesson.objects.filter(student__in=[row.pk for row in students]).order_by()
    for student_id, coach_id in taught.values_list("student_id", "coach_id").distinct():
        coaches[student_id].add(coach_id)
    return [
        {
            "student": row,
            "going": lessons.get(row.going_id),
            "last": lessons.get(row.last_id),
            "coach_ids": sorted(coaches[row.pk]),
        }
        for row in students
    ]

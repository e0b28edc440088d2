"""Everybody who takes lessons here, with the lesson to go on with: one row a student, a fixed number of queries."""

from __future__ import annotations

from collections import defaultdict

from django.db.models import OuterRef, Subquery
from ninja import Router, Schema

from instavis.accounts.access import staff
from instavis.accounts.api import StudentOut
from instavis.accounts.requests import CoachRequest
from instavis.display.lessons.api import LessonRow
from instavis.lessons.models import Lesson

router = Router()


class RosterRow(Schema):
    """A student; ``going`` is the newest lesson that has not ended, ``last`` the newest of all."""

    student: StudentOut
    going: LessonRow | None
    last: LessonRow | None
    coach_ids: list[int]


@router.get("/roster", auth=staff, response=list[RosterRow])
def get_roster(request: CoachRequest, archived: bool = False) -> list[dict[str, object]]:
    """The academy's students by name; those that were archived when asked."""
    theirs = Lesson.objects.filter(student=OuterRef("pk")).order_by("-started_at", "-pk")
    going = theirs.filter(ended_at__isnull=True)
    students = request.user.academy.students.filter(archived_at__isnull=not archived)
    rows = list(students.annotate(last_id=Subquery(theirs.values("pk")[:1]), going_id=Subquery(going.values("pk")[:1])))
    keys = {key for row in rows for key in (row.last_id, row.going_id) if key is not None}
    lessons = Lesson.objects.select_related("student", "coach").in_bulk(keys)
    coaches: dict[int, set[int]] = defaultdict(set)
    taught = Lesson.objects.filter(academy_id=request.user.academy_id).order_by()
    for student_id, coach_id in taught.values_list("student_id", "coach_id").distinct():
        coaches[student_id].add(coach_id)
    return [
        {
            "student": row,
            "going": lessons.get(row.going_id),
            "last": lessons.get(row.last_id),
            "coach_ids": sorted(coaches[row.pk]),
        }
        for row in rows
    ]

"""Reads of lessons, always within the coach's academy."""

from __future__ import annotations

from django.db.models import Q, QuerySet

from instavis.accounts.models import Coach, Student
from instavis.lessons.models import Block, Lesson
from instavis.platform.errors import not_found


def real_lessons(academy_id: int) -> QuerySet[Lesson]:
    """Return real (non-training) lessons, newest first.

    The filter excludes made-up students; with a join, the database would start with the students and sort all lessons
    before it takes the newest.
    """
    made_up = Student.objects.filter(academy_id=academy_id, made_up=True)
    return Lesson.objects.filter(academy_id=academy_id).exclude(student__in=made_up)


def lessons_of(coach: Coach) -> QuerySet[Lesson]:
    """Return lessons of the academy's students, newest first, with what a list shows."""
    return real_lessons(coach.academy_id).prefetch_related("student", "coach__academy", "academy", "open_block")


def open_to(coach: Coach, path: str = "") -> Q:
    """Filter to the academy's lessons without other coaches' practice lessons; ``way`` is the lookup path to the
    lesson.
    """
    step = f"{path}__" if path else ""
    of_students, own = Q(**{f"{step}student__made_up": False}), Q(**{f"{step}coach_id": coach.pk})
    return Q(**{f"{step}academy_id": coach.academy_id}) & (of_students | own)


def lesson_of(coach: Coach, lesson_id: int) -> Lesson:
    """Return one lesson of the academy, or raise as for a missing one."""
    shown = ("student", "coach", "academy", "open_block")
    lesson = Lesson.objects.select_related(*shown).filter(open_to(coach), pk=lesson_id).first()
    if lesson is None:
        raise not_found("lesson")
    return lesson


def block_of(coach: Coach, block_id: int) -> Block:
    """Return one block of the academy's lessons."""
    block = Block.objects.filter(open_to(coach, "lesson"), pk=block_id).first()
    if block is None:
        raise not_found("block")
    return block

"""Reads of lessons, always within the coach's academy."""

from __future__ import annotations

from django.db.models import Count, Q, QuerySet

from instavis.config.errors import not_found
from instavis.lessons.models import Block, Lesson
from instavis.people.models import Coach


def lessons_of(coach: Coach) -> QuerySet[Lesson]:
    """Lessons of the academy, newest first, with what a list shows."""
    return (
        Lesson.objects.filter(academy=coach.academy)
        .select_related("student", "coach", "open_block")
        .annotate(ball_count=Count("shots"))
    )


def lesson_of(coach: Coach, lesson_id: int) -> Lesson:
    """One lesson of the academy; refused like a missing one when it is another academy's."""
    lesson = lessons_of(coach).filter(pk=lesson_id).first()
    if lesson is None:
        raise not_found("lesson")
    return lesson


def ball_counts(lesson: Lesson) -> dict[str, int]:
    """Balls of the lesson by the purpose of their block."""
    return lesson.shots.aggregate(
        baseline=Count("pk", filter=Q(block__purpose=Block.Purpose.BASELINE)),
        prove=Count("pk", filter=Q(block__purpose=Block.Purpose.PROVE)),
    )

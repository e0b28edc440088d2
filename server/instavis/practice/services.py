"""Changes to the take-home page."""

from __future__ import annotations

from django.db import transaction

from instavis.lessons.events import locked_lesson, log
from instavis.lessons.models import Lesson
from instavis.practice.models import TakeHome


@transaction.atomic
def save_take_home(lesson: Lesson, values: dict) -> TakeHome:
    """Keep the coach's words and the practice plan."""
    locked = locked_lesson(lesson.pk)
    take_home, _ = TakeHome.objects.update_or_create(lesson=locked, defaults=values)
    log(locked, "lesson", [{"changed": "take-home"}])
    return take_home

"""Changes to what was found out."""

from __future__ import annotations

from datetime import datetime

from django.db import transaction

from instavis.findings.models import CheckGrade, Intake
from instavis.lessons.events import locked_lesson, log
from instavis.lessons.models import Lesson
from instavis.people.models import Coach
from instavis_core.cause import read_checks, read_intake
from instavis_core.errors import InputError
from instavis_core.knowledge import load_knowledge


@transaction.atomic
def save_intake(lesson: Lesson, values: dict, now: datetime) -> Intake:
    """Keep the student's words.

    Raises
    ------
    InputError
        For unknown sides, words or regions.
    """
    read_intake({k: values.get(k) for k in ("start", "curve", "contact", "feels")})
    regions = load_knowledge().words["region"]
    for region in values.get("limits", []):
        if region not in regions:
            raise InputError("limits", region, "one of " + ", ".join(regions))
    locked = locked_lesson(lesson.pk)
    intake, _ = Intake.objects.update_or_create(lesson=locked, defaults={**values, "updated_at": now})
    log(locked, "lesson", [{"changed": "intake"}])
    return intake


@transaction.atomic
def grade_checks(lesson: Lesson, coach: Coach, grades: dict[str, str], now: datetime) -> None:
    """Keep grades of looks; ``not-seen`` takes a grade back.

    Raises
    ------
    InputError
        For unknown looks or grades.
    """
    read_checks(grades)
    locked = locked_lesson(lesson.pk)
    CheckGrade.objects.bulk_create(
        CheckGrade(lesson=locked, check_id=check, grade=grade, coach=coach, graded_at=now)
        for check, grade in grades.items()
    )
    log(locked, "lesson", [{"changed": "checks"}])

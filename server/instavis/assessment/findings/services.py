"""Changes to answers and results."""

from __future__ import annotations

import secrets
from datetime import datetime, timedelta
from typing import Any

from django.dispatch import Signal

from instavis.accounts.models import Coach
from instavis.assessment.findings.models import BodyResult, CheckGrade, Intake, IntakeLink, SetupNote
from instavis.knowledge.selectors import knowledge_for
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import Lesson
from instavis.platform.keys import hash_token
from instavis.platform.transactions import transactional
from instavis_core.body import planned_tests, read_results
from instavis_core.cause import read_checks
from instavis_core.errors import InputError
from instavis_core.lesson import SETUP_RANGES, read_answers
from instavis_core.message import Message
from instavis_core.shots import read_number
from instavis_core.terms import Source, one_of

graded = Signal()
"""Sent after checks of a lesson were answered, with ``lesson`` while it is locked."""
LINK_LASTS = timedelta(days=3)


@transactional
def save_intake(lesson: Lesson, values: dict[str, Any], now: datetime, by_student: bool = False) -> Intake:
    """Save the student's answers.

    Raises
    ------
    InputError
        For unknown sides, words, faults, kit or regions.
    """
    answers = read_answers(values)
    locked = locked_lesson(lesson.pk)
    defaults = {**answers, "by_student": by_student, "updated_at": now}
    intake, _ = Intake.objects.update_or_create(lesson=locked, defaults=defaults)
    log_change(locked, Aspect.INTAKE)
    return intake


@transactional
def make_intake_link(lesson: Lesson, coach: Coach, now: datetime) -> tuple[IntakeLink, str]:
    """Create a link for the student, shown only now; earlier ones of the lesson expire."""
    lesson.intake_links.filter(revoked_at__isnull=True).update(revoked_at=now)
    token = secrets.token_urlsafe(32)
    link = IntakeLink.objects.create(
        lesson=lesson, token_hash=hash_token(token), made_by=coach, made_at=now, expires_at=now + LINK_LASTS
    )
    return link, token


def end_intake_links(lesson: Lesson, now: datetime) -> None:
    """Revoke every link of the lesson."""
    lesson.intake_links.filter(revoked_at__isnull=True).update(revoked_at=now)


@transactional
def note_setup(lesson: Lesson, coach: Coach, values: dict[str, float | None], now: datetime) -> SetupNote:
    """Save the current ball position, stance and aim.

    Raises
    ------
    InputError
        For a value out of range, or none at all.
    """
    checked = {}
    for name, limits in SETUP_RANGES.items():
        value = values.get(name)
        checked[name] = None if value is None else read_number(name, value, limits)
    if all(v is None for v in checked.values()):
        raise InputError("ball_cm", None, Message("common-least-one", known=", ".join(SETUP_RANGES)))
    locked = locked_lesson(lesson.pk)
    note = SetupNote.objects.create(lesson=locked, coach=coach, noted_at=now, **checked)
    log_change(locked, Aspect.SETUP)
    return note


@transactional
def keep_body(lesson: Lesson, coach: Coach, results: dict[str, str], now: datetime) -> None:
    """Save body results; an empty one removes a result.

    Raises
    ------
    InputError
        For an unknown part or grade, or a test that the student's health forbids.
    """
    read_results(results)
    intake = Intake.objects.filter(lesson=lesson).first()
    for planned in planned_tests(intake.health if intake else ()):
        for part in planned.parts:
            if planned.left_out and results.get(part.id):
                raise InputError(f"results.{part.id}", results[part.id], planned.left_out)
    locked = locked_lesson(lesson.pk)
    BodyResult.objects.bulk_create(
        BodyResult(lesson=locked, coach=coach, part=part, grade=grade, tested_at=now) for part, grade in results.items()
    )
    log_change(locked, Aspect.CHECKS)


@transactional
def grade_checks(lesson: Lesson, coach: Coach, grades: dict[str, str], now: datetime, source: str = Source.EYE) -> None:
    """Save a coach's answers to checks; ``not-seen`` removes an answer.

    Raises
    ------
    InputError
        For unknown looks, grades or sources.
    """
    if source not in tuple(Source):
        raise InputError("source", source, one_of(Source))
    read_checks(knowledge_for(lesson), grades)
    locked = locked_lesson(lesson.pk)
    CheckGrade.objects.bulk_create(
        CheckGrade(
            lesson=locked,
            check_id=check,
            grade=grade,
            source=source,
            after_board=locked.board_seen,
            coach=coach,
            graded_at=now,
        )
        for check, grade in grades.items()
    )
    log_change(locked, Aspect.CHECKS)
    graded.send(CheckGrade, lesson=locked)

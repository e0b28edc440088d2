"""Changes to lessons."""

from __future__ import annotations

from datetime import datetime

from django.db import transaction

from instavis.config.errors import Refused
from instavis.corrections.models import Correction
from instavis.devices.models import Bay
from instavis.lessons.events import locked_lesson, log
from instavis.lessons.models import STATIONS, Block, Lesson
from instavis.people.models import Coach, Student
from instavis_core.errors import InputError
from instavis_core.shots import STAGES, read_club


@transaction.atomic
def start_lesson(coach: Coach, student: Student, club: str, now: datetime) -> Lesson:
    """Begin a lesson with an open baseline block: balls may come at once."""
    lesson = Lesson.objects.create(
        academy=coach.academy, student=student, coach=coach, started_at=now, club=read_club(club).id
    )
    lesson.open_block = Block.objects.create(lesson=lesson, purpose=Block.Purpose.BASELINE, opened_at=now)
    lesson.save(update_fields=["open_block"])
    return lesson


@transaction.atomic
def change_lesson(lesson: Lesson, station: str | None, club: str | None) -> Lesson:
    """Move to a station, or change the club the lesson is about."""
    lesson = locked_lesson(lesson.pk)
    if station is not None:
        if station not in STATIONS:
            raise InputError("station", station, "one of " + ", ".join(STATIONS))
        lesson.station = station
    if club is not None:
        lesson.club = read_club(club).id
    lesson.save(update_fields=["station", "club"])
    log(lesson, "lesson", [{"changed": "lesson"}])
    return lesson


@transaction.atomic
def end_lesson(lesson: Lesson, now: datetime, ended: bool) -> Lesson:
    """End a lesson and free its bay, or take that back."""
    lesson = locked_lesson(lesson.pk)
    lesson.ended_at = now if ended else None
    if ended:
        Bay.objects.filter(lesson=lesson).update(lesson=None)
    lesson.save(update_fields=["ended_at"])
    log(lesson, "lesson", [{"changed": "lesson"}])
    return lesson


@transaction.atomic
def open_block(lesson: Lesson, purpose: str, stage: str, correction: Correction | None, now: datetime) -> Block:
    """Begin a block; balls that come from now on belong to it.

    Raises
    ------
    InputError
        For an unknown purpose or stage.
    Refused
        For a prove block without a correction.
    """
    lesson = locked_lesson(lesson.pk)
    if purpose not in Block.Purpose.values:
        raise InputError("purpose", purpose, "baseline or prove")
    if stage and stage not in STAGES:
        raise InputError("stage", stage, "one of " + ", ".join(STAGES))
    if purpose == Block.Purpose.PROVE and correction is None:
        raise Refused(409, "correction", "Choose a correction before balls can prove it.")
    current = lesson.open_block
    same = current is not None and (current.purpose, current.stage, current.correction_id) == (
        purpose,
        stage,
        correction.pk if correction else None,
    )
    if not same:
        lesson.open_block = Block.objects.create(
            lesson=lesson, purpose=purpose, stage=stage, correction=correction, opened_at=now
        )
        log(lesson, "lesson", [{"changed": "block"}])
    return lesson.open_block


@transaction.atomic
def take_bay(lesson: Lesson, bay: Bay | None) -> None:
    """Send a bay's balls to this lesson, or (None) stop listening to any."""
    Bay.objects.filter(lesson=lesson).update(lesson=None)
    if bay is not None:
        Bay.objects.filter(pk=bay.pk).update(lesson=lesson)
    log(locked_lesson(lesson.pk), "lesson", [{"changed": "bay"}])

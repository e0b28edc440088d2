"""Changes to practice lessons: begin, hit balls, delete."""

from __future__ import annotations

import secrets
from datetime import datetime

from instavis.accounts.models import Coach, Student
from instavis.archives.services import remove_student
from instavis.capture.shots.models import Shot
from instavis.capture.shots.services import Origin, record_shots
from instavis.corrections.models import Correction
from instavis.lessons.events import locked_lesson
from instavis.lessons.models import Lesson
from instavis.lessons.services import start_lesson
from instavis.platform.errors import Refused
from instavis.platform.transactions import transactional
from instavis.training.models import Training, Tried
from instavis_core.message import Message
from instavis_core.shots import read_shot
from instavis_core.terms import GIVEN_UP, Purpose
from instavis_core.training import training_ball, training_golfer

SEEDS = 2**31
NAMES = ("Ada Quill", "Bo Larkspur", "Cleo Marsh", "Dov Alder", "Esme Thorne", "Finn Osier", "Greta Sedge", "Hob Tansy")
"""The golfer's name."""


@transactional
def begin_training(coach: Coach, level: str, now: datetime, seed: int | None = None) -> Training:
    """Begin a practice lesson with a new golfer.

    Raises
    ------
    InputError
        For an unknown level.
    """
    seed = secrets.randbelow(SEEDS) if seed is None else seed
    golfer = training_golfer(level, seed).golfer
    student = Student.objects.create(
        academy=coach.academy,
        name=NAMES[seed % len(NAMES)],
        hand=golfer.hand,
        handicap=golfer.handicap,
        made_up=True,
    )
    lesson = start_lesson(coach, student, "7i", now)
    return Training.objects.create(lesson=lesson, level=level, seed=seed)


@transactional
def hit(training: Training, count: int, now: datetime) -> list[Shot]:
    """Let the golfer hit some balls; during a correction each ball tries its movement.

    Raises
    ------
    Refused
        When the lesson has ended.
    """
    lesson = locked_lesson(training.lesson_id)
    if lesson.ended_at is not None:
        raise Refused(409, "lesson", Message("training-practice-lesson-ended-start-another"))
    training = Training.objects.get(pk=training.pk)
    who = training_golfer(training.level, training.seed)
    correction = _tried_now(lesson)
    shots: list[Shot] = []
    for _ in range(count):
        record, attempt, skill = training_ball(
            who,
            lesson.club_row(),
            training.seed,
            lesson.last_ball + 1,
            now,
            correction.fault if correction else None,
            training.skill,
        )
        (shot,) = record_shots(lesson, [read_shot(record)], now, Origin())
        shots.append(shot)
        if attempt is not None:
            training.skill = skill
            Tried.objects.create(shot=shot, fault=attempt.fault, effort=attempt.effort)
    training.save(update_fields=["skill"])
    return shots


@transactional
def remove_training(training: Training) -> None:
    """Delete a practice lesson with its golfer."""
    remove_student(training.lesson.student)


def _tried_now(lesson: Lesson) -> Correction | None:
    """Return the correction of the open block; the golfer follows a comparison's calls as they come."""
    block = lesson.open_block
    if block is None or block.purpose == Purpose.BASELINE or block.correction_id is None:
        return None
    return lesson.corrections.filter(pk=block.correction_id).exclude(outcome__in=GIVEN_UP).first()

"""Changes to lessons."""

from __future__ import annotations

from datetime import datetime

from instavis.accounts.models import Coach, Student
from instavis.lessons.cached import work_ahead
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import STATIONS, Block, Lesson
from instavis.platform.errors import Refused
from instavis.platform.transactions import transactional
from instavis_core.choice import read_school
from instavis_core.errors import InputError
from instavis_core.lesson import read_conditions
from instavis_core.lesson.clock import LONGEST, SHORTEST
from instavis_core.message import Message
from instavis_core.shots import read_club
from instavis_core.terms import Purpose, StageName, one_of

SHOWS_THE_BOARD = ("cause", "correct")
"""Stations whose screen shows which fault leads."""


@transactional
def start_lesson(coach: Coach, student: Student, club: str, now: datetime) -> Lesson:
    """Start a lesson with an open baseline block."""
    lesson = Lesson.objects.create(
        academy=coach.academy,
        student=student,
        coach=coach,
        hand=student.hand,
        started_at=now,
        club=read_club(club).id,
        knowledge_version=coach.academy.knowledge_versions.first(),
    )
    lesson.open_block = Block.objects.create(lesson=lesson, purpose=Purpose.BASELINE, opened_at=now)
    lesson.save(update_fields=["open_block"])
    work_ahead(student)
    return lesson


@transactional
def change_lesson(
    lesson: Lesson,
    station: str | None,
    club: str | None,
    minutes: int | None = None,
    school: dict[str, str] | None = None,
) -> Lesson:
    """Change the lesson's station, club, length or school."""
    lesson = locked_lesson(lesson.pk)
    if station is not None:
        if station not in STATIONS:
            raise InputError("station", station, Message("common-one", known=", ".join(STATIONS)))
        lesson.station = station
        lesson.board_seen = lesson.board_seen or station in SHOWS_THE_BOARD
    if club is not None:
        lesson.club = read_club(club).id
    if minutes is not None:
        if not SHORTEST <= minutes <= LONGEST:
            raise InputError(
                "minutes",
                minutes,
                Message("lesson-length-minutes", shortest=SHORTEST, longest=LONGEST),
            )
        lesson.minutes = minutes
    if school is not None:
        lesson.school = read_school(school)
    lesson.save(update_fields=["station", "board_seen", "club", "minutes", "school"])
    only_moved = club is None and minutes is None and school is None
    log_change(lesson, Aspect.STATION if only_moved else Aspect.LESSON)
    return lesson


@transactional
def end_lesson(lesson: Lesson, now: datetime, ended: bool) -> Lesson:
    """End a lesson and free its bay, or undo that.

    Raises
    ------
    Refused
        If a practice lesson would continue after its fault was revealed.
    """
    lesson = locked_lesson(lesson.pk)
    if not ended and lesson.student.made_up:
        raise Refused(409, "lesson", Message("lesson-hidden-fault-already-revealed-start"))
    lesson.ended_at = now if ended else None
    if ended:
        lesson.bays.update(lesson=None)
        lesson.turn_bays.clear()
    lesson.save(update_fields=["ended_at"])
    log_change(lesson, Aspect.LESSON)
    work_ahead(lesson.student)
    return lesson


@transactional
def open_block(lesson: Lesson, purpose: str, stage: str, correction_id: int | None, now: datetime) -> Block:
    """Open a block; the next balls belong to it.

    Raises
    ------
    InputError
        For an unknown purpose or stage.
    Refused
        For a prove block without a correction.
    """
    lesson = locked_lesson(lesson.pk)
    if purpose not in (Purpose.BASELINE, Purpose.PROVE):
        raise InputError("purpose", purpose, Message("lesson-baseline-prove-comparison-opens-own"))
    if stage and stage not in tuple(StageName):
        raise InputError("stage", stage, one_of(StageName))
    if purpose == Purpose.PROVE and correction_id is None:
        raise Refused(409, "correction", Message("lesson-start-correction-before-you-prove"))
    current = lesson.open_block
    same = current is not None and (current.purpose, current.stage, current.correction_id) == (
        purpose,
        stage,
        correction_id,
    )
    if current is not None and same:
        return current
    block = Block.objects.create(
        lesson=lesson, purpose=purpose, stage=stage, correction_id=correction_id, opened_at=now
    )
    lesson.open_block = block
    log_change(lesson, Aspect.BLOCK)
    return block


@transactional
def set_conditions(lesson: Lesson, conditions: dict[str, str], now: datetime) -> Lesson:
    """Set the conditions of the next balls; earlier balls keep their own block.

    Omitted conditions stay; an empty choice removes one.

    Raises
    ------
    InputError
        For an unknown condition or choice.
    """
    lesson = locked_lesson(lesson.pk)
    result = read_conditions({**lesson.conditions, **conditions})
    if result == lesson.conditions:
        return lesson
    lesson.conditions = result
    lesson.save(update_fields=["conditions"])
    current = lesson.open_block
    if current is not None and not current.shots.exists():
        current.conditions = result
        current.save(update_fields=["conditions"])
    elif (
        current is not None and current.purpose != Purpose.TRIAL
    ):  # a comparison stays in one piece, because its order is drawn
        lesson.open_block = Block.objects.create(
            lesson=lesson,
            purpose=current.purpose,
            stage=current.stage,
            correction_id=current.correction_id,
            opened_at=now,
        )
    log_change(lesson, Aspect.LESSON)  # the lie affects every number
    return lesson


@transactional
def split_block(block: Block, shot_id: int, now: datetime) -> Block:
    """Split a block before a ball; later balls get their own block with the same purpose.

    Raises
    ------
    InputError
        When the ball is not in the block, or is its first.
    """
    lesson = locked_lesson(block.lesson_id)
    numbers = dict(block.shots.values_list("pk", "number"))
    if shot_id not in numbers or numbers[shot_id] == min(numbers.values()):
        raise InputError("shot_id", shot_id, Message("lesson-ball-block-after-first"))
    later = Block.objects.create(
        lesson=lesson,
        purpose=block.purpose,
        stage=block.stage,
        correction_id=block.correction_id,
        conditions=block.conditions,
        opened_at=now,
    )
    block.shots.filter(number__gte=numbers[shot_id]).update(block=later)
    if lesson.open_block_id == block.pk:
        lesson.open_block = later
    log_change(lesson, Aspect.SHOTS)
    return later


@transactional
def merge_block(block: Block) -> Block:
    """Merge a block into the one before and keep that block's purpose and stage.

    Raises
    ------
    Refused
        When there is none before it.
    """
    lesson = locked_lesson(block.lesson_id)
    first = block.shots.order_by("number").first()
    before = lesson.shots.filter(number__lt=first.number).order_by("-number").first() if first else None
    joined = before.block if before else None
    if joined is None:
        raise Refused(409, "block", Message("lesson-no-block-before-one"))
    block.shots.update(block=joined, stage=joined.stage)
    if lesson.open_block_id == block.pk:
        lesson.open_block = joined
        lesson.save(update_fields=["open_block"])
    block.delete()
    log_change(lesson, Aspect.SHOTS)
    return joined

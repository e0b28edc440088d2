"""Lessons: list, start, change, blocks, bay."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from typing import Any, TypeVar, cast

from django.db.models import QuerySet
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.accounts.access import staff
from instavis.accounts.api import StudentOut
from instavis.accounts.people import note_reading
from instavis.accounts.requests import CoachRequest
from instavis.accounts.selectors import colleague_of, student_of
from instavis.assessment.films.selectors import is_filmed
from instavis.capture.bridges.selectors import WaitingSource, waiting_sources
from instavis.capture.devices import services as bays
from instavis.capture.devices.models import Bay
from instavis.capture.devices.selectors import RefusedGroup, bay_of, bay_of_lesson, refused_groups
from instavis.capture.shots.selectors import unassigned_in
from instavis.corrections.selectors import active_correction
from instavis.display.lessons.stations import StationState, stations_of
from instavis.lessons import selectors, services
from instavis.lessons.models import Block, Lesson
from instavis.platform.errors import Problems
from instavis_core.knowledge import vocabulary
from instavis_core.lesson import Clock, lesson_clock

router = Router()
Result = TypeVar("Result")


class BlockOut(Schema):
    id: int
    purpose: str
    stage: str
    correction_id: int | None


class LessonRow(Schema):
    """A lesson in a list."""

    id: int
    student_id: int
    student_name: str
    coach_name: str
    started_at: datetime
    ended_at: datetime | None
    station: str
    club: str
    hand: str
    ball_count: int

    @staticmethod
    def resolve_ball_count(lesson: Lesson) -> int:
        return lesson.last_ball  # balls are numbered without gaps and never deleted

    @staticmethod
    def resolve_student_name(lesson: Lesson) -> str:
        return lesson.student.name

    @staticmethod
    def resolve_coach_name(lesson: Lesson) -> str:
        return lesson.coach.name


class TurnOut(Schema):
    """A lesson that shares the bay, and whether its student is hitting."""

    lesson_id: int
    student_name: str
    hitting: bool


class LessonOut(LessonRow):
    """A lesson with everything its screens need first."""

    student: StudentOut
    training: bool
    filmed: bool
    school: dict[str, str]
    conditions: dict[str, str]
    club_group: str
    open_block: BlockOut | None
    bay_id: int | None
    turns: list[TurnOut]
    tray: int
    refused: list[RefusedGroup]
    waiting_sources: list[WaitingSource]
    cursor: int
    stations: list[StationState]
    clock: Clock

    @staticmethod
    def resolve_training(lesson: Lesson) -> bool:
        return lesson.student.made_up

    @staticmethod
    def resolve_filmed(lesson: Lesson) -> bool:
        return is_filmed(lesson.student)

    @staticmethod
    def resolve_club_group(lesson: Lesson) -> str:
        return vocabulary().clubs[lesson.club].group

    @staticmethod
    def resolve_bay_id(lesson: Lesson) -> int | None:
        bay = _bay(lesson)
        return bay.pk if bay else None

    @staticmethod
    def resolve_turns(lesson: Lesson) -> list[TurnOut]:
        bay = _bay(lesson)
        if bay is None:
            return []
        rows = bay.turns.select_related("student").order_by("pk")
        return [TurnOut(lesson_id=t.pk, student_name=t.student.name, hitting=t.pk == bay.lesson_id) for t in rows]

    @staticmethod
    def resolve_tray(lesson: Lesson) -> int:
        bay = _bay(lesson)
        return unassigned_in(bay).count() if bay else 0

    @staticmethod
    def resolve_refused(lesson: Lesson) -> list[RefusedGroup]:
        bay = _bay(lesson)
        return refused_groups(bay, lesson) if bay else []

    @staticmethod
    def resolve_waiting_sources(lesson: Lesson) -> list[WaitingSource]:
        bay = _bay(lesson)
        return waiting_sources(bay) if bay else []

    @staticmethod
    def resolve_cursor(lesson: Lesson) -> int:
        return lesson.last_event

    @staticmethod
    def resolve_stations(lesson: Lesson) -> list[StationState]:
        return _stations(lesson)

    @staticmethod
    def resolve_clock(lesson: Lesson) -> Clock:
        elapsed = ((lesson.ended_at or timezone.now()) - lesson.started_at).total_seconds() / 60
        return lesson_clock(lesson.minutes, lesson.station, elapsed, {s.id: s.ready for s in _stations(lesson)})


def _stations(lesson: Lesson) -> list[StationState]:
    return _once(lesson, "stations now", stations_of)


def _bay(lesson: Lesson) -> Bay | None:
    return _once(lesson, "bay now", bay_of_lesson)


def _once(lesson: Lesson, name: str, work: Callable[[Lesson], Result]) -> Result:
    """Compute once per answer; several parts use it."""
    known = vars(lesson)
    if name not in known:
        known[name] = work(lesson)
    return cast(Result, known[name])


class LessonIn(Schema):
    model_config = ConfigDict(extra="forbid")
    student_id: int
    club: str = "7i"


class BookingIn(Schema):
    """A lesson booked for a coach."""

    model_config = ConfigDict(extra="forbid")
    student_id: int
    coach_id: int
    club: str = "7i"


class LessonChange(Schema):
    model_config = ConfigDict(extra="forbid")
    station: str | None = None
    club: str | None = None
    minutes: int | None = None
    school: dict[str, str] | None = Field(None, max_length=20)
    ended: bool | None = None


class BlockIn(Schema):
    model_config = ConfigDict(extra="forbid")
    purpose: str
    stage: str = ""


class ConditionsIn(Schema):
    """Conditions of the balls: condition → choice, ids as in the vocabulary."""

    model_config = ConfigDict(extra="forbid")
    conditions: dict[str, str] = Field(max_length=10)


class SplitIn(Schema):
    model_config = ConfigDict(extra="forbid")
    shot_id: int


class BayChoice(Schema):
    model_config = ConfigDict(extra="forbid")
    bay_id: int | None


@router.get("/lessons", auth=staff, response=list[LessonRow])
def list_lessons(request: CoachRequest, student_id: int | None = None) -> QuerySet[Lesson]:
    """List lessons of the academy, newest first; optionally of one student."""
    lessons = selectors.lessons_of(request.user)
    return lessons.filter(student_id=student_id) if student_id is not None else lessons[:200]


@router.post("/lessons", response={201: LessonOut, 404: Problems, 422: Problems})
def start_lesson(request: CoachRequest, data: LessonIn) -> Status[Any]:
    """Start a lesson."""
    student = student_of(request.user, data.student_id)
    lesson = services.start_lesson(request.user, student, data.club, timezone.now())
    return Status(201, selectors.lesson_of(request.user, lesson.pk))


@router.post("/bookings", auth=staff, response={201: LessonRow, 404: Problems, 422: Problems})
def book_lesson(request: CoachRequest, data: BookingIn) -> Status[Any]:
    """Book a lesson for a coach, who finds it on their day; for the desk."""
    student = student_of(request.user, data.student_id)
    coach = colleague_of(request.user, data.coach_id)
    return Status(201, services.start_lesson(coach, student, data.club, timezone.now()))


@router.get("/lessons/{lesson_id}", response={200: LessonOut, 404: Problems})
def get_lesson(request: CoachRequest, lesson_id: int) -> Lesson:
    """Return one lesson with the state of its stations."""
    lesson = selectors.lesson_of(request.user, lesson_id)
    note_reading(request.user, lesson.student_id, timezone.now())
    return lesson


@router.patch("/lessons/{lesson_id}", response={200: LessonOut, 404: Problems, 422: Problems})
def change_lesson(request: CoachRequest, lesson_id: int, data: LessonChange) -> Lesson:
    """Change the station or club, or end the lesson."""
    lesson = selectors.lesson_of(request.user, lesson_id)
    if (data.station, data.club, data.minutes, data.school) != (None, None, None, None):
        services.change_lesson(lesson, data.station, data.club, data.minutes, data.school)
    if data.ended is not None:
        services.end_lesson(lesson, timezone.now(), data.ended)
    return selectors.lesson_of(request.user, lesson_id)


@router.post("/lessons/{lesson_id}/blocks", response={200: BlockOut, 404: Problems, 409: Problems, 422: Problems})
def open_block(request: CoachRequest, lesson_id: int, data: BlockIn) -> Block:
    """Open a block: the next balls are the baseline, or prove the correction at a stage."""
    lesson = selectors.lesson_of(request.user, lesson_id)
    correction = active_correction(lesson) if data.purpose == "prove" else None
    return services.open_block(lesson, data.purpose, data.stage, correction.pk if correction else None, timezone.now())


@router.put("/lessons/{lesson_id}/conditions", response={200: LessonOut, 404: Problems, 422: Problems})
def set_conditions(request: CoachRequest, lesson_id: int, data: ConditionsIn) -> Lesson:
    """Set the conditions of the next balls; unnamed ones stay, an empty choice removes one."""
    lesson = selectors.lesson_of(request.user, lesson_id)
    services.set_conditions(lesson, data.conditions, timezone.now())
    return selectors.lesson_of(request.user, lesson_id)


@router.post("/blocks/{block_id}/split", response={200: BlockOut, 404: Problems, 422: Problems})
def split_block(request: CoachRequest, block_id: int, data: SplitIn) -> Block:
    """Split a block before a ball."""
    return services.split_block(selectors.block_of(request.user, block_id), data.shot_id, timezone.now())


@router.post("/blocks/{block_id}/merge", response={200: BlockOut, 404: Problems, 409: Problems})
def merge_block(request: CoachRequest, block_id: int) -> Block:
    """Merge a block with the one before."""
    return services.merge_block(selectors.block_of(request.user, block_id))


@router.put("/lessons/{lesson_id}/bay", response={200: LessonOut, 404: Problems})
def take_bay(request: CoachRequest, lesson_id: int, data: BayChoice) -> Lesson:
    """Use a bay's monitor, or stop using it."""
    lesson = selectors.lesson_of(request.user, lesson_id)
    bays.take_bay(lesson, bay_of(request.user, data.bay_id) if data.bay_id is not None else None)
    return selectors.lesson_of(request.user, lesson_id)

"""Baseline, Check and Cause: readings, answers and the ranking."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any

from django.utils import timezone
from ninja import Router, Schema
from pydantic import ConfigDict, Field

from instavis.accounts.requests import CoachRequest
from instavis.assessment.findings import selectors, services
from instavis.assessment.findings.selectors import Step, Tested
from instavis.capture.shots.selectors import baseline_of, shot_of
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problems
from instavis.platform.keys import read_keys
from instavis_core.body import PlannedTest, bounds_of, planned_tests
from instavis_core.cause import Ranking
from instavis_core.choice import FaultBall, WhatIf
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message
from instavis_core.reading import BallReading, BlockReading
from instavis_core.shots import read_club
from instavis_core.terms import Source
from instavis_report import Why

router = Router()


class EarlierOut(Schema):
    """The medians of an earlier baseline with the same club, golfer frame."""

    lesson_id: int
    day: date
    balls: int
    centres: dict[str, float]


class ReadingOut(Schema):
    """A reading and the keys of its balls; positions in the reading count from 0 in that list.

    ``inferred`` holds, for metrics that were not measured, one value for each ball (golfer frame) or None;
    ``low_points_cm`` is the low point of every ball.
    """

    reading: BlockReading
    ball_ids: list[int]
    clubs: dict[str, int]
    inferred: dict[str, list[float | None]]
    low_points_cm: list[float | None]


class WhatIfIn(Schema):
    """A change of delivery, golfer frame: of one ball, or of the baseline's median."""

    model_config = ConfigDict(extra="forbid")
    shot_id: int | None = None
    changes: dict[str, float] = Field(max_length=7)


class SeenOut(Schema):
    """One coach's newest answer to a check, its source (eye, picture or recording), and whether the ranking had been
    seen before.
    """

    check: str
    grade: str
    source: str
    after_board: bool
    coach: str
    mine: bool
    at: datetime


class Grades(Schema):
    """Answer by check: the coach's own if there is one, otherwise another coach's newest; ``seen`` has all."""

    grades: dict[str, str]
    seen: list[SeenOut]


class GradesIn(Schema):
    """Answers to checks; ``source`` is their source."""

    model_config = ConfigDict(extra="forbid")
    grades: dict[str, str] = Field(max_length=200)
    source: str = Source.EYE


class BodyIn(Schema):
    """Results of body tests by part: free, short or pain; an empty one removes a result."""

    model_config = ConfigDict(extra="forbid")
    results: dict[str, str] = Field(max_length=40)


class BodyOut(Schema):
    """The tests with their parts, the newest results, and their meaning for this student."""

    tests: list[PlannedTest]
    results: list[Tested]
    says: list[Message]
    caution: Message


@router.get("/lessons/{lesson_id}/earlier", response={200: list[EarlierOut], 404: Problems})
def get_earlier(request: CoachRequest, lesson_id: int) -> list[dict[str, Any]]:
    """Return earlier baselines of the student with the same club."""
    return selectors.earlier_baselines(lesson_of(request.user, lesson_id))


@router.get("/lessons/{lesson_id}/reading", response={200: ReadingOut, 404: Problems, 422: Problems})
def get_reading(request: CoachRequest, lesson_id: int, balls: str = "", club: str = "") -> dict[str, Any]:
    """Return the reading of the baseline, for the lesson's club or another, or of some balls by their keys."""
    lesson = lesson_of(request.user, lesson_id)
    if club:
        read_club(club)
    own = selectors.spreads_before(lesson, club)
    baseline = baseline_of(lesson)
    result = selectors.reading_of(baseline.hit_with(club), read_keys(balls) if balls else None, own)
    return result | {"clubs": baseline.counts}


@router.get("/shots/{shot_id}/reading", response={200: BallReading, 404: Problems})
def get_ball_reading(request: CoachRequest, shot_id: int) -> BallReading:
    """Return one ball in detail: its values and their origin, and the causes of start, curve and speed."""
    return selectors.ball_reading_of(shot_of(request.user, shot_id))


@router.post("/lessons/{lesson_id}/what-if", response={200: WhatIf, 404: Problems, 422: Problems})
def ask_what_if(request: CoachRequest, lesson_id: int, data: WhatIfIn) -> WhatIf:
    """Return how the ball would fly if the club came in differently, and why."""
    return selectors.what_if_of(lesson_of(request.user, lesson_id), data.shot_id, data.changes)


@router.get("/lessons/{lesson_id}/checks", response={200: Grades, 404: Problems})
def get_checks(request: CoachRequest, lesson_id: int) -> Grades:
    """Return the answers to the checks so far."""
    return _grades(request, lesson_of(request.user, lesson_id))


@router.put("/lessons/{lesson_id}/checks", response={200: Grades, 404: Problems, 422: Problems})
def grade_checks(request: CoachRequest, lesson_id: int, data: GradesIn) -> Grades:
    """Answer checks; other answers stay, also those of other coaches."""
    lesson = lesson_of(request.user, lesson_id)
    services.grade_checks(lesson, request.user, data.grades, timezone.now(), data.source)
    return _grades(request, lesson)


def _grades(request: CoachRequest, lesson: Lesson) -> Grades:
    seen = [
        SeenOut(
            check=s.check,
            grade=s.grade,
            source=s.source,
            after_board=s.after_board,
            coach=s.coach,
            mine=s.coach_id == request.user.pk,
            at=s.at,
        )
        for s in selectors.observations_in(lesson)
    ]
    return Grades(grades=selectors.grades_of(lesson, request.user), seen=seen)


@router.get("/lessons/{lesson_id}/body", response={200: BodyOut, 404: Problems})
def get_body(request: CoachRequest, lesson_id: int) -> dict[str, Any]:
    """Return the body tests, their newest results, and the resulting limits."""
    return _body(lesson_of(request.user, lesson_id))


@router.put("/lessons/{lesson_id}/body", response={200: BodyOut, 404: Problems, 422: Problems})
def keep_body(request: CoachRequest, lesson_id: int, data: BodyIn) -> dict[str, Any]:
    """Save results; other parts stay, an empty one removes a result."""
    lesson = lesson_of(request.user, lesson_id)
    services.keep_body(lesson, request.user, data.results, timezone.now())
    return _body(lesson)


def _body(lesson: Lesson) -> dict[str, Any]:
    intake = selectors.intake_of(lesson)
    results = selectors.body_of(lesson)
    return {
        "tests": planned_tests(intake.health if intake else ()),
        "results": results,
        "says": bounds_of({tested.part: tested.grade for tested in results}).says,
        "caution": vocabulary().cautions["body-tests"].text,
    }


@router.get("/lessons/{lesson_id}/cause/history", response={200: list[Step], 404: Problems})
def get_history(request: CoachRequest, lesson_id: int) -> list[Step]:
    """Return the leader after every check."""
    return selectors.history_of(lesson_of(request.user, lesson_id))


@router.get("/lessons/{lesson_id}/why", response={200: Why, 404: Problems})
def get_why(request: CoachRequest, lesson_id: int) -> Why:
    """Return the most likely cause in plain words with its reasons, as the student reads it."""
    return selectors.why_in(lesson_of(request.user, lesson_id))


@router.get("/lessons/{lesson_id}/cause/{fault}", response={200: FaultBall, 404: Problems, 422: Problems})
def get_fault_ball(request: CoachRequest, lesson_id: int, fault: str, variant: str = "") -> FaultBall:
    """Return what one fault alone would do to this student's ball, and which checks show or refute it."""
    return selectors.ball_of(lesson_of(request.user, lesson_id), fault, variant or None)


@router.get("/lessons/{lesson_id}/cause", response={200: Ranking, 404: Problems})
def get_cause(request: CoachRequest, lesson_id: int) -> Ranking:
    """Return the ranked causes with their evidence, and the most useful checks."""
    return selectors.ranking_of(lesson_of(request.user, lesson_id))

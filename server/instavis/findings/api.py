"""Baseline, Check and Cause: what was read, seen and concluded."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema
from pydantic import ConfigDict, Field

from instavis.config.errors import Problems
from instavis.config.keys import read_keys
from instavis.findings import selectors, services
from instavis.lessons.selectors import lesson_of
from instavis.shots.selectors import baseline_balls, baseline_clubs, shot_of
from instavis_core.cause import Ranking
from instavis_core.choice import WhatIf
from instavis_core.knowledge import (
    Cause,
    Caution,
    Check,
    Club,
    Drill,
    IntakeWord,
    Metric,
    School,
    Stage,
    load_knowledge,
)
from instavis_core.reading import BallReading, BlockReading
from instavis_core.shots import read_club

router = Router()


class EarlierOut(Schema):
    """The middles of an earlier baseline with the same club, golfer frame."""

    lesson_id: int
    day: date
    balls: int
    centres: dict[str, float]


class ReadingOut(Schema):
    """A reading and the keys of the balls it speaks of; places in the reading count from 0 in that list.

    ``inferred`` holds, for metrics that were not measured, one value a ball (golfer frame) or nothing;
    ``low_points_cm`` the low point of every ball.
    """

    reading: BlockReading
    ball_ids: list[int]
    clubs: dict[str, int]
    inferred: dict[str, list[float | None]]
    low_points_cm: list[float | None]


class WhatIfIn(Schema):
    """A change of delivery, golfer frame: of one ball, or of the baseline's middle when none is named."""

    model_config = ConfigDict(extra="forbid")
    shot_id: int | None = None
    changes: dict[str, float] = Field(max_length=7)


class Grades(Schema):
    """Newest grade by look."""

    grades: dict[str, str]


class KnowledgeOut(Schema):
    """What the screens need of the knowledge base."""

    metrics: list[Metric]
    clubs: list[Club]
    causes: list[Cause]
    checks: list[Check]
    intake_words: list[IntakeWord]
    drills: list[Drill]
    stages: list[Stage]
    schools: list[School]
    cautions: list[Caution]
    words: dict[str, dict[str, str]]


@router.get("/knowledge", response=KnowledgeOut)
def get_knowledge(request: HttpRequest) -> dict[str, Any]:
    """Faults, looks, drills, words: the same for everybody."""
    known = load_knowledge()
    return {
        "metrics": list(known.metrics.values()),
        "clubs": list(known.clubs.values()),
        "causes": list(known.causes.values()),
        "checks": list(known.checks.values()),
        "intake_words": list(known.intake_words.values()),
        "drills": list(known.drills.values()),
        "stages": list(known.stages.values()),
        "schools": list(known.schools.values()),
        "cautions": list(known.cautions.values()),
        "words": known.words,
    }


@router.get("/lessons/{lesson_id}/earlier", response={200: list[EarlierOut], 404: Problems})
def get_earlier(request: HttpRequest, lesson_id: int):
    """Earlier baselines of the student with the same club."""
    return selectors.earlier_baselines(lesson_of(request.user, lesson_id))


@router.get("/lessons/{lesson_id}/reading", response={200: ReadingOut, 404: Problems, 422: Problems})
def get_reading(request: HttpRequest, lesson_id: int, balls: str = "", club: str = ""):
    """The baseline read, with the lesson's club or another; only some balls when their keys are given."""
    lesson = lesson_of(request.user, lesson_id)
    if club:
        read_club(club)
    told = selectors.reading_of(baseline_balls(lesson, club), read_keys(balls) if balls else None)
    return told | {"clubs": baseline_clubs(lesson)}


@router.get("/shots/{shot_id}/reading", response={200: BallReading, 404: Problems})
def get_ball_reading(request: HttpRequest, shot_id: int):
    """One ball looked at closely: its values and their origin, and what made its start, curve and speed."""
    return selectors.ball_reading_of(shot_of(request.user, shot_id))


@router.post("/lessons/{lesson_id}/what-if", response={200: WhatIf, 404: Problems, 422: Problems})
def ask_what_if(request: HttpRequest, lesson_id: int, data: WhatIfIn):
    """How the ball would fly if the club came in differently, and why."""
    return selectors.what_if_of(lesson_of(request.user, lesson_id), data.shot_id, data.changes)


@router.get("/lessons/{lesson_id}/checks", response={200: Grades, 404: Problems})
def get_checks(request: HttpRequest, lesson_id: int):
    """Grades of the looks so far."""
    return {"grades": selectors.grades_of(lesson_of(request.user, lesson_id))}


@router.put("/lessons/{lesson_id}/checks", response={200: Grades, 404: Problems, 422: Problems})
def grade_checks(request: HttpRequest, lesson_id: int, data: Grades):
    """Grade looks; the others keep theirs."""
    lesson = lesson_of(request.user, lesson_id)
    services.grade_checks(lesson, request.user, data.grades, timezone.now())
    return {"grades": selectors.grades_of(lesson)}


@router.get("/lessons/{lesson_id}/cause", response={200: Ranking, 404: Problems})
def get_cause(request: HttpRequest, lesson_id: int):
    """The ranked causes with their evidence, and the looks that would tell most."""
    return selectors.ranking_of(lesson_of(request.user, lesson_id))

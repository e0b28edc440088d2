"""Ask, Baseline, Check and Cause: what was said, read, seen and concluded."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema
from pydantic import ConfigDict, Field

from instavis.config.errors import Problems
from instavis.findings import selectors, services
from instavis.lessons.selectors import lesson_of
from instavis.shots.selectors import baseline_balls, shot_of
from instavis_core.cause import Ranking
from instavis_core.choice import WhatIf
from instavis_core.errors import InputError
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

router = Router()
MOST_SELECTED = 5000


class IntakeBody(Schema):
    model_config = ConfigDict(extra="forbid")
    start: str = ""
    curve: str = ""
    contact: list[str] = Field(default_factory=list, max_length=20)
    feels: list[str] = Field(default_factory=list, max_length=20)
    limits: list[str] = Field(default_factory=list, max_length=20)
    pain: str = Field("", max_length=300)
    goal: str = Field("", max_length=300)
    thoughts: str = Field("", max_length=300)
    props: str = Field("", max_length=300)


class ReadingOut(Schema):
    """A reading and the keys of the balls it speaks of; places in the reading count from 0 in that list.

    ``inferred`` holds, for metrics that were not measured, one value a ball (golfer frame) or nothing;
    ``low_points_cm`` the low point of every ball.
    """

    reading: BlockReading
    ball_ids: list[int]
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


@router.get("/lessons/{lesson_id}/intake", response={200: IntakeBody, 404: Problems})
def get_intake(request: HttpRequest, lesson_id: int):
    """What the student said; empty when not asked yet."""
    return selectors.intake_of(lesson_of(request.user, lesson_id)) or IntakeBody()


@router.put("/lessons/{lesson_id}/intake", response={200: IntakeBody, 404: Problems, 422: Problems})
def save_intake(request: HttpRequest, lesson_id: int, data: IntakeBody):
    """Keep what the student said."""
    return services.save_intake(lesson_of(request.user, lesson_id), data.dict(), timezone.now())


@router.get("/lessons/{lesson_id}/reading", response={200: ReadingOut, 404: Problems, 422: Problems})
def get_reading(request: HttpRequest, lesson_id: int, balls: str = ""):
    """The baseline read; only some balls when their keys are given, with commas."""
    lesson = lesson_of(request.user, lesson_id)
    only = None
    if balls:
        parts = balls.split(",")
        if len(parts) > MOST_SELECTED or not all(p.isdigit() for p in parts):
            raise InputError("balls", balls, f"at most {MOST_SELECTED} keys of balls with commas between")
        only = frozenset(int(p) for p in parts)
    return selectors.reading_of(baseline_balls(lesson), only)


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

"""Practice lessons of the coach who is signed in."""

from __future__ import annotations

from datetime import datetime

from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.accounts.requests import CoachRequest
from instavis.assessment.eyes.api import SwingShown
from instavis.platform.errors import Problems
from instavis.training import selectors, services
from instavis.training.selectors import TrainingRow
from instavis_core.training import LEVELS, Score

router = Router()
MOST_AT_ONCE = 10


class TrainingIn(Schema):
    """How hard it shall be; with ``seed`` the same golfer comes again, to compare two lessons with one body."""

    model_config = ConfigDict(extra="forbid")
    level: str = Field(max_length=8, description=", ".join(LEVELS))
    seed: int | None = Field(default=None, ge=0, lt=services.SEEDS)


class Begun(Schema):
    lesson_id: int


class BallsIn(Schema):
    """How many balls the golfer hits now."""

    model_config = ConfigDict(extra="forbid")
    count: int = Field(default=1, ge=1, le=MOST_AT_ONCE)


class BallsHit(Schema):
    """Their numbers."""

    numbers: list[int]


class TrainingOut(Schema):
    """A practice lesson; ``score`` tells what was hidden once it has ended."""

    level: str
    handicap: float
    ended_at: datetime | None
    score: Score | None


@router.get("/trainings", response=list[TrainingRow])
def list_trainings(request: CoachRequest) -> list[TrainingRow]:
    """One's own practice lessons, newest first."""
    return selectors.trainings_of(request.user)


@router.post("/trainings", response={201: Begun, 422: Problems})
def begin(request: CoachRequest, data: TrainingIn) -> Status[Begun]:
    """Begin one with a golfer nobody has met, or with one asked for by seed."""
    training = services.begin_training(request.user, data.level, timezone.now(), data.seed)
    return Status(201, Begun(lesson_id=training.lesson_id))


@router.get("/lessons/{lesson_id}/training", response=TrainingOut)
def get_training(request: CoachRequest, lesson_id: int) -> TrainingOut:
    """The golfer of a practice lesson, as far as it is told."""
    training = selectors.training_of(request.user, lesson_id)
    lesson = training.lesson
    return TrainingOut(
        level=training.level,
        handicap=lesson.student.handicap or 0.0,
        ended_at=lesson.ended_at,
        score=selectors.score_of(training),
    )


@router.post("/lessons/{lesson_id}/training/balls", response={200: BallsHit, 409: Problems, 422: Problems})
def hit(request: CoachRequest, lesson_id: int, data: BallsIn) -> BallsHit:
    """Let the golfer hit."""
    training = selectors.training_of(request.user, lesson_id)
    shots = services.hit(training, data.count, timezone.now())
    return BallsHit(numbers=[shot.number for shot in shots])


@router.get("/lessons/{lesson_id}/training/swings/{look}", response={200: SwingShown, 422: Problems})
def get_swing(request: CoachRequest, lesson_id: int, look: str, ball: int | None = None) -> SwingShown:
    """The swing of a ball at full speed, from where the look is looked at."""
    return SwingShown.of(selectors.swing_of(selectors.training_of(request.user, lesson_id), look, ball))


@router.delete("/lessons/{lesson_id}/training", response={204: None})
def remove(request: CoachRequest, lesson_id: int) -> Status[None]:
    """Take a practice lesson away with everything in it."""
    services.remove_training(selectors.training_of(request.user, lesson_id))
    return Status(204, None)

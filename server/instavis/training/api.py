"""Practice lessons of the signed-in coach."""

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
MAX_AT_ONCE = 10


class TrainingIn(Schema):
    """The difficulty; the same ``seed`` gives the same golfer."""

    model_config = ConfigDict(extra="forbid")
    level: str = Field(max_length=8, description=", ".join(LEVELS))
    seed: int | None = Field(default=None, ge=0, lt=services.SEEDS)


class Begun(Schema):
    lesson_id: int


class BallsIn(Schema):
    """How many balls the golfer hits now."""

    model_config = ConfigDict(extra="forbid")
    count: int = Field(default=1, ge=1, le=MAX_AT_ONCE)


class BallsHit(Schema):
    """The numbers of the balls."""

    numbers: list[int]


class TrainingOut(Schema):
    """A practice lesson; ``score`` reveals what was hidden after its end."""

    level: str
    handicap: float
    ended_at: datetime | None
    score: Score | None


@router.get("/trainings", response=list[TrainingRow])
def list_trainings(request: CoachRequest) -> list[TrainingRow]:
    """List the coach's own practice lessons, newest first."""
    return selectors.trainings_of(request.user)


@router.post("/trainings", response={201: Begun, 422: Problems})
def begin(request: CoachRequest, data: TrainingIn) -> Status[Begun]:
    """Begin a practice lesson with a new golfer, or one by seed."""
    training = services.begin_training(request.user, data.level, timezone.now(), data.seed)
    return Status(201, Begun(lesson_id=training.lesson_id))


@router.get("/lessons/{lesson_id}/training", response=TrainingOut)
def get_training(request: CoachRequest, lesson_id: int) -> TrainingOut:
    """Return the golfer of a practice lesson, as far as it is revealed."""
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


@router.get("/lessons/{lesson_id}/training/swings/{check}", response={200: SwingShown, 422: Problems})
def get_swing(request: CoachRequest, lesson_id: int, check: str, ball: int | None = None) -> SwingShown:
    """Return the swing of a ball at full speed, from the side of the check."""
    return SwingShown.of(selectors.swing_of(selectors.training_of(request.user, lesson_id), check, ball))


@router.delete("/lessons/{lesson_id}/training", response={204: None})
def remove(request: CoachRequest, lesson_id: int) -> Status[None]:
    """Delete a practice lesson with everything in it."""
    services.remove_training(selectors.training_of(request.user, lesson_id))
    return Status(204, None)

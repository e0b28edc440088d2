"""A coach's own accuracy; nobody else sees it."""

from __future__ import annotations

from typing import Self

from django.utils import timezone
from ninja import Router, Schema
from pydantic import ConfigDict, Field

from instavis.accounts.requests import CoachRequest
from instavis.assessment.eyes import selectors, services
from instavis.assessment.eyes.models import EyePractice
from instavis.assessment.eyes.selectors import EyeRow
from instavis.knowledge.selectors import knowledge_of
from instavis.platform.errors import Problems
from instavis_core.errors import InputError
from instavis_core.figure import SWINGS, MovingFigure, Stroke, practice_swing
from instavis_core.message import Message

router = Router()
MAX_SEED = 2**31 - 1


class SwingShown(Schema):
    """A made-up swing, without its answer."""

    view: str
    seconds: float
    sheet: tuple[float, float, float, float]
    frames: list[list[Stroke]]

    @classmethod
    def of(cls, figure: MovingFigure) -> Self:
        """Return the row in the form that is sent."""
        frames = [list(frame) for frame in figure.frames]
        return cls(view=figure.view, seconds=figure.seconds, sheet=figure.sheet, frames=frames)


class PractisedIn(Schema):
    """What a coach saw in a practice swing, and how long it took [s]."""

    model_config = ConfigDict(extra="forbid")
    check: str = Field(max_length=40)
    seed: int = Field(ge=0, le=MAX_SEED)
    number: int = Field(ge=0, lt=SWINGS)
    grade: str = Field(max_length=40)
    seconds: float = Field(ge=0, le=600)


class PractisedOut(Schema):
    """What was in it."""

    grade: str
    true_grade: str


@router.get("/eye", response=list[EyeRow])
def get_eye(request: CoachRequest) -> list[EyeRow]:
    """Return how the coach's answers compare with measured ones, check by check."""
    return selectors.rows_of(request.user, knowledge_of(request.user.academy))


@router.get("/eye/swings/{check}/{seed}/{number}", response={200: SwingShown, 422: Problems})
def get_swing(request: CoachRequest, check: str, seed: int, number: int) -> SwingShown:
    """Return one made-up swing to judge at full speed."""
    return SwingShown.of(practice_swing(check, _seed(seed), number).figure)


@router.post("/eye/practice", response={200: PractisedOut, 422: Problems})
def practise(request: CoachRequest, data: PractisedIn) -> EyePractice:
    """Answer a made-up swing, and get the truth."""
    return services.practise(request.user, now=timezone.now(), **data.dict())


def _seed(seed: int) -> int:
    if not 0 <= seed <= MAX_SEED:
        raise InputError("seed", seed, Message("check-from-0-to", most=MAX_SEED))
    return seed

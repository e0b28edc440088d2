"""Correct: candidates with their terms, and the one that is chosen."""

from __future__ import annotations

from datetime import datetime

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.config.errors import Problems
from instavis.corrections import selectors, services
from instavis.lessons.selectors import lesson_of
from instavis_core.choice import Candidate

router = Router()


class CorrectionIn(Schema):
    model_config = ConfigDict(extra="forbid")
    fault: str
    variant: str = ""
    drill: str = ""
    cue: str = Field("", max_length=200)
    primary: str
    direction: str
    predicted: float
    gate: dict[str, tuple[float, float]]
    guards: dict[str, tuple[float, float]] = Field(default_factory=dict)
    stage: str = "half"


class CorrectionChange(Schema):
    model_config = ConfigDict(extra="forbid")
    stage: str | None = None
    outcome: str | None = None
    gate: dict[str, tuple[float, float]] | None = None
    guards: dict[str, tuple[float, float]] | None = None


class CorrectionOut(CorrectionIn):
    model_config = ConfigDict(extra="ignore")
    id: int
    outcome: str
    probability_then: float | None
    chosen_at: datetime


class Choices(Schema):
    """What could be corrected, what is being corrected, and what was tried before."""

    candidates: list[Candidate]
    active: CorrectionOut | None
    tried: list[CorrectionOut]


@router.get("/lessons/{lesson_id}/corrections", response={200: Choices, 404: Problems})
def list_corrections(request: HttpRequest, lesson_id: int):
    """Candidates by expected benefit, the active correction, and those before it."""
    lesson = lesson_of(request.user, lesson_id)
    active = selectors.active_correction(lesson)
    tried = lesson.corrections.exclude(pk=active.pk if active else None)
    return {
        "candidates": selectors.candidates_of(lesson, {**request.user.school, **lesson.school}),
        "active": active,
        "tried": list(tried),
    }


@router.post("/lessons/{lesson_id}/corrections", response={201: CorrectionOut, 404: Problems, 422: Problems})
def choose_correction(request: HttpRequest, lesson_id: int, data: CorrectionIn):
    """Choose one correction and write its prediction down."""
    return Status(201, services.choose_correction(lesson_of(request.user, lesson_id), data.dict(), timezone.now()))


@router.patch("/corrections/{correction_id}", response={200: CorrectionOut, 404: Problems, 422: Problems})
def change_correction(request: HttpRequest, correction_id: int, data: CorrectionChange):
    """Step the stage, close the correction, or move its gate: after a ball was judged by it the claim starts again."""
    correction = selectors.correction_of(request.user, correction_id)
    values = {k: v for k, v in data.dict(exclude_unset=True).items() if v is not None}
    return services.change_correction(correction, values, timezone.now())

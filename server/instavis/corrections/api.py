"""Correct: candidates with their terms, and the chosen one."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.accounts.requests import CoachRequest
from instavis.corrections import selectors, services
from instavis.corrections.models import Correction
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problems
from instavis_core.choice import Candidate
from instavis_core.message import Message, plain

router = Router()


Windows = dict[str, tuple[float, float]]


class CorrectionIn(Schema):
    """A coach's choice; ``gate`` and ``guards`` only if they were moved.

    The server computes the rest.
    """

    model_config = ConfigDict(extra="forbid")
    fault: str = Field(max_length=40)
    variant: str = Field("", max_length=20)
    drill: str = Field("", max_length=40)
    felt_by: str = Field("", max_length=20)
    stage: str = "half"
    gate: Windows | None = None
    guards: Windows | None = None


class CorrectionChange(Schema):
    """A change of stage, gate or feel, or the end: with an outcome that the proof supports, or stopped."""

    model_config = ConfigDict(extra="forbid")
    stage: str | None = None
    felt_by: str | None = Field(None, max_length=20)
    outcome: str | None = None
    gate: Windows | None = None
    guards: Windows | None = None


class CorrectionOut(Schema):
    """A correction, active or past."""

    id: int
    fault: str
    variant: str
    drill: str
    felt_by: str
    cue: Message
    primary: str
    direction: str
    predicted: float
    gate: Windows
    guards: Windows
    stage: str
    outcome: str
    probability_then: float | None
    chosen_at: datetime

    @staticmethod
    def resolve_cue(correction: Correction | CorrectionOut | dict[str, Any]) -> Message:
        """Return the cue in the reader's language; an answer inside another one has it already."""
        if isinstance(correction, Correction):
            return selectors.cue_of(correction)
        return plain(correction["cue"] if isinstance(correction, dict) else correction.cue)


class Choices(Schema):
    """Candidates, the active correction, and earlier ones."""

    candidates: list[Candidate]
    active: CorrectionOut | None
    tried: list[CorrectionOut]


@router.get("/lessons/{lesson_id}/corrections", response={200: Choices, 404: Problems})
def list_corrections(request: CoachRequest, lesson_id: int) -> dict[str, Any]:
    """List candidates by expected benefit, the active correction, and earlier ones."""
    lesson = lesson_of(request.user, lesson_id)
    active = selectors.active_correction(lesson)
    tried = lesson.corrections.exclude(pk=active.pk) if active else lesson.corrections.all()
    return {
        "candidates": selectors.candidates_of(lesson, {**request.user.school, **lesson.school}),
        "active": active,
        "tried": list(tried),
    }


@router.post(
    "/lessons/{lesson_id}/corrections", response={201: CorrectionOut, 404: Problems, 409: Problems, 422: Problems}
)
def choose_correction(request: CoachRequest, lesson_id: int, data: CorrectionIn) -> Status[Any]:
    """Start a correction: its prediction is stored, and the next balls prove it."""
    wish = services.Wish(**data.dict())
    return Status(201, services.choose_correction(lesson_of(request.user, lesson_id), wish, timezone.now()))


@router.patch(
    "/corrections/{correction_id}", response={200: CorrectionOut, 404: Problems, 409: Problems, 422: Problems}
)
def change_correction(request: CoachRequest, correction_id: int, data: CorrectionChange) -> Correction:
    """Change the stage, close the correction, or move its gate.

    After a judged ball, a moved gate starts a new claim.
    """
    correction = selectors.correction_of(request.user, correction_id)
    if (data.stage, data.gate, data.guards, data.felt_by) != (None, None, None, None):
        correction = services.change_correction(
            correction, timezone.now(), stage=data.stage, gate=data.gate, guards=data.guards, felt_by=data.felt_by
        )
    if data.outcome is not None:
        correction = services.close_correction(correction, data.outcome, timezone.now())
    return correction

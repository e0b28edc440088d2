"""Proof sets and cue comparisons."""

from __future__ import annotations

from typing import Any

import numpy as np
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.accounts.requests import CoachRequest
from instavis.corrections.trials import selectors, services
from instavis.corrections.trials.selectors import TrialRead
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problems
from instavis_core.proof import Plan

router = Router()


class TrialIn(Schema):
    """Two ways to compare: ``first`` is the old move or one cue, ``second`` the new move or the other."""

    model_config = ConfigDict(extra="forbid")
    first: str = Field("old", max_length=60)
    second: str = Field("new", max_length=60)
    primary: str
    balls: int = 12


@router.get("/lessons/{lesson_id}/trials", response={200: list[TrialRead], 404: Problems})
def list_trials(request: CoachRequest, lesson_id: int) -> list[TrialRead]:
    """Comparisons of a lesson, newest first."""
    return selectors.trials_of(lesson_of(request.user, lesson_id))


@router.get("/lessons/{lesson_id}/trials/plan", response={200: Plan, 404: Problems, 422: Problems})
def plan_trial(request: CoachRequest, lesson_id: int, primary: str, effect: float) -> Plan:
    """Return how many balls detect an effect of this size for this student."""
    return selectors.plan_of(lesson_of(request.user, lesson_id), primary, effect)


@router.post("/lessons/{lesson_id}/trials", response={201: TrialRead, 404: Problems, 409: Problems, 422: Problems})
def begin_trial(request: CoachRequest, lesson_id: int, data: TrialIn) -> Status[Any]:
    """Draw a random balanced order and start; the next balls are called."""
    lesson = lesson_of(request.user, lesson_id)
    rng = np.random.default_rng()
    trial = services.begin_trial(lesson, data.first, data.second, data.primary, data.balls, timezone.now(), rng)
    return Status(201, selectors.read_trial(selectors.trial_of(request.user, trial.pk)))


@router.post("/lessons/{lesson_id}/calls", response={201: TrialRead, 404: Problems, 409: Problems})
def begin_calls(request: CoachRequest, lesson_id: int) -> Status[Any]:
    """Call four old and four new moves for the active correction, in random order."""
    lesson = lesson_of(request.user, lesson_id)
    trial = services.begin_calls(lesson, timezone.now(), np.random.default_rng())
    return Status(201, selectors.read_trial(selectors.trial_of(request.user, trial.pk)))


@router.post("/trials/{trial_id}/end", response={200: TrialRead, 404: Problems})
def end_trial(request: CoachRequest, trial_id: int) -> TrialRead:
    """End a comparison; balls hit as called are judged."""
    trial = services.end_trial(selectors.trial_of(request.user, trial_id), timezone.now())
    return selectors.read_trial(trial)

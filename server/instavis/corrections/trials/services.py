"""Beginning and ending a comparison."""

from __future__ import annotations

from datetime import datetime

import numpy as np
from django.db import transaction

from instavis.corrections.trials.models import Trial
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import Block, Lesson
from instavis.platform.errors import Refused
from instavis_core.errors import InputError
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message
from instavis_core.proof import call_order
from instavis_core.terms import Purpose


@transaction.atomic
def begin_trial(
    lesson: Lesson, first: str, second: str, primary: str, balls: int, now: datetime, rng: np.random.Generator
) -> Trial:
    """Draw the order and open a block; the next balls belong to it.

    Raises
    ------
    InputError
        For labels that are empty or alike, an unknown metric, or a number of balls that cannot be called.
    Refused
        While another comparison runs.
    """
    first, second = first.strip(), second.strip()
    if not first or not second or first.lower() == second.lower():
        raise InputError("second", second, Message("two different names"))
    if primary not in vocabulary().metrics:
        raise InputError("primary", primary, Message("one of {known}", known=", ".join(vocabulary().metrics)))
    order = call_order(balls, rng)
    locked = locked_lesson(lesson.pk)
    if locked.trials.filter(ended_at__isnull=True).exists():
        raise Refused(409, "trial", Message("A comparison is running. End it first."))
    block = Block.objects.create(lesson=locked, purpose=Purpose.TRIAL, opened_at=now)
    locked.open_block = block
    trial = Trial.objects.create(
        lesson=locked, block=block, first=first, second=second, primary=primary, order=order, started_at=now
    )
    log_change(locked, Aspect.TRIAL)
    return trial


@transaction.atomic
def end_trial(trial: Trial, now: datetime) -> Trial:
    """End a comparison, complete or not; the next balls go where they went before."""
    locked = locked_lesson(trial.lesson_id)
    trial.ended_at = trial.ended_at or now
    trial.save(update_fields=["ended_at"])
    if locked.open_block_id == trial.block_id:
        before = locked.blocks.filter(pk__lt=trial.block_id).order_by("-pk").first()
        locked.open_block = before
    log_change(locked, Aspect.TRIAL)
    return trial

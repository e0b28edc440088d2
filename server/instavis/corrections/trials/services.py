"""Begin and end a comparison."""

from __future__ import annotations

from datetime import datetime

import numpy as np

from instavis.corrections.models import Correction
from instavis.corrections.selectors import active_correction
from instavis.corrections.trials.models import Trial
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import Block, Lesson
from instavis.platform.errors import Refused
from instavis.platform.transactions import transactional
from instavis_core.errors import InputError
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message
from instavis_core.proof import call_order
from instavis_core.terms import Purpose

CALLS = ("old", "new")
CALLED_BALLS = 8
"""Four of each."""


def begin_calls(lesson: Lesson, now: datetime, rng: np.random.Generator) -> Trial:
    """Call old and new for the active correction: the balls count in its proof, with the call as the movement.

    Raises
    ------
    Refused
        Without a correction, or while another comparison runs.
    """
    correction = active_correction(lesson)
    if correction is None:
        raise Refused(409, "correction", Message("prove-no-correction-test"))
    return begin_trial(lesson, *CALLS, correction.primary, CALLED_BALLS, now, rng, correction)


@transactional
def begin_trial(
    lesson: Lesson,
    first: str,
    second: str,
    primary: str,
    balls: int,
    now: datetime,
    rng: np.random.Generator,
    correction: Correction | None = None,
) -> Trial:
    """Draw the order and open a block; the next balls belong to it, and to the proof of a given correction.

    Raises
    ------
    InputError
        For labels that are empty or alike, an unknown metric, or a number of balls that cannot be called.
    Refused
        While another comparison runs.
    """
    first, second = first.strip(), second.strip()
    if not first or not second or first.lower() == second.lower():
        raise InputError("second", second, Message("prove-two-different-names"))
    if primary not in vocabulary().metrics:
        raise InputError("primary", primary, Message("common-one", known=", ".join(vocabulary().metrics)))
    order = call_order(balls, rng)
    locked = locked_lesson(lesson.pk)
    if locked.trials.filter(ended_at__isnull=True).exists():
        raise Refused(409, "trial", Message("prove-comparison-running-end-first"))
    stage = correction.stage if correction else ""
    block = Block.objects.create(
        lesson=locked, purpose=Purpose.TRIAL, opened_at=now, correction=correction, stage=stage
    )
    locked.open_block = block
    trial = Trial.objects.create(
        lesson=locked, block=block, first=first, second=second, primary=primary, order=order, started_at=now
    )
    log_change(locked, Aspect.TRIAL)
    return trial


@transactional
def end_trial(trial: Trial, now: datetime) -> Trial:
    """End a comparison, complete or not; the next balls go to the previous block's purpose."""
    locked = locked_lesson(trial.lesson_id)
    trial.end(now)
    if locked.open_block_id == trial.block_id:
        locked.open_block = trial.block.before
    log_change(locked, Aspect.TRIAL)
    return trial

"""Read comparisons: the next call, each ball, and the result."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis.accounts.models import Coach
from instavis.capture.shots.selectors import balls_of, baseline_balls, shots_of
from instavis.corrections.trials.models import Trial
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import open_to
from instavis.platform.errors import not_found
from instavis_core.errors import InputError
from instavis_core.message import Message
from instavis_core.proof import Plan, ProofSetResult, evaluate_proof_set, plan_comparison
from instavis_core.reading import read_block
from instavis_core.reading.completion import complete


@dataclass(frozen=True, kw_only=True)
class TrialBall:
    """One ball: the call, what was hit, and its value (golfer frame).

    ``inferred`` means that the value was not measured, ``counts`` that the ball is in the test.
    """

    shot_id: int
    number: int
    called: str
    hit: str
    value: float | None
    inferred: bool
    counts: bool


@dataclass(frozen=True, kw_only=True)
class TrialRead:
    """The state of a comparison; ``next_call`` is empty after the last ball."""

    id: int
    first: str
    second: str
    primary: str
    balls_planned: int
    ended: bool
    next_call: str
    balls: list[TrialBall]
    result: ProofSetResult | None
    sentence: Message


def trial_of(coach: Coach, trial_id: int) -> Trial:
    """Return one comparison of the academy."""
    found = Trial.objects.filter(open_to(coach, "lesson"), pk=trial_id).select_related("lesson__student")
    trial = found.first()
    if trial is None:
        raise not_found("trial")
    return trial


def trials_of(lesson: Lesson) -> list[TrialRead]:
    """Return comparisons of a lesson, newest first."""
    return [read_trial(t) for t in lesson.trials.select_related("lesson__student").order_by("-id")]


def plan_of(lesson: Lesson, primary: str, effect: float) -> Plan:
    """Return the balls needed for an effect, from the spread of the lesson's baseline.

    Raises
    ------
    InputError
        When the baseline does not know the metric's spread.
    """
    balls = baseline_balls(lesson)
    metric = read_block(balls.block, balls.aside).metrics.get(primary)
    if metric is None or metric.spread is None or not metric.spread > 0:
        raise InputError("primary", primary, Message("prove-metric-measured-several-baseline-balls"))
    return plan_comparison(effect, metric.spread)


def read_trial(trial: Trial) -> TrialRead:
    """Return calls and balls, and the exact test once it is possible."""
    shots = list(shots_of(trial.lesson).filter(block_id=trial.block_id))
    core = balls_of(shots_of(trial.lesson).filter(block_id=trial.block_id), trial.lesson)
    values = complete(core.block, check_readings=False).columns.get(trial.primary)
    known = dict(zip(core.ids, values, strict=True)) if values is not None else {}
    read = dict(zip(core.ids, core.block.column(trial.primary), strict=True))
    excluded = {core.ids[i] for i in core.aside}
    balls = []
    for place, shot in enumerate(shots):
        called, value = trial.call(place), float(known.get(shot.pk, np.nan))
        there = not np.isnan(value)
        inferred = there and bool(np.isnan(read[shot.pk]))
        counts = bool(called) and shot.intent == called and there and shot.pk not in excluded
        balls.append(
            TrialBall(
                shot_id=shot.pk,
                number=shot.number,
                called=called,
                hit=shot.intent,
                value=round(value, 2) if there else None,
                inferred=inferred,
                counts=counts,
            )
        )
    result, sentence = _result(trial, balls)
    left = "" if trial.ended_at else trial.call(len(shots))
    return TrialRead(
        id=trial.pk,
        first=trial.first,
        second=trial.second,
        primary=trial.primary,
        balls_planned=len(trial.order),
        ended=trial.ended_at is not None,
        next_call=left,
        balls=balls,
        result=result,
        sentence=sentence,
    )


def _result(trial: Trial, balls: list[TrialBall]) -> tuple[ProofSetResult | None, Message]:
    counted = [b for b in balls if b.counts]
    against = sum(bool(b.called) and b.hit != b.called for b in balls)
    if len(balls) < len(trial.order) and trial.ended_at is None:
        # A set is judged once, when it is complete: testing while it grows would make chance look like an effect.
        return None, Message("prove-balls-verdict-comes-after-last", balls=len(balls), order=len(trial.order))
    try:
        values = np.array([b.value for b in counted], float)
        result = evaluate_proof_set(values, np.array([b.hit == trial.second for b in counted], bool), against)
    except InputError as error:
        return None, Message("prove-no-verdict-yet-needs-hit", expected=error.expected)
    sure = Message("prove-do-change") if result.p <= 0.05 else Message("prove-may-may-not-change")
    sentence = Message(
        ("prove-vs-number-student-p-all"),
        second=trial.second,
        first=trial.first,
        sure=sure,
        effect=result.effect,
        low=result.low,
        high=result.high,
        p=result.p,
    )
    guessed = sum(b.inferred for b in counted)
    if guessed:
        sentence += Message(
            "prove-balls-number-inferred-flight-not",
            guessed=guessed,
            counted=len(counted),
        )
    if against:
        sentence += Message("prove-hit-against-call-did-not", against=against)
    return result, sentence

"""Reads of practice lessons: a coach's own only."""

from __future__ import annotations

import functools
from dataclasses import dataclass
from datetime import datetime

from instavis.accounts.models import Coach
from instavis.assessment.findings.selectors import observations_in
from instavis.capture.shots.models import Shot
from instavis.corrections.models import Correction
from instavis.corrections.proofs.selectors import proof_of
from instavis.lessons.cached import cached
from instavis.lessons.models import Lesson
from instavis.platform.errors import not_found
from instavis.training.models import Training, Tried
from instavis_core.figure import MovingFigure
from instavis_core.terms import JUDGED, Outcome, Source
from instavis_core.training import Attempt, CoachActions, Score, score, training_figure, training_golfer


def training_of(coach: Coach, lesson_id: int) -> Training:
    """Return one of a coach's own practice lessons, or raise as for a missing one."""
    mine = Training.objects.select_related("lesson__student", "lesson__open_block", "lesson__academy")
    found = mine.filter(lesson_id=lesson_id, lesson__coach=coach).first()
    if found is None:
        raise not_found("practice-lesson")
    return found


@dataclass(frozen=True, kw_only=True)
class TrainingRow:
    """A practice lesson in the list; ``score`` after its end."""

    lesson_id: int
    student_name: str
    level: str
    started_at: datetime
    ended_at: datetime | None
    station: str
    score: Score | None


MAX_ROWS = 20


def trainings_of(coach: Coach) -> list[TrainingRow]:
    """Return a coach's own practice lessons, newest first, limited."""
    mine = Training.objects.filter(lesson__coach=coach).select_related("lesson__student")[:MAX_ROWS]
    return [
        TrainingRow(
            lesson_id=one.lesson_id,
            student_name=one.lesson.student.name,
            level=one.level,
            started_at=one.lesson.started_at,
            ended_at=one.lesson.ended_at,
            station=one.lesson.station,
            score=cached("practice score", one.lesson, functools.partial(score_of, one)),
        )
        for one in mine
    ]


def score_of(training: Training) -> Score | None:
    """Return what was hidden and how the coach did; None before the end."""
    lesson = training.lesson
    if lesson.ended_at is None:
        return None
    by_eye = {one.check: one.grade for one in observations_in(lesson) if one.source == Source.EYE}
    correction = lesson.corrections.filter(blocks__shots__isnull=False).order_by("-id").first()
    actions = CoachActions(
        balls=lesson.last_ball,
        graded=by_eye,
        corrected=correction.fault if correction else None,
        outcome=_claimed(lesson, correction) if correction else None,
        marked=_marked(lesson, correction) if correction else (),
    )
    return score(training_golfer(training.level, training.seed), actions)


def _claimed(lesson: Lesson, correction: Correction) -> str:
    """Return how the correction ended; the proof's status if nobody closed it."""
    if correction.outcome != Outcome.OPEN:
        return correction.outcome
    text = str(proof_of(lesson, correction)[0].status)
    return text if text in [str(outcome) for outcome in JUDGED] else correction.outcome


def _marked(lesson: Lesson, correction: Correction) -> list[tuple[str, str]]:
    tried = Tried.objects.filter(shot__lesson=lesson, fault=correction.fault).order_by("shot__number")
    return list(tried.values_list("effort", "shot__movement"))


def swing_of(training: Training, check: str, number: int | None) -> MovingFigure:
    """Return the swing of a ball for a check; without a number, one before the first ball.

    Raises
    ------
    InputError
        For an unknown look.
    """
    attempt = None
    if number is not None:
        shot = Shot.objects.filter(lesson=training.lesson, number=number).select_related("tried").first()
        if shot is None:
            raise not_found("ball")
        tried = Tried.objects.filter(shot=shot).first()
        attempt = Attempt(fault=tried.fault, effort=tried.effort) if tried else None
    who = training_golfer(training.level, training.seed)
    return training_figure(who, check, training.seed, number or 0, attempt)

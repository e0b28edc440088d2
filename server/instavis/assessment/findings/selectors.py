"""The reading of the baseline and the ranking of its causes, recomputed from what is stored."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime
from functools import partial
from typing import Any

import numpy as np

from instavis.accounts.models import Coach
from instavis.assessment.eyes.selectors import eye_of
from instavis.assessment.findings.models import BodyResult, Intake, IntakeLink, SetupNote
from instavis.capture.shots.models import Shot
from instavis.capture.shots.selectors import Balls, Baseline, balls_of, baseline_balls, baseline_of, shots_of
from instavis.knowledge.selectors import knowledge_for
from instavis.lessons.cached import cached, states_of
from instavis.lessons.models import Lesson
from instavis.platform.errors import not_found
from instavis.platform.keys import hash_token
from instavis_core.body import BodyBounds, bounds_of
from instavis_core.cause import Eye, Ranking, rank_causes
from instavis_core.cause import Intake as CoreIntake
from instavis_core.cause.evidence import NOT_SEEN
from instavis_core.choice import FaultBall, Student, WhatIf, ball_of_fault, what_if
from instavis_core.errors import InputError
from instavis_core.impact.inverse import DELIVERY_NAMES
from instavis_core.knowledge import Knowledge, vocabulary
from instavis_core.lesson import Setup, intake_for, setup_changes
from instavis_core.message import Message
from instavis_core.reading import BallReading, own_spreads, read_ball, read_block, spreads_in
from instavis_core.reading.block import low_points
from instavis_core.reading.completion import complete
from instavis_core.shots import Block as CoreBlock
from instavis_core.shots import read_number
from instavis_core.terms import GIVEN_UP, JUDGED, Outcome, Purpose, Source
from instavis_report import Why, why_of

MAX_EARLIER = 6
SPREADS_FROM = 3  # earlier baselines that define this student's usual spread
MAX_STEPS = 24  # checks in a history
COMPARED = ("path_deg", "face_deg", "attack_deg", "strike_toe_mm", "launch_direction_deg", "spin_axis_deg")
MIN_AGAINST = 1.0  # minimum log-odds that an unsupported correction takes from its fault


@dataclass(frozen=True, kw_only=True)
class Observation:
    """One coach's newest answer to a check."""

    check: str
    grade: str
    source: str
    after_board: bool
    coach_id: int
    coach: str
    at: datetime


def observations_in(lesson: Lesson) -> list[Observation]:
    """Return every coach's newest answer to every check, in order; removed ones are left out."""
    rows = lesson.grades.select_related("coach").order_by("id")
    newest = {(r.coach_id, r.check_id): r for r in rows}
    answers = sorted((r for r in newest.values() if r.grade != NOT_SEEN), key=lambda r: r.pk)
    return [
        Observation(
            check=r.check_id,
            grade=r.grade,
            source=r.source,
            after_board=r.after_board,
            coach_id=r.coach_id,
            coach=r.coach.name,
            at=r.graded_at,
        )
        for r in answers
    ]


def grades_of(lesson: Lesson, coach: Coach | None = None) -> dict[str, str]:
    """Return the answer to every check: the coach's own if there is one, otherwise another's newest."""
    observations = observations_in(lesson)
    own = {s.check: s.grade for s in observations if coach is not None and s.coach_id == coach.pk}
    return {s.check: s.grade for s in observations} | own


def _for_core(knowledge: Knowledge, observations: Iterable[Observation]) -> dict[str, tuple[str, ...]]:
    """Return answers in the form the core weighs: all coaches' for each check; unknown checks are left out."""
    known = knowledge.checks
    result: dict[str, tuple[str, ...]] = {}
    for one in observations:
        if one.check in known and one.grade in known[one.check].grades:
            result[one.check] = (*result.get(one.check, ()), one.grade)
    return result


def intake_of(lesson: Lesson) -> Intake | None:
    """Return the intake, if there is one."""
    return Intake.objects.filter(lesson=lesson).first()


ANSWERS = (
    "misses",
    "contact",
    "feels",
    "good_feel",
    "thoughts",
    "old_faults",
    "goal",
    "kit",
    "limits",
    "health",
    "pain",
)


def answers_of(intake: Intake | None) -> dict[str, Any]:
    """Return the answers of an intake in the form the core reads; empty without one."""
    return {name: getattr(intake, name) for name in ANSWERS} if intake else {}


def earlier_intake(lesson: Lesson) -> Intake | None:
    """Return the same student's answers in the last lesson before this one."""
    earlier = Intake.objects.filter(lesson__student_id=lesson.student_id, lesson__started_at__lt=lesson.started_at)
    return earlier.select_related("lesson").order_by("-lesson__started_at").first()


def lesson_by_link(token: str, now: datetime) -> Lesson | None:
    """Return the lesson of an intake link that is still valid."""
    link = (
        IntakeLink.objects.filter(token_hash=hash_token(token), revoked_at__isnull=True, expires_at__gt=now)
        .select_related("lesson__student", "lesson__coach__academy")
        .first()
    )
    return link.lesson if link else None


def setups_of(lesson: Lesson) -> tuple[list[SetupNote], list[Message]]:
    """Return the setup notes of a lesson, and what has changed since the first."""
    notes = list(lesson.setups.all())
    if len(notes) < 2:
        return notes, []
    first, last = (Setup(n.ball_cm, n.stance_cm, n.aim_deg) for n in (notes[0], notes[-1]))
    return notes, setup_changes(first, last)


def earlier_baselines(lesson: Lesson) -> list[dict[str, Any]]:
    """Return the medians of this student's earlier baselines with the same club, newest first."""
    earlier = Lesson.objects.filter(student_id=lesson.student_id, started_at__lt=lesson.started_at).select_related(
        "student"
    )
    rows, among = [], states_of(lesson.student)
    for other in earlier.order_by("-started_at")[:MAX_EARLIER]:
        balls, centres = cached("middles", other, partial(_middles, other, lesson.club), lesson.club, among=among)
        if balls:
            rows.append({"lesson_id": other.pk, "day": other.day, "balls": balls, "centres": centres})
    return rows


def _middles(lesson: Lesson, club: str) -> tuple[int, dict[str, float]]:
    balls = baseline_balls(lesson, club)
    if not balls.ids:
        return 0, {}
    reading = read_block(balls.block, balls.aside)
    return reading.clean, {m: r.centre for m, r in reading.metrics.items() if m in COMPARED}


@dataclass(frozen=True, kw_only=True)
class Tested:
    """The newest result of one part of a student's body, and the day of the test."""

    part: str
    grade: str
    day: date


def body_of(lesson: Lesson) -> list[Tested]:
    """Return the newest body results, from this lesson or before."""
    rows = BodyResult.objects.filter(lesson__student_id=lesson.student_id, lesson__started_at__lte=lesson.started_at)
    newest = {row.part: row for row in rows.order_by("tested_at", "id")}
    day = lesson.academy.day_of
    return [Tested(part=row.part, grade=row.grade, day=day(row.tested_at)) for row in newest.values() if row.grade]


def bounds_in(lesson: Lesson) -> BodyBounds:
    """Return the limits that follow from the tests for this lesson."""
    return bounds_of({tested.part: tested.grade for tested in body_of(lesson)})


def student_of(lesson: Lesson) -> Student:
    """Return what limits the choice of a correction for this student."""
    intake = intake_of(lesson)
    if intake is None:
        return Student(body=bounds_in(lesson))
    return Student(
        limits=intake.limits,
        kit=frozenset(intake.kit) or None,
        health=frozenset(intake.health),
        body=bounds_in(lesson),
    )


def spreads_before(lesson: Lesson, club: str = "") -> dict[str, float]:
    """Return this student's own spreads in the newest earlier baselines with a club."""
    club = club or lesson.club
    earlier = Lesson.objects.filter(
        student_id=lesson.student_id,
        started_at__lt=lesson.started_at,
        pk__in=Shot.objects.filter(block__purpose=Purpose.BASELINE, club=club).values("lesson_id"),
    ).select_related("student")
    newest, among = earlier.order_by("-started_at")[:SPREADS_FROM], states_of(lesson.student)
    return own_spreads(cached("spreads", other, partial(_spreads, other, club), club, among=among) for other in newest)


def _spreads(lesson: Lesson, club: str) -> dict[str, float]:
    return spreads_in(baseline_balls(lesson, club).counted)


def reading_of(balls: Balls, only: frozenset[int] | None = None, own: dict[str, float] | None = None) -> dict[str, Any]:
    """Return the reading of some balls (by their keys; all for None), their keys, and what was inferred for each."""
    block, ids, aside = balls.block, balls.ids, balls.aside
    if only is not None:
        places = [i for i, key in enumerate(ids) if key in only]
        aside = frozenset(n for n, i in enumerate(places) if i in aside)
        block, ids = _some(block, places), [ids[i] for i in places]
    completed = complete(block, check_readings=False)
    return {
        "reading": read_block(block, aside, own),
        "ball_ids": ids,
        "inferred": {
            m: _shown(np.where(np.isnan(block.column(m)), completed.columns[m], np.nan)) for m in completed.inferred
        },
        "low_points_cm": _shown(low_points(block, completed)),
    }


def ball_reading_of(shot: Shot) -> BallReading:
    """Return one ball in detail, among the balls of its block and club."""
    lesson, block = shot.lesson, shot.block
    if lesson is None or block is None:
        raise not_found("ball-of-a-lesson")
    balls = balls_of(shots_of(lesson).filter(block=block), lesson)
    if shot.pk not in balls.ids:
        raise not_found("ball-of-the-lessons-club")
    return read_ball(balls.block, balls.ids.index(shot.pk), balls.aside)


def what_if_of(lesson: Lesson, shot_id: int | None, changes: dict[str, float]) -> WhatIf:
    """Return the flight of another delivery, of one ball or the baseline's median.

    Raises
    ------
    InputError
        For a metric that is no delivery, or a value out of range.
    """
    metrics = vocabulary().metrics
    checked = {}
    for name, value in changes.items():
        if name not in DELIVERY_NAMES:
            raise InputError(f"changes.{name}"[:80], value, Message("common-one", known=", ".join(DELIVERY_NAMES)))
        checked[name] = read_number(f"changes.{name}", value, metrics[name].range, metrics[name].unit)
    if shot_id is None:
        centres = read_block(baseline_balls(lesson).block).metrics
        start = {name: centres[name].centre for name in DELIVERY_NAMES if name in centres}
    else:
        shot = lesson.shots.filter(pk=shot_id).first()
        if shot is None:
            raise not_found("ball")
        start = {v.metric: v.value for v in ball_reading_of(shot).values if v.metric in DELIVERY_NAMES}
    return what_if(start, checked, lesson.golfer, lesson.club_row())


def _shown(values: np.ndarray) -> list[float | None]:
    return [None if np.isnan(v) else round(float(v), 2) for v in values]


def ranking_of(lesson: Lesson, baseline: Baseline | None = None) -> Ranking:
    """Rank causes from baseline, intake, checks and failed corrections, with the lesson's own knowledge."""
    return rank(lesson, knowledge_for(lesson), baseline)


def why_in(lesson: Lesson) -> Why:
    """Return the explanation for a lesson's student; of the correction's fault if there is a correction."""
    corrected = lesson.corrections.exclude(outcome__in=GIVEN_UP).order_by("-id").first()
    return why_of(ranking_of(lesson), corrected.fault if corrected else None)


def rank(
    lesson: Lesson,
    knowledge: Knowledge,
    baseline: Baseline | None = None,
    observations: Iterable[Observation] | None = None,
) -> Ranking:
    """Rank with any knowledge, and with other answers than the lesson's if given."""
    baseline = baseline or baseline_of(lesson)
    balls = baseline.own
    intake = intake_of(lesson)
    words = CoreIntake()
    if intake is not None:
        words = intake_for(answers_of(intake), lesson.club_row())
    looked = list(observations_in(lesson) if observations is None else observations)
    eye = _eye(looked, knowledge)
    return rank_causes(
        knowledge,
        balls.block,
        words,
        _for_core(knowledge, looked),
        balls.aside,
        _tried(lesson),
        baseline.other_blocks,
        eye,
    )


def _eye(observations: Iterable[Observation], knowledge: Knowledge) -> Eye:
    """Return the accuracy of the coaches' own answers; those from an instrument are not affected.

    Answers given after the ranking was seen count less.
    """
    by_eye = [one for one in observations if one.source == Source.EYE]
    checks = {one.check for one in by_eye}
    known = eye_of({one.coach_id for one in by_eye}, knowledge)
    own = Eye(says_nothing={check: share for check, share in known.says_nothing.items() if check in checks})
    return own.after_ranking(one.check for one in by_eye if one.after_board)


def _tried(lesson: Lesson) -> dict[str, float]:
    """Return what closed corrections say for (+) and against (−) their faults, as log-odds."""
    closed = lesson.corrections.filter(outcome__in=JUDGED)
    tried: dict[str, float] = {}
    for correction in closed:
        text = correction.log_odds
        if text is None or (correction.outcome == Outcome.NOT_SUPPORTED and text > -MIN_AGAINST):
            text = -MIN_AGAINST if correction.outcome == Outcome.NOT_SUPPORTED else 0.0
        tried[correction.fault] = tried.get(correction.fault, 0.0) + text
    return tried


@dataclass(frozen=True, kw_only=True)
class Step:
    """The ranking after one more check; ``look`` and ``grade`` are empty for the first state."""

    check: str
    grade: str
    coach: str
    leader: str
    word: Message
    probability: float
    second: str
    second_probability: float


def history_of(lesson: Lesson) -> list[Step]:
    """Return how the ranking developed check by check, with the current balls and words."""
    observations = observations_in(lesson)[-MAX_STEPS:]
    knowledge, baseline, steps = knowledge_for(lesson), baseline_of(lesson), []
    for count in range(len(observations) + 1):
        first, second = rank(lesson, knowledge, baseline, observations[:count]).faults[:2]
        last = observations[count - 1] if count else None
        steps.append(
            Step(
                check=last.check if last else "",
                grade=last.grade if last else "",
                coach=last.coach if last else "",
                leader=first.id,
                word=first.word,
                probability=first.probability,
                second=second.id,
                second_probability=second.probability,
            )
        )
    return steps


def ball_of(lesson: Lesson, fault: str, variant: str | None) -> FaultBall:
    """Return what one fault alone would do to this student's ball."""
    balls = baseline_balls(lesson)
    speeds = balls.block.column("club_speed_mps")
    speed = float(np.nanmedian(speeds)) if (~np.isnan(speeds)).any() else None
    return ball_of_fault(knowledge_for(lesson), fault, variant, lesson.golfer, lesson.club_row(), speed)


def _some(block: CoreBlock, places: list[int]) -> CoreBlock:
    return block.keep(np.isin(np.arange(len(block)), places))

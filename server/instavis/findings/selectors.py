"""The reading of the baseline and the ranking of its causes, made afresh from what is stored."""

from __future__ import annotations

from datetime import datetime
from typing import Any

import numpy as np

from instavis.config.errors import not_found
from instavis.devices.models import hash_token
from instavis.findings.models import Intake, IntakeLink, SetupNote
from instavis.lessons.models import Lesson
from instavis.shots.models import Shot
from instavis.shots.selectors import Balls, balls_of, baseline_balls, shots_of
from instavis_core.cause import Intake as CoreIntake
from instavis_core.cause import Ranking, rank_causes
from instavis_core.choice import WhatIf, what_if
from instavis_core.errors import InputError
from instavis_core.impact.inverse import DELIVERY_NAMES
from instavis_core.knowledge import load_knowledge
from instavis_core.lesson import Setup, intake_for, setup_changes
from instavis_core.reading import BallReading, read_ball, read_block
from instavis_core.reading.block import low_points
from instavis_core.reading.completion import complete
from instavis_core.shots import Block as CoreBlock
from instavis_core.shots import read_number

MOST_EARLIER = 6
COMPARED = ("path_deg", "face_deg", "attack_deg", "strike_toe_mm", "launch_direction_deg", "spin_axis_deg")
FAILED_LOG_ODDS = 2.0  # taken from a fault whose correction was not supported


def grades_of(lesson: Lesson) -> dict[str, str]:
    """The newest grade of every look."""
    return dict(lesson.grades.order_by("id").values_list("check_id", "grade"))


def intake_of(lesson: Lesson) -> Intake | None:
    """The intake, if the student was asked."""
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
    """The answers of an intake as the core reads them; empty when nobody was asked."""
    return {name: getattr(intake, name) for name in ANSWERS} if intake else {}


def earlier_intake(lesson: Lesson) -> Intake | None:
    """What the same student said in the last lesson before this one."""
    earlier = Intake.objects.filter(lesson__student_id=lesson.student_id, lesson__started_at__lt=lesson.started_at)
    return earlier.select_related("lesson").order_by("-lesson__started_at").first()


def lesson_by_link(token: str, now: datetime) -> Lesson | None:
    """The lesson an intake link opens, while it lasts."""
    link = (
        IntakeLink.objects.filter(token_hash=hash_token(token), revoked_at__isnull=True, expires_at__gt=now)
        .select_related("lesson__student", "lesson__coach__academy")
        .first()
    )
    return link.lesson if link else None


def setups_of(lesson: Lesson) -> tuple[list[SetupNote], list[str]]:
    """The set-up notes of a lesson, and what has moved since the first."""
    notes = list(lesson.setups.all())
    if len(notes) < 2:
        return notes, []
    first, last = (Setup(n.ball_cm, n.stance_cm, n.aim_deg) for n in (notes[0], notes[-1]))
    return notes, setup_changes(first, last)


def earlier_baselines(lesson: Lesson) -> list[dict[str, Any]]:
    """The middles of this student's earlier baselines with the same club, newest first."""
    earlier = Lesson.objects.filter(student_id=lesson.student_id, started_at__lt=lesson.started_at).select_related(
        "student"
    )
    rows = []
    for other in earlier.order_by("-started_at")[:MOST_EARLIER]:
        balls = baseline_balls(other, lesson.club)
        if not balls.ids:
            continue
        reading = read_block(balls.block, balls.aside)
        centres = {m: r.centre for m, r in reading.metrics.items() if m in COMPARED}
        rows.append({"lesson_id": other.pk, "day": other.started_at.date(), "balls": reading.clean, "centres": centres})
    return rows


def limits_of(lesson: Lesson) -> dict[str, str]:
    """Body regions to spare, each with pain, injury or stiff."""
    intake = intake_of(lesson)
    return intake.limits if intake else {}


def kit_of(lesson: Lesson) -> frozenset[str]:
    """What the student has at home."""
    intake = intake_of(lesson)
    return frozenset(intake.kit if intake else ())


def reading_of(balls: Balls, only: frozenset[int] | None = None) -> dict[str, Any]:
    """Reading of some balls (by their keys; all when None), their keys, and what was inferred of each."""
    block, ids, aside = balls.block, balls.ids, balls.aside
    if only is not None:
        places = [i for i, key in enumerate(ids) if key in only]
        aside = frozenset(n for n, i in enumerate(places) if i in aside)
        block, ids = _some(block, places), [ids[i] for i in places]
    completed = complete(block, check_readings=False)
    return {
        "reading": read_block(block, aside),
        "ball_ids": ids,
        "inferred": {
            m: _shown(np.where(np.isnan(block.column(m)), completed.columns[m], np.nan)) for m in completed.inferred
        },
        "low_points_cm": _shown(low_points(block, completed)),
    }


def ball_reading_of(shot: Shot) -> BallReading:
    """One ball among the balls it was hit with: same block, same club."""
    balls = balls_of(shots_of(shot.lesson).filter(block_id=shot.block_id), shot.lesson)
    if shot.pk not in balls.ids:
        raise not_found("ball of the lesson's club")
    return read_ball(balls.block, balls.ids.index(shot.pk), balls.aside)


def what_if_of(lesson: Lesson, shot_id: int | None, changes: dict[str, float]) -> WhatIf:
    """Another delivery of one ball, or of the baseline's middle.

    Raises
    ------
    InputError
        For a metric that is no delivery, or a value out of range.
    """
    metrics = load_knowledge().metrics
    checked = {}
    for name, value in changes.items():
        if name not in DELIVERY_NAMES:
            raise InputError(f"changes.{name}"[:80], value, "one of " + ", ".join(DELIVERY_NAMES))
        checked[name] = read_number(f"changes.{name}", value, metrics[name].range, metrics[name].unit)
    if shot_id is None:
        centres = read_block(baseline_balls(lesson).block).metrics
        start = {name: centres[name].centre for name in DELIVERY_NAMES if name in centres}
    else:
        shot = lesson.shots.filter(pk=shot_id).first()
        if shot is None:
            raise not_found("ball")
        start = {v.metric: v.value for v in ball_reading_of(shot).values if v.metric in DELIVERY_NAMES}
    return what_if(start, checked, lesson.student.golfer, load_knowledge().clubs[lesson.club])


def _shown(values: np.ndarray) -> list[float | None]:
    return [None if np.isnan(v) else round(float(v), 2) for v in values]


def ranking_of(lesson: Lesson, balls: Balls | None = None) -> Ranking:
    """Causes ranked from baseline, intake, looks and corrections that failed."""
    balls = balls or baseline_balls(lesson)
    intake = intake_of(lesson)
    words = CoreIntake()
    if intake is not None:
        words = intake_for(answers_of(intake), load_knowledge().clubs[lesson.club])
    grades = {k: v for k, v in grades_of(lesson).items() if v != "not-seen"}
    failed = {c.fault: FAILED_LOG_ODDS for c in lesson.corrections.filter(outcome="not-supported")}
    return rank_causes(balls.block, words, grades, balls.aside, failed)


def _some(block: CoreBlock, places: list[int]) -> CoreBlock:
    return block.keep(np.isin(np.arange(len(block)), places))

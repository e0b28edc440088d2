"""The reading of the baseline and the ranking of its causes, made afresh from what is stored."""

from __future__ import annotations

import numpy as np

from instavis.findings.models import Intake
from instavis.lessons.models import Lesson
from instavis.shots.selectors import Balls, baseline_balls
from instavis_core.cause import Intake as CoreIntake
from instavis_core.cause import Ranking, rank_causes
from instavis_core.reading import BlockReading, read_block
from instavis_core.shots import Block as CoreBlock

FAILED_LOG_ODDS = 2.0  # taken from a fault whose correction was not supported


def grades_of(lesson: Lesson) -> dict[str, str]:
    """The newest grade of every look."""
    return dict(lesson.grades.order_by("id").values_list("check_id", "grade"))


def intake_of(lesson: Lesson) -> Intake | None:
    """The intake, if the student was asked."""
    return Intake.objects.filter(lesson=lesson).first()


def limits_of(lesson: Lesson) -> frozenset[str]:
    """Body regions to spare."""
    intake = intake_of(lesson)
    return frozenset(intake.limits if intake else ())


def reading_of(balls: Balls, only: frozenset[int] | None = None) -> tuple[BlockReading, list[int]]:
    """Reading of some balls (by their keys; all when None) and the keys of the balls it speaks of."""
    if only is None:
        return read_block(balls.block, balls.aside), balls.ids
    places = [i for i, key in enumerate(balls.ids) if key in only]
    aside = frozenset(n for n, i in enumerate(places) if i in balls.aside)
    return read_block(_some(balls.block, places), aside), [balls.ids[i] for i in places]


def ranking_of(lesson: Lesson, balls: Balls | None = None) -> Ranking:
    """Causes ranked from baseline, intake, looks and corrections that failed."""
    balls = balls or baseline_balls(lesson)
    intake = intake_of(lesson)
    words = CoreIntake()
    if intake is not None:
        words = CoreIntake(intake.start or None, intake.curve or None, tuple(intake.contact), tuple(intake.feels))
    grades = {k: v for k, v in grades_of(lesson).items() if v != "not-seen"}
    failed = {c.fault: FAILED_LOG_ODDS for c in lesson.corrections.filter(outcome="not-supported")}
    return rank_causes(balls.block, words, grades, balls.aside, failed)


def _some(block: CoreBlock, places: list[int]) -> CoreBlock:
    return block.keep(np.isin(np.arange(len(block)), places))

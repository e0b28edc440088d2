"""What was kept since the last lesson, from the balls of both."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

import numpy as np

from instavis.corrections.models import Correction
from instavis.lessons.models import Lesson
from instavis.proofs.selectors import proof_of
from instavis.shots.selectors import Balls, baseline_balls
from instavis_core.progress import Retention, retained_share
from instavis_core.reading import clean_balls
from instavis_core.reading.completion import complete

COLD_BALLS, EXIT_BALLS = 10, 10


@dataclass(frozen=True)
class ColdTest:
    """The first balls of this lesson against the correction of an earlier one; ``inferred`` counts those of them on
    which the number was not measured.
    """

    lesson_id: int
    day: date
    days_ago: int
    fault: str
    primary: str
    stage: str
    cold_balls: int
    inferred: int
    retention: Retention


def cold_test_of(lesson: Lesson) -> ColdTest | None:
    """The last correction before this lesson, with the same club, that has balls; None when there is none."""
    earlier = Correction.objects.filter(
        lesson__student_id=lesson.student_id,
        lesson__club=lesson.club,
        lesson__started_at__lt=lesson.started_at,
        outcome__in=(Correction.Outcome.OPEN, Correction.Outcome.VERIFIED),
        blocks__shots__isnull=False,
    )
    correction = earlier.select_related("lesson__student", "lesson__knowledge_version").order_by("-id").first()
    if correction is None:
        return None
    before = correction.lesson
    proof, _ = proof_of(before, correction)
    counted = [v.value for v in proof.verdicts if v.value is not None and v.moved is not None]
    cold, inferred = _values(baseline_balls(lesson), correction.primary)
    cold = cold[:COLD_BALLS]
    return ColdTest(
        before.pk,
        before.started_at.date(),
        (lesson.started_at.date() - before.started_at.date()).days,
        correction.fault,
        correction.primary,
        correction.stage,
        len(cold),
        int(inferred[:COLD_BALLS].sum()),
        retained_share(_values(baseline_balls(before), correction.primary)[0], np.array(counted[-EXIT_BALLS:]), cold),
    )


def _values(balls: Balls, metric: str) -> tuple[np.ndarray, np.ndarray]:
    """The clean balls' values of a metric in the order they were hit, and which of them are inferred."""
    clean = clean_balls(balls.block, balls.aside)
    values = complete(balls.block, check_readings=False).columns[metric][clean]
    there = ~np.isnan(values)
    return values[there], np.isnan(balls.block.column(metric)[clean])[there]

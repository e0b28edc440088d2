"""Reads of corrections and candidates."""

from __future__ import annotations

from instavis.config.errors import not_found
from instavis.corrections.models import Correction
from instavis.findings.selectors import kit_of, limits_of, ranking_of
from instavis.knowledge.selectors import judged_by
from instavis.lessons.models import Lesson
from instavis.people.models import Coach
from instavis.shots.selectors import baseline_balls
from instavis_core.choice import Candidate, rank_candidates


def active_correction(lesson: Lesson) -> Correction | None:
    """The correction being worked on: the newest that was not given up."""
    return lesson.corrections.exclude(outcome__in=("stopped", "not-supported")).order_by("-id").first()


def correction_of(coach: Coach, correction_id: int) -> Correction:
    """One correction of the academy."""
    found = Correction.objects.filter(pk=correction_id, lesson__academy=coach.academy).select_related("lesson").first()
    if found is None:
        raise not_found("correction")
    return found


def candidates_of(lesson: Lesson, school: dict[str, str]) -> list[Candidate]:
    """Corrections by what they would be worth to this student."""
    balls = baseline_balls(lesson)
    with judged_by(lesson):
        return rank_candidates(ranking_of(lesson, balls), balls.block, limits_of(lesson), school, kit_of(lesson))

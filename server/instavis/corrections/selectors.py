"""Reads of corrections and candidates."""

from __future__ import annotations

from dataclasses import replace

from django.db.models import QuerySet

from instavis.config.errors import not_found
from instavis.corrections.models import Correction
from instavis.findings.selectors import kit_of, limits_of, ranking_of
from instavis.knowledge.selectors import judged_by
from instavis.lessons.models import Lesson
from instavis.people.models import Coach
from instavis.shots.selectors import baseline_balls
from instavis_core.choice import Candidate, GateProposal, rank_candidates


def active_correction(lesson: Lesson) -> Correction | None:
    """The correction being worked on: the newest that was not given up."""
    return lesson.corrections.exclude(outcome__in=("stopped", "not-supported")).order_by("-id").first()


def correction_of(coach: Coach, correction_id: int) -> Correction:
    """One correction of the academy."""
    found = Correction.objects.filter(pk=correction_id, lesson__academy=coach.academy).select_related("lesson").first()
    if found is None:
        raise not_found("correction")
    return found


def earlier_corrections(lesson: Lesson) -> QuerySet[Correction]:
    """Corrections of the student's earlier lessons with the same club that have balls and were not given up, newest
    first.
    """
    related = "lesson__student", "lesson__coach", "lesson__knowledge_version", "begun_in"
    found = Correction.objects.select_related(*related).filter(
        lesson__student_id=lesson.student_id,
        lesson__club=lesson.club,
        lesson__started_at__lt=lesson.started_at,
        outcome__in=(Correction.Outcome.OPEN, Correction.Outcome.VERIFIED),
        pk__in=Correction.objects.filter(blocks__shots__isnull=False).values("pk"),
    )
    return found.order_by("-lesson__started_at", "-id")


def candidates_of(lesson: Lesson, school: dict[str, str]) -> list[Candidate]:
    """Corrections by what they would be worth to this student."""
    balls = baseline_balls(lesson)
    with judged_by(lesson):
        ranked = rank_candidates(ranking_of(lesson, balls), balls.block, limits_of(lesson), school, kit_of(lesson))
    earlier = {}
    for correction in earlier_corrections(lesson):
        earlier.setdefault(correction.fault, correction)
    return [_gone_on_with(c, earlier[c.id]) if c.id in earlier else c for c in ranked]


def _gone_on_with(candidate: Candidate, earlier: Correction) -> Candidate:
    """A correction that was begun in an earlier lesson keeps its number, its prediction and its gates."""
    gate = GateProposal(
        earlier.primary,
        earlier.direction,
        earlier.predicted,
        earlier.gate,
        earlier.guards,
        earlier.gate_by_stage or {earlier.stage: earlier.gate[earlier.primary]},
    )
    return replace(candidate, gate=gate)

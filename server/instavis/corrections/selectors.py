"""Reads of corrections and candidates."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from django.db.models import QuerySet

from instavis.accounts.models import Coach
from instavis.assessment.findings.selectors import ranking_of, student_of
from instavis.capture.shots.selectors import baseline_balls, baseline_of
from instavis.corrections.models import Correction
from instavis.knowledge.selectors import knowledge_for
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import open_to
from instavis.platform.errors import not_found
from instavis_core.cause import CauseRow
from instavis_core.choice import Candidate, GateProposal, likely_answer, middles, propose_gate, rank_candidates
from instavis_core.errors import InputError
from instavis_core.message import Message, plain
from instavis_core.terms import GIVEN_UP, Outcome


def active_correction(lesson: Lesson) -> Correction | None:
    """Return the active correction: the newest that was not stopped."""
    return lesson.corrections.exclude(outcome__in=GIVEN_UP).order_by("-id").first()


def correction_of(coach: Coach, correction_id: int) -> Correction:
    """Return one correction of the academy."""
    found = Correction.objects.filter(open_to(coach, "lesson"), pk=correction_id).select_related("lesson").first()
    if found is None:
        raise not_found("correction")
    return found


def cue_of(correction: Correction) -> Message:
    """Return the cue as the student heard it: the drill's cue in the reader's language, as long as the drill still has
    that cue.
    """
    drill = knowledge_for(correction.lesson).drills.get(correction.drill)
    return drill.cue if drill is not None and correction.cue in ("", drill.cue) else plain(correction.cue)


def earlier_corrections(lesson: Lesson) -> QuerySet[Correction]:
    """Return corrections of the student's earlier lessons with the same club that have balls and were not stopped,
    newest first.
    """
    related = "lesson__student", "lesson__coach", "lesson__knowledge_version", "begun_in"
    found = Correction.objects.select_related(*related).filter(
        lesson__student_id=lesson.student_id,
        lesson__club=lesson.club,
        lesson__started_at__lt=lesson.started_at,
        outcome__in=(Outcome.OPEN, Outcome.VERIFIED),
        pk__in=Correction.objects.filter(blocks__shots__isnull=False).values("pk"),
    )
    return found.order_by("-lesson__started_at", "-id")


def candidates_of(lesson: Lesson, school: dict[str, str]) -> list[Candidate]:
    """Return candidates by their benefit for this student."""
    baseline = baseline_of(lesson)
    ranking, student = ranking_of(lesson, baseline), student_of(lesson)
    ranked = rank_candidates(knowledge_for(lesson), ranking, baseline.own.counted, school, student)
    return [replace(c, gate=begun[0]) if (begun := _begun_before(lesson, c.id, c.probability)) else c for c in ranked]


@dataclass(frozen=True)
class Experiment:
    """What is stored when a correction starts, before its first ball.

    ``gate`` is None if nothing that the fault moves is known; ``begun_in`` is the earlier lesson whose correction it
    continues. ``row`` is the ranking's row of the fault.
    """

    row: CauseRow
    gate: GateProposal | None
    begun_in: Lesson | None = None


def experiment_of(lesson: Lesson, fault: str, variant: str) -> Experiment:
    """Return the prediction for a fault in this lesson: from an earlier lesson that it continues, otherwise from this
    baseline.

    Raises
    ------
    InputError
        For a fault or variant that the lesson's knowledge does not hold.
    """
    baseline = baseline_of(lesson)
    ranking = ranking_of(lesson, baseline)
    rows = {r.id: r for r in ranking.faults + ranking.partners}
    if fault not in rows:
        raise InputError("fault", fault, Message("common-one", known=", ".join(sorted(rows))))
    cause = knowledge_for(lesson).cause(fault, variant or rows[fault].variant)
    if variant and cause.variant != variant:
        raise InputError("variant", variant, Message("prove-variant", fault=fault))
    if begun := _begun_before(lesson, fault, rows[fault].probability):
        return Experiment(rows[fault], *begun)
    row = rows[fault]
    return Experiment(row, propose_gate(baseline.own.counted, cause, row.severity, row.probability))


def _begun_before(lesson: Lesson, fault: str, probability: float) -> tuple[GateProposal, Lesson] | None:
    """Return what a continued correction keeps (number, prediction, gates), and its first lesson."""
    earlier = earlier_corrections(lesson).filter(fault=fault).first()
    if earlier is None:
        return None
    begun = earlier.measured_from
    gate = GateProposal(
        primary=earlier.primary,
        direction=earlier.direction,
        predicted=earlier.predicted,
        likely=likely_answer(earlier.predicted, probability),
        absent=1 - probability,
        gate=_paired(earlier.gate),
        guards=_paired(earlier.guards),
        by_stage=_paired(earlier.gate_by_stage or {earlier.stage: earlier.gate[earlier.primary]}),
        baseline=middles(baseline_balls(begun).counted, (earlier.primary, *earlier.guards)),
    )
    return gate, begun


def _paired(windows: Mapping[str, Sequence[float]]) -> dict[str, tuple[float, float]]:
    return {name: (low, high) for name, (low, high) in windows.items()}

"""A student across lessons: the numbers, what was suspected, tried, proven and refuted, and what was retained."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from functools import partial

import numpy as np

from instavis.accounts.models import Student
from instavis.assessment.findings.selectors import earlier_baselines, ranking_of
from instavis.capture.shots.selectors import Baseline, baseline_of
from instavis.corrections.models import Correction
from instavis.corrections.proofs.selectors import proof_of
from instavis.knowledge.selectors import knowledge_for
from instavis.lessons.cached import State, cached, states_of
from instavis.lessons.models import Lesson
from instavis.practice.models import TakeHome
from instavis.practice.progress import cold_test_of, exit_values, numbers_of
from instavis.practice.selectors import practice_log_of
from instavis.reports.readable import readable
from instavis_core.knowledge import Knowledge
from instavis_core.message import NOTHING, Message
from instavis_core.progress import Dose, DoseLink, Retention, dose_against_retention, relapse_alarm
from instavis_core.reading.robust import summarise
from instavis_core.terms import Outcome

MAX_LESSONS = 24
LATELY = timedelta(days=14)
SUSPECTED_FROM, MAX_SUSPECTS = 0.40, 3


@dataclass(frozen=True, kw_only=True)
class Span:
    """A number in a lesson: median with its 95 % interval and spread (one SD), golfer frame; None for too few balls.

    ``kind`` is baseline or exit; ``inferred`` is true if most of the balls did not measure the number.
    """

    kind: str
    metric: str
    balls: int
    centre: float
    low: float | None
    high: float | None
    spread: float | None
    inferred: bool


@dataclass(frozen=True, kw_only=True)
class Suspect:
    """A fault that was at least possible in a lesson."""

    fault: str
    label: Message
    probability: float
    word: Message


@dataclass(frozen=True, kw_only=True)
class Tried:
    """A correction of a lesson and its outcome."""

    fault: str
    label: Message
    drill: Message
    primary: str
    gate: tuple[float, float] | None
    stage: str
    outcome: str
    status: str


@dataclass(frozen=True, kw_only=True)
class LessonOnRecord:
    """One lesson of the record.

    ``dose`` is the practice after it, ``cold`` what it still showed of the previous correction.
    """

    id: int
    day: date
    club: str
    coach: str
    balls: int
    spans: list[Span]
    suspects: list[Suspect]
    tried: list[Tried]
    dose: Dose | None
    cold: Retention | None


@dataclass(frozen=True, kw_only=True)
class History:
    """A student's record, oldest lesson first; ``metrics`` are the numbers of corrections, newest first."""

    lessons: list[LessonOnRecord]
    metrics: list[str]
    alarm: Message | None
    dose_link: DoseLink
    left_out: int


def history_of(student: Student, today: date) -> History:
    """Return the record of a student on a day; only the newest two dozen lessons are drawn, the others counted."""
    lessons = list(
        student.lessons.select_related("student", "coach__academy", "knowledge_version").order_by("-started_at", "-id")
    )
    shown = lessons[MAX_LESSONS - 1 :: -1] if len(lessons) > MAX_LESSONS else lessons[::-1]
    corrections = Correction.objects.filter(lesson__in=shown).order_by("-id")
    metrics = list(dict.fromkeys(c.primary for c in corrections))
    among = states_of(student)
    rows = [readable(x, partial(_on_record, x, metrics, today, among), partial(_bare, x)) for x in shown]
    judged = [r.cold for r in rows if r.cold and r.cold.word != "open"]
    # The dose of a lesson is compared with what the next lesson's cold test still showed.
    pairs = [
        (before.dose.share, after.cold.share)
        for before, after in zip(rows, rows[1:], strict=False)
        if before.dose and before.dose.share is not None and after.cold and after.cold.share is not None
    ]
    return History(
        lessons=rows,
        metrics=metrics,
        alarm=relapse_alarm([r.word for r in judged]),
        dose_link=dose_against_retention(pairs),
        left_out=len(lessons) - len(shown),
    )


def work_out(student: Student, today: date) -> None:
    """Compute and cache what is needed when a lesson of this student is opened."""
    history_of(student, today)
    if newest := student.lessons.select_related("student").order_by("-started_at", "-id").first():
        earlier_baselines(newest)


def who_comes(now: datetime) -> list[int]:
    """Return the keys of students seen lately; after an upgrade their records are computed again."""
    lately = Lesson.objects.filter(started_at__gte=now - LATELY)
    return list(Student.objects.filter(made_up=False, pk__in=lately.values("student")).values_list("pk", flat=True))


def _bare(lesson: Lesson) -> LessonOnRecord:
    """Return the time and the coach, for a lesson that cannot be read."""
    return LessonOnRecord(
        id=lesson.pk,
        day=lesson.day,
        club=lesson.club,
        coach=lesson.coach.name,
        balls=lesson.last_ball,
        spans=[],
        suspects=[],
        tried=[],
        dose=None,
        cold=None,
    )


def _on_record(lesson: Lesson, metrics: list[str], today: date, among: list[State]) -> LessonOnRecord:
    measured = cached("on record", lesson, lambda: _measured(lesson), among=among)
    planned = lesson.corrections.exists() and TakeHome.objects.filter(lesson=lesson).exists()
    # Practice entries are not events of the lesson, and neither are the targets of later corrections.
    return replace(
        measured,
        spans=[span for span in measured.spans if span.kind == "exit" or span.metric in metrics],
        dose=practice_log_of(lesson, today).dose if planned else None,
    )


def _measured(lesson: Lesson) -> LessonOnRecord:
    """Return everything about a lesson except its practice, with the spans of every number."""
    baseline = baseline_of(lesson)
    test = cold_test_of(lesson)
    spans = [s for m, result in numbers_of(baseline.own).items() if (s := _span("baseline", m, *result)) is not None]
    tried = []
    for correction in lesson.corrections.all():
        proof, _ = proof_of(lesson, correction)
        judged = proof.status if correction.blocks.filter(shots__isnull=False) else ""
        tried.append(_tried(knowledge_for(lesson), correction, judged))
        if correction.outcome in (Outcome.OPEN, Outcome.VERIFIED):
            ended = exit_values(proof)
            span = _span("exit", correction.primary, ended, np.zeros(ended.size, dtype=bool))
            spans += [span] if span else []
    return replace(
        _bare(lesson),
        spans=spans,
        suspects=_suspects(lesson, baseline),
        tried=tried,
        cold=test.retention if test else None,
    )


def _span(kind: str, metric: str, values: np.ndarray, inferred: np.ndarray) -> Span | None:
    result = summarise(values)
    if result.n < 3:
        return None
    return Span(
        kind=kind,
        metric=metric,
        balls=result.n,
        centre=result.centre,
        low=result.low,
        high=result.high,
        spread=result.spread,
        inferred=bool(inferred.mean() > 0.5),
    )


def _tried(knowledge: Knowledge, correction: Correction, status: str) -> Tried:
    drill = knowledge.drills.get(correction.drill)
    gate = correction.gate.get(correction.primary)
    return Tried(
        fault=correction.fault,
        label=knowledge.label_of(correction.fault),
        drill=drill.name if drill else NOTHING,
        primary=correction.primary,
        gate=tuple(gate) if gate else None,
        stage=correction.stage,
        outcome=correction.outcome,
        status=status,
    )


def _suspects(lesson: Lesson, baseline: Baseline) -> list[Suspect]:
    faults = [f for f in ranking_of(lesson, baseline).faults if f.probability >= SUSPECTED_FROM]
    return [Suspect(fault=f.id, label=f.label, probability=f.probability, word=f.word) for f in faults[:MAX_SUSPECTS]]

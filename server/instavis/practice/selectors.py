"""The take-home page, its plan and its practice log, assembled from the lesson."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, timedelta

from instavis.assessment.films.selectors import PairRead, pair_of
from instavis.assessment.findings.selectors import answers_of, intake_of, ranking_of, student_of
from instavis.capture.shots.selectors import baseline_of
from instavis.corrections.models import Correction
from instavis.corrections.proofs.hit import hit_in
from instavis.corrections.proofs.selectors import proven
from instavis.corrections.selectors import active_correction, cue_of
from instavis.knowledge.selectors import knowledge_for
from instavis.lessons.models import Lesson
from instavis.platform.keys import hash_token
from instavis.practice.links import is_ours
from instavis.practice.models import HomeLink, TakeHome
from instavis_core.choice import can_be_felt
from instavis_core.knowledge import Drill, vocabulary
from instavis_core.knowledge.model import Felt
from instavis_core.message import NOTHING, Message, joined
from instavis_core.progress import (
    Dose,
    PlannedDay,
    PracticeEntry,
    PracticeNeeds,
    dose_of,
    follow_plan,
    merged,
    practice_schedule,
)
from instavis_core.reading import read_block
from instavis_report import Section, TakeHomeFacts, feel_line, take_home_sections, why_of

MIN_CLEAN = 5


@dataclass(frozen=True, kw_only=True)
class TakeHomePage:
    """Everything on the page, the same on screen, on paper and behind the link.

    ``paper`` is the academy's paper size. ``paused_for`` is the region whose pain stopped the practice, or empty.
    """

    student: str
    hand: str
    coach: str
    academy: str
    paper: str
    day: date
    sections: list[Section]
    drill: str | None
    drill_name: Message
    cue: Message
    felt_by: Message
    cautions: list[Message]
    note: str
    minutes: int
    days_a_week: int
    next_lesson: date | None
    plan: list[PlannedDay]
    paused_for: str
    paused_at: datetime | None
    pair: PairRead | None


@dataclass(frozen=True, kw_only=True)
class PracticeLog:
    """The practice entries of a lesson's plan, duplicates merged, and their dose."""

    practices: list[PracticeEntry]
    dose: Dose
    paused_for: str
    paused_at: datetime | None


def take_home_of(lesson: Lesson, today: date) -> TakeHomePage:
    """Return the page of a lesson on a day."""
    correction = active_correction(lesson)
    drill = knowledge_for(lesson).drills.get(correction.drill) if correction else None
    words = words_of(lesson)
    return TakeHomePage(
        student=lesson.student.name,
        hand=lesson.hand,
        coach=lesson.coach.name,
        academy=lesson.coach.academy.name,
        paper=lesson.coach.academy.paper,
        day=lesson.day,
        sections=take_home_sections(_facts(lesson, correction, drill), words.sections),
        drill=drill.id if drill else None,
        drill_name=drill.name if drill else NOTHING,
        cue=cue_of(correction) if correction else NOTHING,
        felt_by=feel_line(feel) if (feel := _feel(correction)) else NOTHING,
        cautions=_cautions(lesson, drill),
        note=words.note,
        minutes=words.minutes,
        days_a_week=words.days_a_week,
        next_lesson=words.next_lesson,
        plan=plan_of(lesson, today),
        paused_for=words.paused_for,
        paused_at=words.paused_at,
        pair=pair_of(lesson),
    )


def words_of(lesson: Lesson) -> TakeHome:
    """Return the coach's text, or the default before anything was written."""
    return TakeHome.objects.filter(lesson=lesson).first() or TakeHome()


def _facts(lesson: Lesson, correction: Correction | None, drill: Drill | None) -> TakeHomeFacts:
    known = vocabulary()
    baseline = baseline_of(lesson)
    reading = read_block(baseline.own.block, baseline.own.aside)
    result = proven(correction, hit_in(lesson, correction)) if correction else None
    proof = result.proof if result else None
    intake = intake_of(lesson)
    return TakeHomeFacts(
        club=known.clubs[lesson.club].label,
        misses=answers_of(intake)["misses"] if intake else {},
        plain=tuple(w.plain for w in reading.pattern if w.plain) if reading.clean >= MIN_CLEAN else (),
        why=why_of(ranking_of(lesson, baseline), correction.fault if correction else None).sentence,
        drill=drill,
        cue=cue_of(correction) if correction else NOTHING,
        felt_by=_feel(correction),
        status=proof.status if proof else None,
        reason=proof.reason if proof else NOTHING,
        change=proof.change if proof and proof.rests_on == "number" else None,
        slope=proof.pivot.slope if proof and proof.pivot else None,
        metric=known.metrics[correction.primary] if correction else None,
        stage=correction.stage if correction else None,
        inferred=result is not None and result.inferred,
    )


def _feel(correction: Correction | None) -> Felt | None:
    return vocabulary().felt.get(correction.felt_by) if correction else None


def _cautions(lesson: Lesson, drill: Drill | None) -> list[Message]:
    """Return the cautions that always apply, and those of the drill, the student's age and sore regions."""
    known = vocabulary()
    reasons = {"always", *(drill.cautions if drill else ())}
    if lesson.student.is_junior(lesson.day):
        reasons.add("junior")
    texts = [c.text for c in known.cautions.values() if c.when in reasons]
    student = student_of(lesson)
    sore = [r for r in (drill.regions if drill else ()) if r in student.spared]
    if sore:
        names = joined(known.words["region"][r].lower() for r in sore)
        texts.insert(
            0,
            Message(
                ("practice-drill-loads-sore-region-use"),
                names=names,
            ),
        )
    return texts


def plan_of(lesson: Lesson, today: date) -> list[PlannedDay]:
    """Return the practice days from the day after the lesson; none without a drill.

    Raises
    ------
    InputError
        When the next lesson lies before this one.
    """
    correction = active_correction(lesson)
    drill = knowledge_for(lesson).drills.get(correction.drill) if correction else None
    if drill is None:
        return []
    words = words_of(lesson)
    day, student = lesson.day, student_of(lesson)
    needs = PracticeNeeds(
        minutes=words.minutes,
        days_a_week=words.days_a_week,
        age=lesson.student.age(day),
        limits=tuple(sorted(student.spared.items())),
        kit=student.kit,
        eyes_open=not can_be_felt(vocabulary().felt["eyes-closed"], student),
    )
    sessions = practice_schedule(day + timedelta(days=1), words.next_lesson, drill, needs)
    return follow_plan(sessions, words.moved_days, _practised_days(lesson), today)


def _practised_days(lesson: Lesson) -> set[date]:
    done = (p for p in lesson.practices.all() if p.felt or p.not_felt or p.balls)
    return {p.day for p in done}


def practice_log_of(lesson: Lesson, today: date) -> PracticeLog:
    """Return the practice since a lesson, on a given day."""
    entries = [p.to_entry() for p in lesson.practices.all()]
    passed = sum(d.day < today or d.state == "done" for d in plan_of(lesson, today))
    words = words_of(lesson)
    return PracticeLog(
        practices=merged(entries), dose=dose_of(entries, passed), paused_for=words.paused_for, paused_at=words.paused_at
    )


def live_link_of(lesson: Lesson, now: datetime) -> HomeLink | None:
    """Return the active link of the lesson's page."""
    return lesson.home_links.filter(revoked_at__isnull=True, expires_at__gt=now).order_by("-id").first()


def lesson_by_home_link(token: str, now: datetime) -> Lesson | None:
    """Return the lesson of a link; None if its signature is wrong or it has expired."""
    if not is_ours(token):
        return None
    link = (
        HomeLink.objects.filter(token_hash=hash_token(token), revoked_at__isnull=True, expires_at__gt=now)
        .select_related("lesson__student", "lesson__coach__academy", "lesson__knowledge_version")
        .first()
    )
    return link.lesson if link else None

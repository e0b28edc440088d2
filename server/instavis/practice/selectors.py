"""The take-home page, put together from the lesson."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

from instavis.corrections.selectors import active_correction
from instavis.findings.selectors import kit_of, limits_of, ranking_of
from instavis.knowledge.selectors import judged_by
from instavis.lessons.models import Lesson
from instavis.practice.models import TakeHome
from instavis.proofs.selectors import proof_of
from instavis.shots.selectors import baseline_balls
from instavis_core.knowledge import Drill, load_knowledge
from instavis_core.progress import PracticeNeeds, Session, practice_schedule
from instavis_core.proof import Change
from instavis_core.reading import read_block

LEAST_CLEAN = 5


@dataclass(frozen=True)
class TakeHomePage:
    """Everything the printed page says."""

    student: str
    coach: str
    academy: str
    day: date
    club: str
    balls: int
    found: list[str]
    cause: str | None
    cause_word: str | None
    cause_sentence: str | None
    drill: Drill | None
    cue: str
    primary: str | None
    change: Change | None
    status: str | None
    status_sentence: str | None
    cautions: list[str]
    note: str
    minutes: int
    days_a_week: int
    next_lesson: date | None


def take_home_of(lesson: Lesson) -> TakeHomePage:
    """The page of a lesson as it stands now."""
    with judged_by(lesson):
        return _page(lesson)


def _page(lesson: Lesson) -> TakeHomePage:
    knowledge = load_knowledge()
    balls = baseline_balls(lesson)
    reading = read_block(balls.block, balls.aside)
    correction = active_correction(lesson)
    proof = proof_of(lesson, correction)[0] if correction else None
    fault = None
    if correction:
        ranking = ranking_of(lesson, balls)
        fault = next((f for f in ranking.faults + ranking.partners if f.id == correction.fault), None)
    drill = knowledge.drills.get(correction.drill) if correction else None
    words = TakeHome.objects.filter(lesson=lesson).first() or TakeHome()
    return TakeHomePage(
        student=lesson.student.name,
        coach=lesson.coach.name,
        academy=lesson.coach.academy.name,
        day=lesson.started_at.date(),
        club=knowledge.clubs[lesson.club].label,
        balls=lesson.last_ball,
        found=[f"{p.word.capitalize()}: {p.text[0].lower()}{p.text[1:]}" for p in reading.pattern]
        if reading.clean >= LEAST_CLEAN
        else [],
        cause=fault.label if fault else None,
        cause_word=fault.word if fault else None,
        cause_sentence=fault.happens if fault else None,
        drill=drill,
        cue=(correction.cue or (drill.cue if drill else "")) if correction else "",
        primary=correction.primary if correction else None,
        change=proof.change if proof else None,
        status=knowledge.words["status"][proof.status] if proof else None,
        status_sentence=proof.reason if proof else None,
        cautions=_cautions(lesson, drill),
        note=words.note,
        minutes=words.minutes,
        days_a_week=words.days_a_week,
        next_lesson=words.next_lesson,
    )


def _cautions(lesson: Lesson, drill: Drill | None) -> list[str]:
    """The cautions that always stand, those of the drill, of the student's age and of sore regions."""
    knowledge = load_knowledge()
    reasons = {"always", *(drill.cautions if drill else ())}
    if lesson.student.is_junior(lesson.started_at.date()):
        reasons.add("junior")
    texts = [c.text for c in knowledge.cautions.values() if c.when in reasons]
    sore = [r for r in (drill.regions if drill else ()) if r in limits_of(lesson)]
    if sore:
        names = ", ".join(knowledge.words["region"][r].lower() for r in sore)
        texts.insert(
            0, f"This drill loads a region that was reported sore ({names}): half range, half speed, or not at all."
        )
    return texts


def schedule_of(lesson: Lesson) -> list[Session]:
    """The days to practise on from the day after the lesson; none without a drill to practise.

    Raises
    ------
    InputError
        When the next lesson lies before this one.
    """
    correction = active_correction(lesson)
    with judged_by(lesson):
        drill = load_knowledge().drills.get(correction.drill) if correction else None
        if drill is None:
            return []
        words = TakeHome.objects.filter(lesson=lesson).first() or TakeHome()
        day = lesson.started_at.date()
        needs = PracticeNeeds(
            words.minutes,
            words.days_a_week,
            lesson.student.age(day),
            tuple(sorted(limits_of(lesson).items())),
            kit_of(lesson),
        )
        return practice_schedule(day + timedelta(days=1), words.next_lesson, drill, needs)

"""Students with several lessons: learned, practiced at home, retained or lost."""

from __future__ import annotations

from datetime import datetime, time, timedelta
from uuid import UUID

import numpy as np
from django.utils import timezone

from instavis.accounts.models import Coach
from instavis.accounts.services import save_student
from instavis.assessment.findings.services import grade_checks, save_intake
from instavis.capture.shots.services import Origin, record_shots
from instavis.corrections.models import Correction
from instavis.corrections.proofs.selectors import proof_of
from instavis.corrections.selectors import candidates_of
from instavis.corrections.services import Wish, choose_correction, close_correction
from instavis.corrections.trials.services import begin_calls
from instavis.demo.scenario import CONDITIONS, TEMPERATURE_C, LongStory, Visit
from instavis.lessons.events import locked_lesson
from instavis.lessons.models import Lesson
from instavis.lessons.services import change_lesson, end_lesson, set_conditions, start_lesson
from instavis.practice.selectors import plan_of
from instavis.practice.services import log_practice, save_take_home
from instavis_core.flight import Air
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.progress import PracticeEntry
from instavis_core.shots import read_shots
from instavis_core.simulate import SimulatedGolfer, Traits, draw_golfer, simulate_shots
from instavis_core.terms import MarkBasis, Outcome, ProofStatus

CLUB = "7i"
COLD_BALLS = 12
EVENING = time(18, 30)


def tell_long(story: LongStory, coach: Coach, now: datetime) -> None:
    """Play every lesson of a longer story, with the practice between."""
    values = {"name": story.name, "hand": story.hand, "handicap": story.handicap, "born": story.born}
    student = save_student(coach, None, {**values, "guardian_consent": ""}, coach.academy.day_of(now))
    rng = np.random.default_rng(story.seed)
    traits = Traits(retention_days=story.remembers, learning=0.12)
    sim = draw_golfer(
        rng, story.faults, Golfer(student.hand, student.handicap), vocabulary().clubs[CLUB], traits=traits
    )
    sim.skill_of_move = 0.0
    for place, visit in enumerate(story.visits):
        later = story.visits[place + 1 :]
        lesson = _lesson(
            story, visit, start_lesson(coach, student, CLUB, now - timedelta(days=visit.days_ago)), sim, rng
        )
        if not visit.proof:
            continue
        until = coach.academy.day_of(now - timedelta(days=later[0].days_ago) if later else now)
        save_take_home(lesson, {"minutes": 10, "days_a_week": 4, "next_lesson": until})
        end_lesson(lesson, lesson.started_at + timedelta(minutes=55), True)
        repetitions = practise(lesson, visit.practised, rng, now)
        sim.rest((until - lesson.day).days, repetitions)


def _lesson(story: LongStory, visit: Visit, lesson: Lesson, sim: SimulatedGolfer, rng: np.random.Generator) -> Lesson:
    """Play one lesson: cold balls, checks, and the correction as far as it went."""
    start = lesson.started_at
    lesson = set_conditions(lesson, CONDITIONS, start)
    save_intake(lesson, story.intake, start)
    cold = [_cold(sim, rng) for _ in range(COLD_BALLS)]
    _hit(lesson, sim, rng, start + timedelta(minutes=3), cold, marking=False)
    if not visit.proof:
        return change_lesson(lesson, "baseline", None)
    grade_checks(lesson, lesson.coach, story.checks, start + timedelta(minutes=15))
    correction = begin_correction(lesson, story.chosen, visit.stage, start + timedelta(minutes=20))
    sim.skill_of_move = max(sim.skill_of_move, 0.45)  # shown again, the move comes back
    _hit(lesson, sim, rng, start + timedelta(minutes=21), [sim.tries(rng) for _ in range(visit.proof)], marking=True)
    if proof_of(lesson, correction)[0].status == ProofStatus.SUPPORTED:
        call_old_and_new(lesson, sim, rng, start + timedelta(minutes=35))
    if proof_of(lesson, correction)[0].status == ProofStatus.VERIFIED:
        close_correction(correction, Outcome.VERIFIED, start + timedelta(minutes=45))
    return change_lesson(lesson, "take-home", None)


def _cold(sim: SimulatedGolfer, rng: np.random.Generator) -> str:
    """Return whether the movement happens unprompted; nothing is learned from it."""
    lucky = rng.random()
    return "done" if lucky < sim.skill_of_move else "partly" if lucky < sim.skill_of_move + 0.1 else "missed"


def _hit(
    lesson: Lesson, sim: SimulatedGolfer, rng: np.random.Generator, when: datetime, marks: list[str], marking: bool
) -> None:
    """Hit balls into the open block; marks are kept only if the coach was marking."""
    club, air = vocabulary().clubs[CLUB], Air(temperature_c=TEMPERATURE_C)
    speed = speed_at(lesson)
    records = simulate_shots(sim, club, len(marks), rng, when, marks, air=air, speed_share=speed)
    basis = {"mark_basis": MarkBasis.BLIND}
    records = [r | basis if marking else {k: v for k, v in r.items() if k != "movement"} for r in records]
    record_shots(locked_lesson(lesson.pk), read_shots(records), when, Origin())


def speed_at(lesson: Lesson) -> float:
    """Return the share of full speed for a golfer who respects the open block's stage."""
    block = Lesson.objects.select_related("open_block").get(pk=lesson.pk).open_block
    stage = vocabulary().stages.get(block.stage if block else "")
    return min(0.96, stage.speed[1]) if stage else 1.0


def call_old_and_new(lesson: Lesson, sim: SimulatedGolfer, rng: np.random.Generator, when: datetime) -> None:
    """Call old and new moves: the number has changed, and these balls show why."""
    order = begin_calls(lesson, when, rng).order
    _hit(lesson, sim, rng, when, ["done" if new else "missed" for new in order], marking=False)


def begin_correction(lesson: Lesson, chosen: str | None, stage: str, when: datetime) -> Correction:
    """Choose the candidate for a fault, or the first one, and open its block."""
    candidates = [c for c in candidates_of(lesson, {}) if c.gate and c.drills]
    candidate = next((c for c in candidates if c.id == chosen), candidates[0])
    choice = candidate.drills[0]
    wish = Wish(
        fault=candidate.id,
        variant=candidate.variant or "",
        drill=choice.drill.id,
        felt_by=choice.felt_by[0].id,
        stage=stage,
    )
    return choose_correction(lesson, wish, when)


def practise(lesson: Lesson, share: float, rng: np.random.Generator, now: datetime) -> int:
    """Log a share of the planned days as a phone would; return the repetitions done."""
    done = 0
    today = lesson.academy.day_of(now)
    for planned in plan_of(lesson, today):
        if planned.day >= today or rng.random() >= share:
            continue
        start = timezone.make_aware(datetime.combine(planned.day, EVENING))
        end = start + timedelta(minutes=planned.minutes)
        felt = int(rng.binomial(planned.repetitions, 0.7))
        entry = PracticeEntry(
            entry_id=str(UUID(bytes=rng.bytes(16), version=4)),
            day=planned.day,
            started_at=start,
            ended_at=end,
            felt=felt,
            not_felt=planned.repetitions - felt,
        )
        log_practice(lesson, entry, end)
        done += planned.repetitions
    return done

"""Build the sample academy with the same services as the screens."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta

import numpy as np

from instavis.accounts.models import Academy, Coach
from instavis.accounts.services import change_filming, save_student
from instavis.assessment.films.services import choose_pair
from instavis.assessment.findings.services import grade_checks, keep_body, save_intake
from instavis.assessment.recordings.services import keep_swing
from instavis.assessment.stills.services import change_still, keep_still
from instavis.capture.devices.models import Bay
from instavis.capture.shots.models import Shot
from instavis.capture.shots.services import Origin, record_shots
from instavis.corrections.proofs.selectors import proof_of
from instavis.corrections.services import close_correction
from instavis.demo.films import film
from instavis.demo.history import begin_correction, call_old_and_new, practise, speed_at, tell_long
from instavis.demo.scenario import (
    ACADEMY,
    BAYS,
    BELT,
    COACHES,
    CONDITIONS,
    LONG_STORIES,
    MAT,
    PASSWORD,
    STORIES,
    TEMPERATURE_C,
    Story,
)
from instavis.demo.stills import draw_still
from instavis.lessons.events import locked_lesson
from instavis.lessons.models import Lesson
from instavis.lessons.services import change_lesson, end_lesson, set_conditions, start_lesson
from instavis.platform.transactions import transactional
from instavis.practice.services import save_take_home
from instavis_core.flight import Air
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.stills import load_stills
from instavis_core.recordings import swing_of_columns
from instavis_core.shots import read_shots
from instavis_core.simulate import SimulatedGolfer, draw_golfer, simulate_shots
from instavis_core.simulate.recording import MOTION_SERIES, PRESSURE_SERIES, record_swing
from instavis_core.simulate.still import simulate_still
from instavis_core.terms import MarkBasis, Outcome, ProofStatus

CLUB = "7i"
PROOF_STAGE = "three-quarter"
TOE = 4  # index of the toe strike in a simulated golfer's offsets


@transactional
def build_demo(now: datetime) -> bool:
    """Create the sample academy; return False if it exists."""
    if Academy.objects.filter(name=ACADEMY).exists():
        return False
    academy = Academy.objects.create(name=ACADEMY)
    coaches = [
        Coach.objects.create_user(
            username=person.username, password=PASSWORD, name=person.name, role=person.role, academy=academy
        )
        for person in COACHES
    ]
    for name in BAYS:
        Bay.objects.create(academy=academy, name=name)
    for story in STORIES:
        _tell(story, coaches[0], now)
    for long_story in LONG_STORIES:
        tell_long(long_story, coaches[0], now)
    return True


def _tell(story: Story, coach: Coach, now: datetime) -> Lesson:
    """Play one student's lesson up to the end of the story."""
    start = now - timedelta(days=story.days_ago, minutes=10 if story.baseline else 0)
    student = save_student(
        coach,
        None,
        {
            "name": story.name,
            "hand": story.hand,
            "handicap": story.handicap,
            "born": story.born,
            "guardian_consent": story.guardian,
        },
        coach.academy.day_of(now),
    )
    if story.filmed:
        student = change_filming(student, True, start)
    lesson = set_conditions(start_lesson(coach, student, CLUB, start), CONDITIONS, start)
    rng = np.random.default_rng(story.seed)
    sim = draw_golfer(rng, story.faults, Golfer(student.hand, student.handicap), vocabulary().clubs[CLUB])
    sim.offset[TOE] += story.toe_mm
    if story.intake:
        save_intake(lesson, story.intake, start)
    if story.baseline:
        _hit(lesson, sim, story.baseline, rng, start + timedelta(minutes=5))
    if story.belt:
        _record(lesson, sim, rng, [None] * story.baseline)
    if story.filmed:
        film(lesson, "before", start + timedelta(minutes=11), _balls(lesson)[-1])
    for check in story.stills:
        _photograph(lesson, story, check, start + timedelta(minutes=12))
    if story.body:
        keep_body(lesson, coach, story.body, start + timedelta(minutes=13))
    if story.checks:
        grade_checks(lesson, coach, story.checks, start + timedelta(minutes=15))
    if story.correct:
        _correct(story, lesson, sim, rng, start + timedelta(minutes=20))
    change_lesson(lesson, story.station, None)
    if story.take_home:
        save_take_home(lesson, {**story.take_home, "next_lesson": (now + timedelta(days=8)).date()})
        practise(lesson, story.practised, rng, now)
    if story.ended:
        end_lesson(lesson, start + timedelta(minutes=55), True)
    return lesson


def _hit(
    lesson: Lesson,
    sim: SimulatedGolfer,
    count: int,
    rng: np.random.Generator,
    when: datetime,
    marks: list[str] | None = None,
    coach_marks: list[str] | None = None,
) -> None:
    """Hit balls into the open block.

    ``coach_marks`` are the coach's marks if they differ from the golfer's movement, empty if an instrument marks.
    """
    club, air = vocabulary().clubs[CLUB], Air(temperature_c=TEMPERATURE_C)
    speed = speed_at(lesson)
    records = simulate_shots(sim, club, count, rng, when, marks, air=air, speed_share=speed)
    marks_given = coach_marks if coach_marks is not None else marks or []
    for record in records:
        record.pop("movement", None)
    for record, mark in zip(records, marks_given, strict=False):
        record |= {"movement": mark, "mark_basis": MarkBasis.BLIND}
    record_shots(locked_lesson(lesson.pk), read_shots(records), when, Origin())


def _record(lesson: Lesson, sim: SimulatedGolfer, rng: np.random.Generator, marks: Sequence[str | None]) -> None:
    """Record belt and mat for the last balls, given how each movement went."""
    for shot, mark in zip(_balls(lesson)[-len(marks) :], marks, strict=True):
        recorded = record_swing(sim.severity_now(mark), rng, (*MOTION_SERIES, *PRESSURE_SERIES))
        swing = swing_of_columns({"time_s": recorded.time, **recorded.columns})
        keep_swing(lesson, swing, f"{BELT} and {MAT}", shot.received_at, shot)


def _balls(lesson: Lesson) -> list[Shot]:
    return list(lesson.shots.select_related("block").order_by("number"))


def _film_the_proof(lesson: Lesson, marks: Sequence[str], when: datetime) -> None:
    """Film one ball with the movement and one without, and put the first next to the baseline on the take-home page."""
    balls = dict(zip(marks[::-1], _balls(lesson)[::-1], strict=False))
    films = [film(lesson, mark, when, balls[mark]) for mark in ("missed", "done")]
    before = lesson.recordings.filter(film__isnull=False).earliest("pk")
    choose_pair(lesson, before, films[-1], "halfway-down", when)


def _photograph(lesson: Lesson, story: Story, check: str, when: datetime) -> None:
    """Store the address picture of a check's view with landmarks and scale, and the picture at its moment without
    landmarks.
    """
    measure = load_stills().measures[check]
    address = simulate_still({}, "address", measure.view, story.hand, story.seed)
    stored_still = keep_still(lesson, "", measure.view, draw_still(address), when)
    scale = {"a": address.rod[0], "b": address.rod[1], "length_cm": address.rod_cm}
    change_still(stored_still, {p: address.points[p] for p in measure.points}, scale, None, when)
    swing = simulate_still(story.faults, measure.moment, measure.view, story.hand, story.seed)
    keep_still(lesson, check, "", draw_still(swing), when)


def _correct(story: Story, lesson: Lesson, sim: SimulatedGolfer, rng: np.random.Generator, when: datetime) -> None:
    correction = begin_correction(lesson, story.chosen, PROOF_STAGE, when)
    if story.learns:
        sim.skill_of_move = 0.5
        marks = [sim.tries(rng) for _ in range(story.proof)]
        _hit(lesson, sim, story.proof, rng, when, marks, [] if story.belt else None)
        if story.belt:
            _record(lesson, sim, rng, marks)
        elif proof_of(lesson, correction)[0].status == ProofStatus.SUPPORTED:
            call_old_and_new(lesson, sim, rng, when + timedelta(minutes=15))
        if story.filmed:
            _film_the_proof(lesson, marks, when)
    else:
        # The movement is made, but the ball does not follow: the fault was another one.
        result = list(rng.choice(["done", "partly", "missed"], story.proof, p=[0.55, 0.15, 0.3]))
        _hit(lesson, sim, story.proof, rng, when, None, result)
    if story.retry:
        proof, _ = proof_of(lesson, correction)
        outcome = Outcome.NOT_SUPPORTED if proof.status == ProofStatus.NOT_SUPPORTED else Outcome.STOPPED
        close_correction(correction, outcome, when)

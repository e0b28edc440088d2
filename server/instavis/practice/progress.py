"""What remains since the last lesson, whether it carries over to other clubs, and the plan for today."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

import numpy as np

from instavis.assessment.findings.selectors import ranking_of
from instavis.capture.shots.selectors import Balls, baseline_balls, baseline_of
from instavis.corrections.models import Correction
from instavis.corrections.proofs.selectors import proof_of
from instavis.corrections.selectors import earlier_corrections
from instavis.knowledge.selectors import knowledge_for
from instavis.lessons.models import Lesson
from instavis.practice.models import TakeHome
from instavis.practice.selectors import practice_log_of
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message
from instavis_core.progress import (
    Dose,
    LastWork,
    NextStep,
    Retention,
    Transfer,
    plan_today,
    retained_share,
    transferred_share,
)
from instavis_core.proof import Proof
from instavis_core.reading import clean_balls
from instavis_core.reading.completion import complete
from instavis_core.shots import OLD

COLD_BALLS, EXIT_BALLS, MIN_LATER = 10, 10, 5


@dataclass(frozen=True, kw_only=True)
class ColdTest:
    """The first balls of this lesson against an earlier correction.

    ``since`` is the day of its baseline, in the lesson that started the correction; ``inferred`` counts the first balls
    on which the number was not measured.
    """

    lesson_id: int
    day: date
    since: date
    days_ago: int
    fault: str
    primary: str
    stage: str
    cold_balls: int
    inferred: int
    retention: Retention


@dataclass(frozen=True)
class ClubTransfer:
    """Whether the last correction's change shows with another club."""

    club: str
    label: Message
    transfer: Transfer


@dataclass(frozen=True, kw_only=True)
class Today:
    """How a later lesson opens: cold test, practice, other clubs, and what to do today, best first."""

    test: ColdTest | None
    dose: Dose | None
    transfers: list[ClubTransfer]
    proposals: list[NextStep]


def today_of(lesson: Lesson) -> Today:
    """Return the opening of a lesson; empty if no earlier lesson has a correction with balls."""
    correction = last_correction(lesson)
    if correction is None:
        return Today(test=None, dose=None, transfers=[], proposals=[])
    test, dose = _cold_test(lesson, correction), _dose(correction.lesson, lesson.day)
    ranking = ranking_of(lesson)
    knowledge = knowledge_for(lesson)
    last = LastWork(
        fault=correction.fault,
        label=knowledge.label_of(correction.fault),
        drill=correction.drill,
        stage=correction.stage,
        outcome=correction.outcome,
    )
    proposals = plan_today(knowledge, last, test.retention, dose, {f.id: f.probability for f in ranking.faults})
    return Today(test=test, dose=dose, transfers=_transfers(lesson, correction), proposals=proposals)


def cold_test_of(lesson: Lesson) -> ColdTest | None:
    """Return the last correction before this lesson, with the same club, that has balls; or None."""
    correction = last_correction(lesson)
    return _cold_test(lesson, correction) if correction else None


def last_correction(lesson: Lesson) -> Correction | None:
    """Return the newest correction of an earlier lesson with the same club that has balls and was not stopped."""
    return earlier_corrections(lesson).first()


def _cold_test(lesson: Lesson, correction: Correction) -> ColdTest:
    before, begun = correction.lesson, correction.measured_from
    proof, _ = proof_of(before, correction)
    cold, inferred = values_of(baseline_balls(lesson), correction.primary)
    cold = cold[:COLD_BALLS]
    return ColdTest(
        lesson_id=before.pk,
        day=before.day,
        since=begun.day,
        days_ago=(lesson.day - before.day).days,
        fault=correction.fault,
        primary=correction.primary,
        stage=correction.stage,
        cold_balls=len(cold),
        inferred=int(inferred[:COLD_BALLS].sum()),
        retention=retained_share(values_of(baseline_balls(begun), correction.primary)[0], exit_values(proof), cold),
    )


def exit_values(proof: Proof) -> np.ndarray:
    """Return the number on the last counted balls of a proof, shape (up to ten,), without those called old.

    If there are enough, only balls after the one that verified it: the balls that made the claim would overstate it.
    """
    counted = [
        (place, v.value)
        for place, v in enumerate(proof.verdicts)
        if v.value is not None and v.moved is not None and v.called != OLD
    ]
    later = [value for place, value in counted if place >= (proof.verified_at or 0)]
    values = later if len(later) >= MIN_LATER else [value for _, value in counted]
    return np.array(values[-EXIT_BALLS:])


def values_of(balls: Balls, metric: str) -> tuple[np.ndarray, np.ndarray]:
    """Return clean values of a metric in hitting order, and which are inferred."""
    return numbers_of(balls)[metric]


def numbers_of(balls: Balls) -> dict[str, tuple[np.ndarray, np.ndarray]]:
    """Return the same for every metric."""
    clean = clean_balls(balls.block, balls.aside)
    numbers = {}
    for metric, values in complete(balls.block, check_readings=False).columns.items():
        there = clean & ~np.isnan(values)
        numbers[metric] = values[there], np.isnan(balls.block.column(metric)[there])
    return numbers


def _dose(before: Lesson, today: date) -> Dose | None:
    """Return the practice after a lesson; None without a plan."""
    if not TakeHome.objects.filter(lesson=before).exists():
        return None
    return practice_log_of(before, today).dose


def _transfers(lesson: Lesson, correction: Correction) -> list[ClubTransfer]:
    """Return other clubs hit in a baseline both when the correction began and now."""
    before = correction.measured_from
    then, now = baseline_of(before), baseline_of(lesson)
    others = then.others.keys() & now.others.keys()
    if not others:
        return []
    proof, _ = proof_of(correction.lesson, correction)
    own = values_of(then.own, correction.primary)[0], exit_values(proof)
    clubs = vocabulary().clubs
    transfers = []
    for club in sorted(others, key=list(clubs).index):
        other = (values_of(each.others[club], correction.primary)[0] for each in (then, now))
        transfers.append(ClubTransfer(club, clubs[club].label, transferred_share(*own, *other)))
    return transfers

"""The proof of a lesson's correction, made afresh from its balls."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from django.db.models import Count, Q

from instavis.assessment.findings.models import Intake
from instavis.capture.shots.models import Shot
from instavis.capture.shots.selectors import Balls, balls_of, baseline_balls, shots_of
from instavis.corrections.models import Correction
from instavis.knowledge.selectors import knowledge_for
from instavis.lessons.models import Lesson
from instavis_core.lesson import changed_conditions
from instavis_core.message import Message
from instavis_core.proof import Proof, ball_limit, baseline_band, limit_alarms, prove, read_correction
from instavis_core.proof.alarms import Alarm
from instavis_core.proof.limits import FULL_STAGES
from instavis_core.shots import Block, PivotValue
from instavis_core.terms import Purpose


def proof_balls(lesson: Lesson, correction: Correction) -> Balls:
    """Balls hit under a correction."""
    return balls_of(shots_of(lesson).filter(block__correction=correction), lesson)


def proof_ball_count(lesson: Lesson, correction: Correction) -> int:
    """How many balls were hit under a correction, without looking at them."""
    return lesson.shots.filter(block__correction=correction, club__in=("", lesson.club)).count()


@dataclass(frozen=True, kw_only=True)
class Proven:
    """A correction proved: ``ball_ids`` are the balls that the verdicts speak of, in order.

    ``band`` is where the baseline ran that it is measured from: middle less and plus a spread by metric, golfer frame.
    """

    proof: Proof
    ball_ids: list[int]
    band: dict[str, tuple[float, float]]


def proof_of(lesson: Lesson, correction: Correction) -> tuple[Proof, list[int]]:
    """The proof and the keys of the balls its verdicts speak of, in order."""
    told = proven(lesson, correction)
    return told.proof, told.ball_ids


def proven(lesson: Lesson, correction: Correction) -> Proven:
    """Everything the balls so far say of a correction."""
    baseline, balls = baseline_balls(correction.measured_from), proof_balls(lesson, correction)
    seen = {reading.shot_id: reading.told() for reading in correction.pivot_readings.all()}
    club = lesson.club_row()
    checked = read_correction(knowledge_for(lesson), correction.to_document(), lesson.golfer, club)
    rule = lesson.coach.stage_rule
    proof = prove(
        _measured(baseline, seen),
        _measured(balls, seen),
        checked,
        correction.stage,
        baseline.aside,
        balls.aside,
        rule,
        _changed_conditions(lesson, correction),
    )
    alarms, notes = [*proof.alarms, *_limits(lesson)], [*_begun(correction), *proof.notes]
    return Proven(
        proof=replace(proof, alarms=alarms, notes=notes),
        ball_ids=balls.ids,
        band=baseline_band(baseline.block, checked, baseline.aside),
    )


def _measured(balls: Balls, seen: Mapping[int, PivotValue]) -> Block:
    """The balls with what instruments saw of the movement."""
    pivot = tuple(seen.get(key) for key in balls.ids)
    return replace(balls.block, pivot=pivot) if any(pivot) else balls.block


def _changed_conditions(lesson: Lesson, correction: Correction) -> list[str]:
    """What is not as it was at the baseline: the day, the bay with its monitor, and what the coach told of both."""
    changed = [] if correction.begun_in is None or correction.begun_in.day == lesson.day else ["day"]
    baseline = Q(lesson=correction.measured_from, block__purpose=Purpose.BASELINE)
    hit = Shot.objects.filter(baseline | Q(lesson=lesson, block__correction=correction)).order_by()
    rows = list(hit.values_list("block__purpose", "bay_id", "block__conditions").distinct())
    before, now = ([row for row in rows if (row[0] == Purpose.BASELINE) is first] for first in (True, False))
    bays_before, bays_now = ({bay for _, bay, _ in some if bay} for some in (before, now))
    told = ([conditions for _, _, conditions in some] for some in (before, now))
    moved = bool(bays_before and bays_now and not bays_before & bays_now)
    return [*changed, *(["bay"] if moved else []), *changed_conditions(*told)]


def _begun(correction: Correction) -> list[Message]:
    if correction.begun_in is None:
        return []
    day = correction.begun_in.day
    return [Message("Measured against the baseline of {day:%-d %B}, where this correction was begun.", day=day)]


def _limits(lesson: Lesson) -> list[Alarm]:
    """Whether the student has hit enough for one day."""
    intake = Intake.objects.filter(lesson=lesson).first()
    limit = ball_limit(lesson.student.age(lesson.day), intake.limits if intake else {})
    baseline = Q(block__purpose=Purpose.BASELINE) | Q(block__purpose=Purpose.TRIAL)
    full = Count("pk", filter=baseline | Q(stage__in=FULL_STAGES))
    counted = lesson.shots.aggregate(hit=Count("pk"), full=full)
    return limit_alarms(limit, counted["hit"], counted["full"])

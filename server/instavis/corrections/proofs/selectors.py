"""The proof of a lesson's correction, recomputed from its balls."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from instavis.capture.shots.models import Shot
from instavis.capture.shots.selectors import Balls
from instavis.corrections.models import Correction
from instavis.corrections.proofs.hit import Hit, hit_in
from instavis.knowledge.selectors import knowledge_for
from instavis.lessons.models import Lesson
from instavis_core.lesson import aim_is_held, changed_conditions
from instavis_core.message import Message
from instavis_core.proof import Proof, ball_limit, baseline_of, limit_alarms, prove, read_correction
from instavis_core.proof.alarms import Alarm
from instavis_core.shots import Block, PivotValue


def proof_ball_count(lesson: Lesson, correction: Correction) -> int:
    """Count the balls of a correction without loading them."""
    return lesson.shots.filter(block__correction=correction, club__in=("", lesson.club)).count()


@dataclass(frozen=True, kw_only=True)
class Proven:
    """A judged correction: ``ball_ids`` are the balls of the verdicts, in order.

    ``band`` is the range of the baseline it is compared with: median minus and plus one spread by metric, golfer frame.
    ``inferred`` is true if some of these balls, or of the baseline, did not measure the correction's number.
    """

    proof: Proof
    ball_ids: list[int]
    band: dict[str, tuple[float, float]]
    inferred: bool


def proof_of(lesson: Lesson, correction: Correction) -> tuple[Proof, list[int]]:
    """Return the proof and the keys of its balls, in order."""
    result = proven(correction, hit_in(lesson, correction))
    return result.proof, result.ball_ids


def proven(correction: Correction, hit: Hit) -> Proven:
    """Return everything the balls so far show about a correction."""
    lesson, origin = hit.lesson, correction.measured_from
    began = hit if origin == lesson else hit_in(origin, correction)
    under = hit.under(correction)
    baseline, balls = began.with_its_club(began.baseline), hit.with_its_club(under)
    readings = {reading.shot_id: reading.as_value() for reading in correction.pivot_readings.all()}
    before, club = _measured(baseline, readings), lesson.club_row()
    checked = read_correction(knowledge_for(lesson), correction.to_document(), lesson.golfer, club)
    rule = lesson.coach.stage_rule
    proof = prove(
        before,
        _measured(balls, readings),
        checked,
        correction.stage,
        baseline.aside,
        balls.aside,
        rule,
        _changed_conditions(lesson, correction, began.baseline, under),
        _aim_held(under, balls.ids),
    )
    alarms, notes = [*proof.alarms, *_limits(hit)], [*_begun(correction), *proof.notes]
    return Proven(
        proof=replace(proof, alarms=alarms, notes=notes),
        ball_ids=balls.ids,
        band=dict(baseline_of(before, checked, baseline.aside).band),
        inferred=any(bool(np.isnan(some.block.column(correction.primary)).any()) for some in (baseline, balls)),
    )


def _measured(balls: Balls, readings: Mapping[int, PivotValue]) -> Block:
    """Return the balls with instrument values of the movement."""
    pivot = tuple(readings.get(key) for key in balls.ids)
    return replace(balls.block, pivot=pivot) if any(pivot) else balls.block


def _changed_conditions(lesson: Lesson, correction: Correction, before: list[Shot], now: list[Shot]) -> list[str]:
    """Return conditions that differ from the baseline: day, bay with its monitor, and those the coach set."""
    changed = [] if correction.begun_in is None or correction.begun_in.day == lesson.day else ["day"]
    bays_before, bays_now = ({shot.bay_id for shot in some if shot.bay_id} for some in (before, now))
    moved = bool(bays_before and bays_now and not bays_before & bays_now)
    result = changed_conditions(_conditions(before), _conditions(now))
    return [*changed, *(["bay"] if moved else []), *result]


def _aim_held(shots: list[Shot], ids: list[int]) -> list[bool]:
    """Return which balls were hit along an alignment stick."""
    held = {shot.pk for shot in shots if shot.block and aim_is_held(shot.block.conditions)}
    return [key in held for key in ids]


def _conditions(shots: list[Shot]) -> list[dict[str, str]]:
    """Return the conditions of the balls' blocks."""
    return [block.conditions for block in {shot.block for shot in shots} if block]


def _begun(correction: Correction) -> list[Message]:
    if correction.begun_in is None:
        return []
    day = correction.begun_in.day
    return [Message("prove-measured-against-baseline-when-correction", day=day)]


def _limits(hit: Hit) -> list[Alarm]:
    """Return warnings about the student's daily ball limit."""
    intake = getattr(hit.lesson, "intake", None)
    limit = ball_limit(hit.lesson.student.age(hit.lesson.day), intake.limits if intake else {})
    return limit_alarms(limit, hit.total, hit.full)

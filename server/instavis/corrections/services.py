"""Changes to corrections."""

from __future__ import annotations

from datetime import datetime

from django.db import transaction

from instavis.corrections.models import Correction, OwnEffect
from instavis.corrections.selectors import earlier_corrections
from instavis.findings.selectors import ranking_of
from instavis.lessons.events import locked_lesson, log
from instavis.lessons.models import Lesson
from instavis.proofs.selectors import proof_of
from instavis.shots.selectors import baseline_balls
from instavis_core.choice import gates_of_stages
from instavis_core.choice.candidates import cause_of
from instavis_core.errors import InputError
from instavis_core.knowledge import load_knowledge
from instavis_core.proof import log_odds_of, own_effect, read_correction, scale_of
from instavis_core.shots import STAGES


@transaction.atomic
def choose_correction(lesson: Lesson, values: dict, now: datetime) -> Correction:
    """Write down a correction before its first ball; an open one before it is stopped.

    One that goes on with a correction of an earlier lesson is measured against the baseline it was begun with.

    Raises
    ------
    InputError
        For anything the core cannot test: unknown fault, metric, direction, a gate the wrong way round.
    """
    locked = locked_lesson(lesson.pk)
    _check(values, locked)
    locked.corrections.filter(outcome=Correction.Outcome.OPEN).update(outcome=Correction.Outcome.STOPPED)
    ranking = ranking_of(locked)
    row = next((f for f in ranking.faults + ranking.partners if f.id == values["fault"]), None)
    then = {"probability_then": row.probability, "severity_then": row.severity} if row else {}
    correction = Correction(lesson=locked, chosen_at=now, **then, **values)
    earlier = earlier_corrections(locked).filter(fault=correction.fault, primary=correction.primary).first()
    correction.begun_in = earlier.measured_from if earlier else None
    _carry_gate(locked, correction)
    correction.save()
    log(locked, "lesson", [{"changed": "correction"}])
    return correction


@transaction.atomic
def change_correction(correction: Correction, values: dict, now: datetime) -> Correction:
    """Change stage, gate, guards or outcome.

    With the stage the gate becomes that stage's own. When gate or guards change after balls were judged by them, the
    claim starts again: the correction so far is kept as stopped, and a new one with the new gate is given back.

    Raises
    ------
    InputError
        For an unknown stage or outcome, or a gate the core cannot test.
    """
    locked = locked_lesson(correction.lesson_id)
    correction = Correction.objects.select_for_update().get(pk=correction.pk)
    for name in {"gate", "guards"} & values.keys():
        values[name] = {metric: list(pair) for metric, pair in values[name].items()}
    moved = {name for name in ("gate", "guards") if name in values and values[name] != getattr(correction, name)}
    if moved and locked.shots.filter(block__correction=correction).exists():
        Correction.objects.filter(pk=correction.pk).update(outcome=Correction.Outcome.STOPPED)
        correction.pk, correction.chosen_at = None, now
    for name, value in values.items():
        setattr(correction, name, value)
    if "gate" not in moved and correction.stage in correction.gate_by_stage:
        correction.gate = {**correction.gate, correction.primary: correction.gate_by_stage[correction.stage]}
    _check({**correction.to_document(), "drill": correction.drill, "stage": correction.stage}, locked)
    if correction.outcome not in Correction.Outcome.values:
        raise InputError("outcome", correction.outcome, "one of " + ", ".join(Correction.Outcome.values))
    if "gate" in moved:
        _carry_gate(locked, correction)
    if "outcome" in values:
        _learn(locked, correction, now)
    correction.save()
    log(locked, "lesson", [{"changed": "correction"}])
    return correction


LEARNS = (Correction.Outcome.VERIFIED, Correction.Outcome.NOT_SUPPORTED)


def _learn(lesson: Lesson, correction: Correction, now: datetime) -> None:
    """Keep what the balls said of the fault; after a proven correction also the student's own effect."""
    correction.log_odds = None
    OwnEffect.objects.filter(correction=correction).delete()
    if correction.outcome not in LEARNS:
        return
    proof, _ = proof_of(lesson, correction)
    golfer, club = lesson.golfer, load_knowledge().clubs[lesson.club]
    checked = read_correction(correction.to_document(), golfer, club)
    correction.log_odds = log_odds_of(proof, checked)
    if correction.outcome != Correction.Outcome.VERIFIED or correction.severity_then is None:
        return
    scale = scale_of(correction.primary, club, golfer.skill.effect_scale)
    cause = cause_of(correction.fault, correction.variant or None)
    own = own_effect(proof, checked, cause, correction.severity_then, scale)
    if own is not None:
        OwnEffect.objects.create(
            student=lesson.student,
            correction=correction,
            cause=own.cause,
            metric=own.metric,
            mean=own.mean,
            sd=own.sd,
            learned_at=now,
        )


def _carry_gate(lesson: Lesson, correction: Correction) -> None:
    """The gate set for one stage says what it is at the others."""
    window = tuple(correction.gate[correction.primary])
    baseline = baseline_balls(correction.measured_from).block
    correction.gate_by_stage = gates_of_stages(
        correction.primary, window, correction.stage, baseline, correction.predicted
    )


def _check(values: dict, lesson: Lesson) -> None:
    read_correction(values, lesson.golfer, load_knowledge().clubs[lesson.club])
    if values.get("drill") and values["drill"] not in load_knowledge().drills:
        raise InputError("drill", values["drill"], "one of " + ", ".join(load_knowledge().drills))
    if values.get("stage") not in STAGES:
        raise InputError("stage", values.get("stage"), "one of " + ", ".join(STAGES))

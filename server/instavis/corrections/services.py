"""Changes to corrections."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from instavis.capture.shots.selectors import baseline_balls
from instavis.corrections.measured.services import measure
from instavis.corrections.models import Correction, OwnEffect
from instavis.corrections.proofs.selectors import proof_of
from instavis.corrections.selectors import experiment_of
from instavis.knowledge.selectors import knowledge_for
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import Lesson
from instavis.lessons.services import open_block
from instavis.platform.errors import Refused
from instavis.platform.transactions import transactional
from instavis_core.choice import gates_of_stages
from instavis_core.errors import InputError
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message
from instavis_core.proof import Proof, log_odds_of, own_effect, read_correction, scale_of
from instavis_core.terms import JUDGED, Outcome, Purpose, StageName, one_of

Window = Sequence[float]


@dataclass(frozen=True, kw_only=True)
class Wish:
    """A coach's choice; everything else is computed from the lesson.

    ``gate`` and ``guards`` only where they were moved.
    """

    fault: str
    variant: str = ""
    drill: str = ""
    felt_by: str = ""
    stage: str = "half"
    gate: Mapping[str, Window] | None = None
    guards: Mapping[str, Window] | None = None


@transactional
def choose_correction(lesson: Lesson, wish: Wish, now: datetime) -> Correction:
    """Store a correction before its first ball, and let the next balls prove it; an open one is stopped.

    Number, direction, prediction, gate and guards come from the lesson, or from the earlier lesson that this one
    continues; it is then compared with that lesson's baseline.

    Raises
    ------
    InputError
        For an unknown fault, variant, drill or stage, or a gate the wrong way round.
    Refused
        When the balls do not know anything the fault moves.
    """
    locked = locked_lesson(lesson.pk)
    experiment = experiment_of(locked, wish.fault, wish.variant)
    gate = experiment.gate
    if gate is None:
        raise Refused(
            409,
            "fault",
            Message("prove-no-number-fault-moves-measured"),
        )
    correction = Correction(
        lesson=locked,
        begun_in=experiment.begun_in,
        fault=wish.fault,
        variant=wish.variant or experiment.row.variant or "",
        drill=wish.drill,
        felt_by=wish.felt_by,
        primary=gate.primary,
        direction=gate.direction,
        predicted=gate.predicted,
        gate=_listed(wish.gate or gate.gate_at(wish.stage)),
        guards=_listed(gate.guards if wish.guards is None else wish.guards),
        stage=wish.stage,
        probability_then=experiment.row.probability,
        severity_then=experiment.row.severity,
        chosen_at=now,
    )
    _check(correction, locked)
    _set_cue(correction, locked)
    _carry_gate(correction)
    locked.corrections.filter(outcome=Outcome.OPEN).update(outcome=Outcome.STOPPED)
    correction.save()
    measure(locked, correction)
    log_change(locked, Aspect.CORRECTION)
    open_block(locked, Purpose.PROVE, correction.stage, correction.pk, now)
    return correction


@transactional
def change_correction(
    correction: Correction,
    now: datetime,
    *,
    stage: str | None = None,
    gate: Mapping[str, Window] | None = None,
    guards: Mapping[str, Window] | None = None,
    felt_by: str | None = None,
) -> Correction:
    """Change stage, gate, limits or feel; they apply to the next balls.

    With the stage, the gate becomes that stage's own. If gate or guards change after balls were judged by them, the
    claim starts again: the previous correction is kept, and a new one with the new gate and no outcome is returned.

    Raises
    ------
    InputError
        For an unknown stage, or a gate the core cannot test.
    """
    locked = locked_lesson(correction.lesson_id)
    correction = Correction.objects.select_for_update().get(pk=correction.pk)
    before = correction.pk
    new_gate, new_guards = (None if w is None else _listed(w) for w in (gate, guards))
    moved_gate = new_gate is not None and new_gate != correction.gate
    moved_guards = new_guards is not None and new_guards != correction.guards
    if (moved_gate or moved_guards) and locked.shots.filter(block__correction=correction).exists():
        _start_again(correction, now)
    correction.stage = stage or correction.stage
    correction.felt_by = correction.felt_by if felt_by is None else felt_by
    if moved_guards:
        correction.guards = new_guards
    if moved_gate:
        correction.gate = new_gate
    elif correction.stage in correction.gate_by_stage:
        correction.gate = {**correction.gate, correction.primary: correction.gate_by_stage[correction.stage]}
    _check(correction, locked)
    if moved_gate:
        _carry_gate(correction)
    correction.save()
    if correction.pk != before:
        measure(locked, correction)
    log_change(locked, Aspect.CORRECTION)
    current = locked.open_block
    if current is not None and current.purpose == Purpose.PROVE and current.correction_id == before:
        open_block(locked, Purpose.PROVE, correction.stage, correction.pk, now)
    return correction


def _start_again(correction: Correction, now: datetime) -> None:
    """Make the row a new claim; the previous one is kept, stopped unless it was closed."""
    so_far = Correction.objects.filter(pk=correction.pk, outcome=Outcome.OPEN)
    so_far.update(outcome=Outcome.STOPPED)
    correction.pk, correction.chosen_at = None, now
    correction.outcome, correction.log_odds = Outcome.OPEN, None


@transactional
def close_correction(correction: Correction, outcome: str, now: datetime) -> Correction:
    """Close a correction with its proof's outcome, stop it, or reopen it; learning follows.

    Raises
    ------
    InputError
        For an unknown outcome.
    Refused
        For an outcome that the proof does not bear out.
    """
    if outcome not in tuple(Outcome):
        raise InputError("outcome", outcome, one_of(Outcome))
    locked = locked_lesson(correction.lesson_id)
    correction = Correction.objects.select_for_update().get(pk=correction.pk)
    correction.log_odds = None
    OwnEffect.objects.filter(correction=correction).delete()
    if outcome in JUDGED:
        proof, _ = proof_of(locked, correction)
        if proof.status != outcome:
            text = vocabulary().words["status"][proof.status].lower()
            raise Refused(409, "outcome", Message("prove-balls-do-not-support-proof", text=text))
        _learn(locked, correction, outcome, proof, now)
    correction.outcome = outcome
    correction.save()
    log_change(locked, Aspect.CORRECTION)
    return correction


def _learn(lesson: Lesson, correction: Correction, outcome: str, proof: Proof, now: datetime) -> None:
    """Store what the balls showed about the fault; after a verified correction also the student's own effect."""
    knowledge, golfer, club = knowledge_for(lesson), lesson.golfer, lesson.club_row()
    checked = read_correction(knowledge, correction.to_document(), golfer, club)
    correction.log_odds = log_odds_of(proof, checked)
    if outcome != Outcome.VERIFIED or correction.severity_then is None:
        return
    scale = scale_of(correction.primary, club, golfer.skill.effect_scale)
    cause = knowledge.cause(correction.fault, correction.variant or None)
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


def _carry_gate(correction: Correction) -> None:
    """Adapt the gate of one stage to the others."""
    window = tuple(correction.gate[correction.primary])
    baseline = baseline_balls(correction.measured_from).counted
    correction.gate_by_stage = gates_of_stages(
        correction.primary, window, correction.stage, baseline, correction.predicted
    )


def _check(correction: Correction, lesson: Lesson) -> None:
    knowledge = knowledge_for(lesson)
    read_correction(knowledge, correction.to_document(), lesson.golfer, lesson.club_row())
    if correction.drill and correction.drill not in knowledge.drills:
        raise InputError("drill", correction.drill, Message("common-one", known=", ".join(knowledge.drills)))
    if correction.felt_by and correction.felt_by not in vocabulary().felt:
        raise InputError("felt_by", correction.felt_by, Message("common-one", known=", ".join(vocabulary().felt)))
    if correction.stage not in tuple(StageName):
        raise InputError("stage", correction.stage, one_of(StageName))


def _set_cue(correction: Correction, lesson: Lesson) -> None:
    """Set the drill's cue."""
    drill = knowledge_for(lesson).drills.get(correction.drill)
    correction.cue = drill.cue if drill else ""


def _listed(windows: Mapping[str, Window]) -> dict[str, list[float]]:
    """Return windows as they come from the database."""
    return {metric: list(window) for metric, window in windows.items()}

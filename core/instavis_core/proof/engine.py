"""Everything the Prove station says, from the balls so far."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.knowledge import vocabulary
from instavis_core.message import NONE_SAID, Message
from instavis_core.proof.alarms import Alarm, overcorrecting, watch
from instavis_core.proof.baseline import Baseline, baseline_of
from instavis_core.proof.change import Change, RunningChange
from instavis_core.proof.correction import Correction
from instavis_core.proof.expected import Expected, expected_ugly
from instavis_core.proof.stages import Advice, advise
from instavis_core.proof.verdicts import Verdict, judge
from instavis_core.reading.robust import share_interval
from instavis_core.shots import Block
from instavis_core.terms import ProofStatus, VerdictKind

BAR = 20.0  # evidence at which a change is called real: at most one false call in twenty lessons
LEAST_LINKED = 3
RULED_OUT_FROM = 8  # moved balls before a correction can be called not supported
RULED_OUT_SHARE = 0.7  # of the predicted change
RULED_OUT_CONFIDENCE = 0.90
RATE_CONFIDENCE = 0.95
SUPPORTED_AT = 3.0
EXPLAINED_AWAY = ("aim-shift", "ball-position", "without-move")


@dataclass(frozen=True)
class Rate:
    """Share of balls in the gate with its 95 % interval; None before the first."""

    rate: float | None
    low: float | None
    high: float | None
    hits: int
    balls: int


@dataclass(frozen=True, kw_only=True)
class Proof:
    """The answer to every ball so far; ``verified_at`` is a 1-based count of balls or None.

    ``expected`` are signs of the first phase a correction like this goes through: no alarm, but a missing match-up.
    """

    verdicts: list[Verdict]
    change: Change
    in_gate: Rate
    status: ProofStatus
    reason: Message
    evidence: float
    verified_at: int | None
    alarms: list[Alarm]
    advice: Advice
    stage: str | None
    notes: list[Message]
    expected: list[Expected]


def prove(
    baseline: Block,
    shots: Block,
    correction: Correction,
    stage: str | None = None,
    baseline_aside: frozenset[int] = frozenset(),
    shots_aside: frozenset[int] = frozenset(),
    stage_rule: str = "count",
) -> Proof:
    """Judge a correction.

    Parameters
    ----------
    baseline, shots : Block
        Golfer frame, one club; ``shots`` in the order they were hit, with movement marks.
    correction : Correction
    stage : str, optional
        The current stage; the last ball's when left out. Balls of other stages get verdicts but do not
        count toward the change, and neither do balls hit with the old move on purpose.
    baseline_aside, shots_aside : frozenset of int
        0-based balls the coach set apart.
    stage_rule : {"count", "chance"}
        How the stage gate is called.
    """
    base = baseline_of(baseline, correction, baseline_aside)
    running = base.running
    verdicts = judge(shots, correction, base.usual_smash, shots_aside)
    stage = stage or next((s for s in reversed(shots.stage) if s), None)
    rows = [i for i in range(len(shots)) if shots.stage[i] in (None, stage) and shots.intent[i] != "old"]
    told = [verdicts[i] for i in rows]
    counted = [i for i in rows if verdicts[i].value is not None and verdicts[i].moved is not None]
    change = running.compare(np.array([verdicts[i].value for i in counted]))
    stage_block = shots.keep(np.isin(np.arange(len(shots)), rows))
    alarms = watch(base.clean, stage_block, stage, correction, told)
    evidence, verified_at = _follow(running, verdicts, counted)
    status, reason = _status(running, [verdicts[i] for i in counted], correction, evidence, verified_at, alarms)
    return Proof(
        verdicts=verdicts,
        change=change,
        in_gate=_rate(told),
        status=status,
        reason=reason,
        evidence=evidence,
        verified_at=verified_at,
        alarms=alarms,
        advice=advise(told, stage, any(a.id in EXPLAINED_AWAY for a in alarms), stage_rule),
        stage=stage,
        notes=_notes(running, _inferred(base, shots.column(correction.primary)[counted], correction.primary)),
        expected=expected_ugly(stage_block, told, correction.fault),
    )


def linked_enough(verdicts: list[Verdict]) -> bool:
    """The movement goes with the answer: linked balls, and at least twice as many as answered without it."""
    linked = sum(v.verdict == VerdictKind.LINKED for v in verdicts)
    free = sum(v.verdict == VerdictKind.CHANGED_WITHOUT_MOVE for v in verdicts)
    return linked >= LEAST_LINKED and linked >= 2 * free


def _follow(running: RunningChange, verdicts: list[Verdict], counted: list[int]) -> tuple[float, int | None]:
    """Evidence now, and the 1-based ball at which change and link were first both there."""
    evidences = running.e_values(np.array([verdicts[i].value for i in counted], float))
    for k, evidence in enumerate(evidences, start=1):
        if evidence >= BAR and linked_enough([verdicts[j] for j in counted[:k]]):
            return evidences[-1], counted[k - 1] + 1
    return (evidences[-1] if evidences else 1.0), None


def _status(
    running: RunningChange,
    told: list[Verdict],
    correction: Correction,
    evidence: float,
    verified_at: int | None,
    alarms: list[Alarm],
) -> tuple[ProofStatus, Message]:
    explained = [a for a in alarms if a.id in EXPLAINED_AWAY]
    if overcorrecting(told) and not explained:
        return ProofStatus.OVERCORRECTED, Message("Half of the last balls passed the gate on the far side.")
    real = evidence >= BAR or verified_at is not None
    if real and explained:
        return ProofStatus.COMPENSATED, explained[0].text
    if real and not linked_enough(told):
        return ProofStatus.COMPENSATED, Message("The number changed, but not with the movement.")
    if real and evidence >= SUPPORTED_AT:
        return ProofStatus.VERIFIED, Message("The change is real and goes with the movement.")
    if _ruled_out(running, told, correction):
        return ProofStatus.NOT_SUPPORTED, Message("The movement was made and the predicted change is ruled out.")
    if evidence >= SUPPORTED_AT and linked_enough(told):
        return ProofStatus.SUPPORTED, Message("It leans the right way; more balls will tell.")
    if explained:
        return ProofStatus.COMPENSATED, explained[0].text
    return ProofStatus.NOT_YET, Message("Not enough balls that moved and answered.")


def _ruled_out(running: RunningChange, told: list[Verdict], correction: Correction) -> bool:
    moved = np.array([v.value for v in told if v.moved])
    if moved.size < RULED_OUT_FROM:
        return False
    change = running.compare(moved, RULED_OUT_CONFIDENCE)
    if change.low is None or change.high is None:
        return False
    most = -change.low if correction.sign < 0 else change.high
    return most < RULED_OUT_SHARE * abs(correction.predicted)


def _rate(told: list[Verdict]) -> Rate:
    judged = [v.answered for v in told if v.answered is not None]
    return Rate(*share_interval(sum(judged), len(judged), RATE_CONFIDENCE), sum(judged), len(judged))


def _inferred(base: Baseline, counted: np.ndarray, metric: str) -> Message:
    """What must be said of a change in a metric that some of the balls do not carry themselves."""
    new = int(np.isnan(counted).sum())
    if not base.inferred and not new:
        return NONE_SAID
    label = vocabulary().metrics[metric].label
    return Message(
        "{label} is inferred from the flight, not measured, on {inferred} of {known} baseline balls"
        " and {new} of {counted} new ones.",
        label=label,
        inferred=base.inferred,
        known=base.known,
        new=new,
        counted=len(counted),
    )


def _notes(running: RunningChange, inferred: Message) -> list[Message]:
    said = [inferred] if inferred else []
    n = running.baseline.size
    if n < 3:
        return [
            *said,
            Message("The baseline knows this number on {n} balls: a change cannot be verified against it.", n=n),
        ]
    if n < 8:
        return [*said, Message("The baseline has {n} balls: the interval stays wide until there are more.", n=n)]
    return said

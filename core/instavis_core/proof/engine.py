"""Everything the Prove station shows, computed from the balls so far."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from instavis_core.knowledge import vocabulary
from instavis_core.message import NOTHING, Message
from instavis_core.proof.alarms import BETWEEN_BLOCKS, Alarm, Watched, overcorrecting, watch
from instavis_core.proof.baseline import Baseline, baseline_of
from instavis_core.proof.change import Change
from instavis_core.proof.claim import (
    CONFIDENCE,
    MIN_BASELINE,
    MIN_STAGE,
    WITHIN_BAR,
    Asked,
    Claim,
    Effects,
    Link,
    MarkCounts,
    PatternChange,
    ask,
    claim_of,
    count_marks,
    link_ruled_out,
    mostly_blind,
    ruled_out,
)
from instavis_core.proof.correction import Correction
from instavis_core.proof.expected import Expected, expected_ugly
from instavis_core.proof.lane import Lane, PivotProof, lane_of
from instavis_core.proof.rivals import RIVAL_METRICS, Rival, rivals_of
from instavis_core.proof.stages import Advice, advise
from instavis_core.proof.verdicts import STAGE_SPEED, Verdict, judge
from instavis_core.reading.completion import CompletedBlock, complete
from instavis_core.reading.robust import share_interval
from instavis_core.shots import OLD, Block
from instavis_core.terms import ProofStatus

STILL_REAL_AT, STILL_INSIDE_AT, STILL_REMAINS_AT = (
    3.0,
    1.0,
    0.5,
)  # evidence below which an earlier *verified* is withdrawn
LEANING_AT = 3.0
CONTRAST_AFTER, CONTRAST = 6, 3  # balls with the movement after which some without it are asked for, and how many


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
    """The answer after every ball so far.

    ``verified_at`` is a ball count from 1, or None. ``change`` is the effect of a full dose of the movement.
    ``evidence`` is an e-value that the number goes with the movement, over baseline and stage together; before any
    mark, that it changed at all. ``call_balls`` asks for called balls, old and new, because the number changed, or
    nearly every ball has the movement, and the link is untested. ``expected`` are signs of a first phase that such
    a correction goes through: no alarm, but a missing match-up. ``rests_on`` names the interval that a claim is
    shown with: ``pattern`` if it is verified and only the whole pattern's interval excludes zero, otherwise
    ``number``. ``beside`` names what is tested beside the movement (``aim``, ``speed``); ``held_back_by`` are those
    that could still explain a change.
    """

    verdicts: list[Verdict]
    change: Change
    link: Link
    pattern: PatternChange | None
    marks: MarkCounts
    in_gate: Rate
    status: ProofStatus
    reason: Message
    evidence: float
    verified_at: int | None
    rests_on: str
    call_balls: bool
    alarms: list[Alarm]
    advice: Advice
    stage: str | None
    notes: list[Message]
    expected: list[Expected]
    pivot: PivotProof | None
    beside: list[str]
    held_back_by: list[str]


def prove(
    baseline: Block,
    shots: Block,
    correction: Correction,
    stage: str | None = None,
    baseline_aside: frozenset[int] = frozenset(),
    shots_aside: frozenset[int] = frozenset(),
    stage_rule: str = "count",
    changed_conditions: Sequence[str] = (),
    aim_held: Sequence[bool] = (),
) -> Proof:
    """Judge a correction.

    Parameters
    ----------
    baseline, shots : Block
        Golfer frame, one club; ``shots`` in the order they were hit, with movement marks.
    correction : Correction
    stage : str, optional
        The current stage; the last ball's when left out. Balls of other stages get verdicts but do not count toward the
        change. Balls called old count as balls without the movement, and for nothing else.
    baseline_aside, shots_aside : frozenset of int
        0-based balls the coach excluded.
    stage_rule : {"count", "chance"}
        How the stage gate is called.
    changed_conditions : sequence of str
        What is not as it was at the baseline: tee, turf, mat, ball, bay, day.
    aim_held : sequence of bool
        Balls of ``shots`` hit along an alignment stick; none when left out.
    """
    base = baseline_of(baseline, correction, baseline_aside)
    lane = lane_of(base, shots, correction)
    shots, completed = lane.shots, complete(shots)
    stage = stage or next((s for s in reversed(shots.stage) if s), None)
    verdicts = judge(shots, completed, correction, base.usual_smash, shots_aside, base.full_speed(stage))
    rows = [i for i in range(len(shots)) if shots.stage[i] in (None, stage)]
    metrics = {correction.primary, *RIVAL_METRICS, *(base.pattern.weights if base.pattern else ())}
    balls = _Balls.of(shots, completed, verdicts, rows, metrics)
    marks, measured = _ask(base, balls, correction, balls.doses), _measured(base, balls, correction, lane, rows)
    number, pattern = marks.number, marks.pattern
    held = np.asarray(aim_held or [False] * len(shots), bool)[rows]
    by_body = lane.doses(rows, balls.doses)
    doses = np.where(np.isnan(balls.doses), by_body, balls.doses)
    rivals = rivals_of(base.running, balls.columns, doses, correction, held)
    claim = claim_of(marks, measured, balls.doses, balls.marks, base.running.baseline.size, rivals)
    new = [i for i, is_new in zip(rows, balls.new, strict=True) if is_new]
    result, stage_block = [verdicts[i] for i in new], shots.keep(np.isin(np.arange(len(shots)), new))
    watched = watch(base, stage_block, stage, correction, result, changed_conditions)
    verified_at = _verified_at(claim, watched, balls.new)
    standing = _Standing(
        marks=marks,
        claim=claim,
        watched=watched,
        rivals=rivals,
        judged=result,
        verified=verified_at is not None,
        moved=int(np.count_nonzero(np.nan_to_num(balls.doses) > 0)),
        unmoved=int(np.count_nonzero(balls.doses == 0)),
        enough=min(len(rows) - MIN_STAGE, base.running.baseline.size - MIN_BASELINE) >= 0,
    )
    status, reason = _status(standing, correction)
    change, read = base.running.change(number.link), shots.column(correction.primary)[rows]
    return Proof(
        verdicts=verdicts,
        change=change,
        link=_link(number, claim, change, correction, status == ProofStatus.VERIFIED),
        pattern=_pattern_change(base, pattern, correction.sign),
        marks=balls.marks,
        in_gate=_rate(result),
        status=status,
        reason=reason,
        evidence=_last(claim.linked if standing.moved else claim.changed, 1.0),
        verified_at=None if verified_at is None else rows[verified_at] + 1,
        rests_on="number" if status != ProofStatus.VERIFIED or _last(number.clear, False) else "pattern",
        call_balls=status == ProofStatus.SUPPORTED or (status == ProofStatus.NOT_YET and standing.lacks_contrast),
        alarms=watched.alarms,
        advice=advise(result, stage, any(a.id not in BETWEEN_BLOCKS for a in watched.explaining), stage_rule),
        stage=stage,
        notes=_notes(base, balls.marks, _inferred(base, read[balls.counted(correction.primary)], correction.primary)),
        expected=expected_ugly(stage_block, result, correction.fault),
        pivot=lane.proof(base, balls.reliable(correction.primary), rows, marks, measured, correction),
        beside=[rival.id for rival in rivals],
        held_back_by=[rival.id for rival in standing.holding] if status == ProofStatus.SUPPORTED else [],
    )


@dataclass(frozen=True, kw_only=True)
class _Balls:
    """The stage's balls for the claim, arrays (n,): values (NaN if unreliable), doses (NaN if not in the link), which
    are new, and which are neither excluded nor mishits.
    """

    columns: dict[str, np.ndarray]
    doses: np.ndarray
    new: np.ndarray
    judged: np.ndarray
    marks: MarkCounts

    @classmethod
    def of(
        cls, shots: Block, completed: CompletedBlock, verdicts: list[Verdict], rows: list[int], metrics: set[str]
    ) -> _Balls:
        trusted = np.array([completed.doubtful[i] is None for i in rows], bool)
        columns = {m: np.where(trusted, completed.columns[m][rows], np.nan) for m in metrics}
        doses = shots.doses()[rows] if rows else np.zeros(0)
        # Excluded or a mishit: such a ball says nothing about the movement, but it was hit and it changed.
        judged = np.array([verdicts[i].excluded_by is None for i in rows], bool)
        marks = count_marks(shots, rows, doses)
        used = np.where(judged, doses, np.nan)
        new = np.array([shots.intent[i] != OLD and verdicts[i].excluded_by != STAGE_SPEED for i in rows], bool)
        return cls(columns=columns, doses=used, new=new, judged=judged, marks=marks)

    def reliable(self, metric: str) -> np.ndarray:
        """Return a number (n,), NaN if it is unreliable or the ball is excluded or a mishit."""
        return np.where(self.judged, self.columns[metric], np.nan)

    def counted(self, metric: str) -> np.ndarray:
        """Return which balls the link counts (n,): those with known dose and number."""
        counts: np.ndarray = ~np.isnan(self.doses) & ~np.isnan(self.columns[metric])
        return counts


@dataclass(frozen=True, kw_only=True)
class _Standing:
    """What the status depends on."""

    marks: Effects
    claim: Claim
    watched: Watched
    rivals: list[Rival]
    judged: list[Verdict]
    verified: bool
    moved: int
    unmoved: int
    enough: bool

    @property
    def lacks_contrast(self) -> bool:
        """Return True if hardly any ball of the stage lacks the movement, so nothing shows what the movement does."""
        return self.moved >= CONTRAST_AFTER and self.unmoved < CONTRAST

    @property
    def holding(self) -> list[Rival]:
        """Return the other explanations that still hold a claim back."""
        if _last(self.claim.inside, 1.0) < WITHIN_BAR:
            return []
        return [rival for rival in self.rivals if _last(rival.stands, False)]


def _ask(base: Baseline, balls: _Balls, correction: Correction, doses: np.ndarray) -> Effects:
    number = ask(base.running, balls.columns[correction.primary], balls.new, doses, correction.sign)
    if base.pattern is None or base.running_pattern is None:
        return Effects(number=number, pattern=None)
    pattern = ask(base.running_pattern, base.pattern.values(balls.columns), balls.new, doses, 1)
    return Effects(number=number, pattern=pattern)


def _measured(base: Baseline, balls: _Balls, correction: Correction, lane: Lane, rows: list[int]) -> Effects | None:
    """Return the same with instrument values instead of marks; None without any."""
    doses = lane.doses(rows, balls.doses)
    return None if np.isnan(doses).all() else _ask(base, balls, correction, doses)


def _verified_at(claim: Claim, watched: Watched, new: np.ndarray) -> int | None:
    """Return the first ball (from 0) after which all conditions of *verified* held."""
    place = np.cumsum(new) - 1  # the alarms see only the new balls
    last = np.clip(place, 0, None)
    by_ball = watched.by_ball[last] & (place >= 0) if watched.by_ball.size else np.zeros(new.size, bool)
    of_stage = watched.of_stage[last] & (place >= 0) if watched.of_stage.size else np.zeros(new.size, bool)
    there = np.where(of_stage, claim.carried_alone, claim.carried) & ~by_ball
    return int(np.argmax(there)) if there.any() else None


def _status(now: _Standing, correction: Correction) -> tuple[ProofStatus, Message]:
    if not now.enough:
        return ProofStatus.NOT_YET, Message("prove-verdict-needs-six-balls-here")
    explaining = [a for a in now.watched.explaining if a.id not in BETWEEN_BLOCKS]
    untested = [a for a in now.watched.explaining if a.id in BETWEEN_BLOCKS]
    tested = not untested or _last(now.claim.carried_alone, False)
    if overcorrecting(now.judged) and not explaining:
        return ProofStatus.OVERCORRECTED, Message("prove-half-last-balls-passed-gate")
    real = _last(now.claim.real, False)
    by_number, clear = _last(now.marks.number.clear, False), _last(now.marks.clear, False)
    stands = _last(now.claim.linked, 1.0) >= STILL_REAL_AT and _last(now.claim.inside, 1.0) >= STILL_INSIDE_AT and clear
    stands = stands and all(_last(rival.remains, 1.0) >= STILL_REMAINS_AT for rival in now.rivals)
    if now.verified and tested and stands and not explaining:
        if by_number:
            return ProofStatus.VERIFIED, Message("prove-change-real-goes-move")
        return ProofStatus.VERIFIED, Message("prove-faults-numbers-together-changed-move")
    if real and explaining:
        return ProofStatus.COMPENSATED, explaining[0].text
    if real and link_ruled_out(now.marks.number, correction.sign):
        return ProofStatus.COMPENSATED, Message("prove-number-changed-but-not-move")
    if real:
        return ProofStatus.SUPPORTED, _untested(untested, now)
    if ruled_out(now.marks.number, correction.predicted, now.moved):
        return ProofStatus.NOT_SUPPORTED, Message("prove-move-made-predicted-change-ruled")
    if explaining:
        return ProofStatus.COMPENSATED, explaining[0].text
    if now.lacks_contrast:
        return ProofStatus.NOT_YET, Message("prove-hit-some-old-way")
    if _last(now.claim.linked, 1.0) >= LEANING_AT:
        return ProofStatus.NOT_YET, Message("prove-numbers-move-right-way-hit")
    return ProofStatus.NOT_YET, Message("prove-not-enough-balls-move-also")


def _untested(alarms: list[Alarm], now: _Standing) -> Message:
    """Return why it is unknown whether the movement did it, and what would show it."""
    if now.holding:
        return now.holding[0].reason
    result = Message("prove-changed-whether-move-did-not")
    return Message("prove-with-reason", text=result, reason=alarms[0].text) if alarms else result


def _link(number: Asked, claim: Claim, change: Change, correction: Correction, verified: bool) -> Link:
    inside = _last(claim.inside, 1.0)
    return Link(
        estimate=change.estimate,
        low=change.low,
        high=change.high,
        evidence=inside,
        tested=verified or inside >= WITHIN_BAR or link_ruled_out(number, correction.sign),
        unit=vocabulary().metrics[correction.primary].unit,
    )


def _pattern_change(base: Baseline, asked: Asked | None, sign: int) -> PatternChange | None:
    if asked is None or base.pattern is None or base.running_pattern is None:
        return None
    change = base.running_pattern.change(asked.link, CONFIDENCE)
    return PatternChange(
        estimate=change.estimate,
        low=change.low,
        high=change.high,
        evidence=_last(asked.linked, 1.0),
        metrics=list(base.pattern.weights),
    )


def _last(values: np.ndarray, otherwise: float | bool) -> float:
    return float(values[-1]) if values.size else float(otherwise)


def _rate(verdicts: list[Verdict]) -> Rate:
    judged = [v.answered for v in verdicts if v.answered is not None]
    return Rate(*share_interval(sum(judged), len(judged), CONFIDENCE), sum(judged), len(judged))


def _inferred(base: Baseline, counted: np.ndarray, metric: str) -> Message:
    """Return the note about a metric that is inferred on some balls."""
    new = int(np.isnan(counted).sum())
    if not base.inferred and not new:
        return NOTHING
    label = vocabulary().metrics[metric].label
    return Message(
        "prove-inferred-flight-not-measured-baseline",
        label=label,
        inferred=base.inferred,
        known=base.known,
        new=new,
        counted=len(counted),
    )


def _notes(base: Baseline, marks: MarkCounts, inferred: Message) -> list[Message]:
    text = [inferred] if inferred else []
    n = base.running.baseline.size
    if n < MIN_BASELINE:
        text.append(Message("prove-only-baseline-balls-number-so", n=n))
    elif n < 8:
        text.append(Message("prove-baseline-only-balls-so-range", n=n))
    if marks.seen and not mostly_blind(marks):
        made = marks.blind + marks.seen + marks.measured
        text.append(
            Message(
                ("prove-marks-made-after-numbers-visible"),
                seen=marks.seen,
                made=made,
            )
        )
    return text

"""Two questions about each ball: did the body do it, did club and ball follow?"""

from __future__ import annotations

import functools
from collections.abc import Iterator
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from instavis_core.knowledge import vocabulary
from instavis_core.message import Message
from instavis_core.proof.correction import Correction
from instavis_core.reading.completion import CompletedBlock
from instavis_core.reading.mishits import BY_COACH, SMASH_DROP, Mishit, find_mishits
from instavis_core.reading.words import say
from instavis_core.shots import CALLED_DOSES, NEW, Block
from instavis_core.terms import Movement, VerdictKind

MOVED = (Movement.DONE, Movement.PARTLY)
STAGE_SPEED = "stage-speed"  # the rule's name for a ball hit faster than its stage allows
SPEED_MARGIN = 0.05  # of the baseline's club speed beyond a stage's band: how well golfers keep a speed (assumption)


@dataclass(frozen=True, kw_only=True)
class Verdict:
    """Verdict on one ball with its reasons; ``answered`` and ``moved`` are None if unknown.

    ``beyond`` is true if the ball passed the primary gate on the far side; ``value`` is the primary metric, golfer
    frame. ``excluded_by`` is the code of the rule that excluded the ball, None if it counts. ``called`` is the move
    that was called before the ball, old or new; it replaces a missing mark.
    """

    verdict: VerdictKind
    reasons: list[Message]
    moved: bool | None
    answered: bool | None
    beyond: bool
    value: float | None
    excluded_by: str | None = None
    called: str | None = None


def judge(
    block: Block,
    completed: CompletedBlock,
    correction: Correction,
    usual_smash: float | None,
    aside: frozenset[int],
    full_speed: float | None = None,
) -> list[Verdict]:
    """Judge every ball.

    Parameters
    ----------
    block : Block
        n balls under the correction, golfer frame.
    completed : CompletedBlock
        The same balls with their gaps filled.
    correction : Correction
    usual_smash : float or None
        The baseline's ball speed over club speed: what a solid ball gives.
    aside : frozenset of int
        0-based balls the coach excluded.
    full_speed : float, optional
        The baseline's club speed [m/s]; balls faster than their stage's speed band do not count. None leaves them in.
    """
    metrics = tuple({**correction.gate, **correction.guards})
    values = np.stack([completed.columns[m] for m in metrics], axis=1)
    inferred = np.stack([np.isnan(block.column(m)) for m in metrics], axis=1)
    mishits = {m.index: m for m in find_mishits(block, by_spread=False)}
    mishits |= _weak(block, usual_smash, mishits)
    mishits |= {m.index: m for m in _too_fast(block, full_speed) if m.index not in mishits}
    mishits |= {i: Mishit(i, BY_COACH, Message("prove-excluded-coach")) for i in aside}
    asked = {stage: _asked(correction, stage) for stage in set(block.stage)}
    return [
        _judge_one(
            _Known(
                tuple(row),
                tuple(guessed),
                block.movement[i],
                intent if (intent := block.intent[i]) in CALLED_DOSES else None,
                mishits.get(i),
                completed.doubtful[i],
            ),
            metrics,
            asked[block.stage[i]],
        )
        for i, (row, guessed) in enumerate(zip(values.tolist(), inferred.tolist(), strict=True))
    ]


class _Asked(NamedTuple):
    """What a correction requires of one ball of a stage."""

    primary: str
    sign: int
    gate: tuple[tuple[str, tuple[float, float]], ...]
    guards: tuple[tuple[str, tuple[float, float]], ...]


def _asked(correction: Correction, stage: str | None) -> _Asked:
    gate = correction.gate_at(stage)
    return _Asked(correction.primary, correction.sign, tuple(gate.items()), tuple(correction.guards.items()))


class _Known(NamedTuple):
    """What is known about one ball: the required metrics, which of them are inferred, and the marks."""

    values: tuple[float, ...]
    inferred: tuple[bool, ...]
    movement: str | None
    called: str | None
    mishit: Mishit | None
    doubtful: str | None


def _weak(block: Block, usual: float | None, known: dict[int, Mishit]) -> dict[int, Mishit]:
    if usual is None:
        return {}
    smash = block.column("ball_speed_mps") / block.column("club_speed_mps")
    found = {}
    for i in np.flatnonzero(smash < (1 - SMASH_DROP) * usual):
        if i not in known:
            reason = Message("prove-ball-speed-below-solid-ball", smash=100 * (1 - smash[i] / usual))
            found[int(i)] = Mishit(int(i), "ball-speed", reason)
    return found


def _too_fast(block: Block, full_speed: float | None) -> Iterator[Mishit]:
    """Return balls hit faster than their stage allows."""
    if not full_speed:
        return
    known = vocabulary()
    shares = block.column("club_speed_mps") / full_speed
    for i in np.flatnonzero(~np.isnan(shares)):
        stage = known.stages.get(block.stage[i] or "")
        if stage is not None and shares[i] > stage.speed[1] + SPEED_MARGIN:
            reason = Message(
                "prove-full-speed-too-fast-stage",
                share=float(shares[i]),
                stage=known.words["stage"][stage.id],
                high=stage.speed[1],
            )
            yield Mishit(int(i), STAGE_SPEED, reason)


@functools.lru_cache(maxsize=4096)
def _judge_one(facts: _Known, metrics: tuple[str, ...], ask: _Asked) -> Verdict:
    """Judge one ball; cached, because all balls are judged again after every new one."""
    ball = dict(zip(metrics, facts.values, strict=True))
    inferred = {m for m, guessed in zip(metrics, facts.inferred, strict=True) if guessed}
    moved = None if facts.movement in (None, Movement.UNSEEN) else facts.movement in MOVED
    if moved is None and facts.called:
        moved = facts.called == NEW
    value = None if np.isnan(ball[ask.primary]) else ball[ask.primary]
    beyond = value is not None and _beyond(value, ask)
    if facts.mishit is not None:
        excluded, why = facts.mishit.rule in (STAGE_SPEED, BY_COACH), facts.mishit.reason
        result = Message("prove-not-counted", reason=why) if excluded else Message("prove-mishit", reason=why)
        return _unclear([result], moved=moved, excluded_by=facts.mishit.rule, called=facts.called)
    if facts.doubtful in ball:
        reason = Message("prove-does-not-agree-other-values", label=_label(facts.doubtful))
        return _unclear([reason], moved=moved, called=facts.called)
    answered, reasons = _answer(ball, inferred, ask)
    if answered is None:
        return _unclear(reasons, moved=moved, value=value, called=facts.called)
    if moved is None:
        unseen = Message("prove-move-not-seen") if facts.movement else Message("prove-move-not-marked-yet")
        return _unclear([unseen, *reasons], answered=answered, beyond=beyond, value=value)
    reasons = [_made(facts), *reasons]
    if moved:
        verdict = VerdictKind.LINKED if answered else VerdictKind.MOVED_NO_CHANGE
    else:
        verdict = VerdictKind.CHANGED_WITHOUT_MOVE if answered else VerdictKind.NEITHER
    return Verdict(
        verdict=verdict,
        reasons=reasons,
        moved=moved,
        answered=answered,
        beyond=beyond,
        value=value,
        called=facts.called,
    )


def _made(facts: _Known) -> Message:
    """Return what is known about the movement, from mark or call."""
    if facts.called and facts.movement in (None, Movement.UNSEEN):
        return Message("prove-new-move-called") if facts.called == NEW else Message("prove-old-move-called")
    result: dict[str | None, Message] = {
        Movement.DONE: Message("prove-move-made"),
        Movement.PARTLY: Message("prove-move-partly-made"),
    }
    return result.get(facts.movement, Message("prove-move-not-made"))


def _unclear(
    reasons: list[Message],
    *,
    moved: bool | None = None,
    answered: bool | None = None,
    beyond: bool = False,
    value: float | None = None,
    excluded_by: str | None = None,
    called: str | None = None,
) -> Verdict:
    return Verdict(
        verdict=VerdictKind.UNCLEAR,
        reasons=reasons,
        moved=moved,
        answered=answered,
        beyond=beyond,
        value=value,
        excluded_by=excluded_by,
        called=called,
    )


def _answer(ball: dict[str, float], inferred: set[str], ask: _Asked) -> tuple[bool | None, list[Message]]:
    """Return whether the ball passed gate and limits, and the sentences for it."""
    answered, reasons = True, []
    for metric, (low, high) in ask.gate:
        if np.isnan(ball[metric]):
            return None, [Message("prove-not-measured", label=_label(metric))]
        inside = low <= ball[metric] <= high
        answered &= inside
        where = Message("prove-inside") if inside else Message("prove-outside")
        reasons.append(Message("prove-gate", text=_value_text(metric, ball, inferred), where=where))
    for metric, (low, high) in ask.guards:
        if not np.isnan(ball[metric]) and not low <= ball[metric] <= high:
            answered = False
            reasons.append(Message("prove-outside-limit", text=_value_text(metric, ball, inferred)))
    return answered, reasons


def _value_text(metric: str, ball: dict[str, float], inferred: set[str]) -> Message:
    result = say(metric, round(ball[metric], 2))
    return (
        Message("prove-about-inferred", label=_label(metric), text=result)
        if metric in inferred
        else Message("prove-label-value", label=_label(metric), text=result)
    )


def _beyond(value: float, ask: _Asked) -> bool:
    low, high = dict(ask.gate)[ask.primary]
    return value < low if ask.sign < 0 else value > high


def _label(metric: str) -> Message:
    return vocabulary().metrics[metric].label

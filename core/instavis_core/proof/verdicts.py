"""Two questions a ball: did the body do it, did club and ball answer?"""

from __future__ import annotations

import functools
from dataclasses import dataclass

import numpy as np

from instavis_core.knowledge import load_knowledge
from instavis_core.proof.correction import Correction
from instavis_core.reading.completion import complete
from instavis_core.reading.mishits import SMASH_DROP, find_mishits
from instavis_core.reading.words import say
from instavis_core.shots import Block

MOVED = ("done", "partly")


@dataclass(frozen=True)
class Verdict:
    """Verdict on one ball with its reasons; ``answered`` and ``moved`` are None when they cannot be told.

    ``beyond`` is true when the ball passed the primary gate on the far side; ``value`` is the primary
    metric, golfer frame.
    """

    verdict: str
    reasons: list[str]
    moved: bool | None
    answered: bool | None
    beyond: bool
    value: float | None


def judge(block: Block, correction: Correction, usual_smash: float | None, aside: frozenset[int]) -> list[Verdict]:
    """Judge every ball.

    Parameters
    ----------
    block : Block
        n balls under the correction, golfer frame.
    correction : Correction
    usual_smash : float or None
        The baseline's ball speed over club speed: what a solid ball gives.
    aside : frozenset of int
        0-based balls the coach set apart.
    """
    completed = complete(block)
    columns = {m: completed.columns[m] for m in {**correction.gate, **correction.guards}}
    mishits = {m.index: m.reason for m in find_mishits(block, by_spread=False)}
    mishits |= _weak(block, usual_smash, mishits) | dict.fromkeys(aside, "set apart by the coach")
    verdicts = []
    for i in range(len(block)):
        ball = {metric: float(values[i]) for metric, values in columns.items()}
        inferred = {metric for metric in ball if np.isnan(block.column(metric)[i])}
        doubtful = completed.doubtful[i]
        verdicts.append(_judge_one(ball, inferred, block.movement[i], mishits.get(i), doubtful, correction))
    return verdicts


def _weak(block: Block, usual: float | None, known: dict[int, str]) -> dict[int, str]:
    if usual is None:
        return {}
    smash = block.column("ball_speed_mps") / block.column("club_speed_mps")
    return {
        int(i): f"ball speed {100 * (1 - smash[i] / usual):.0f} % below a solid ball at this club speed"
        for i in np.flatnonzero(smash < (1 - SMASH_DROP) * usual)
        if i not in known
    }


def _judge_one(ball, inferred, movement, mishit, doubtful, correction: Correction) -> Verdict:
    moved = None if movement in (None, "unseen") else movement in MOVED
    value = ball[correction.primary]
    value = None if np.isnan(value) else value
    beyond = value is not None and _beyond(value, correction)
    if mishit is not None:
        return Verdict("unclear", [f"Mishit: {mishit}."], moved, None, False, None)
    if doubtful in ball:
        reason = f"{_label(doubtful)} does not agree with the other values of this ball."
        return Verdict("unclear", [reason], moved, None, False, None)
    answered, reasons = _answer(ball, inferred, correction)
    if answered is None:
        return Verdict("unclear", reasons, moved, None, False, value)
    if moved is None:
        unseen = "The movement was not seen." if movement else "The movement is not marked yet."
        return Verdict("unclear", [unseen, *reasons], None, answered, beyond, value)
    told = {"done": "The movement was made.", "partly": "The movement was made in part."}
    reasons = [told.get(movement, "The movement was not made."), *reasons]
    if moved:
        verdict = "linked" if answered else "moved-no-change"
    else:
        verdict = "changed-without-move" if answered else "neither"
    return Verdict(verdict, reasons, moved, answered, beyond, value)


def _answer(ball: dict[str, float], inferred: set[str], correction: Correction) -> tuple[bool | None, list[str]]:
    """Whether the ball passed gate and guards, and the sentences for it."""
    answered, reasons = True, []
    for metric, (low, high) in correction.gate.items():
        if np.isnan(ball[metric]):
            return None, [f"{_label(metric)} was not measured."]
        inside = low <= ball[metric] <= high
        answered &= inside
        where = "inside" if inside else "outside"
        reasons.append(f"{_said(metric, ball, inferred)}, {where} the gate.")
    for metric, (low, high) in correction.guards.items():
        if not np.isnan(ball[metric]) and not low <= ball[metric] <= high:
            answered = False
            reasons.append(f"{_said(metric, ball, inferred)}, broke the guard.")
    return answered, reasons


def _said(metric: str, ball: dict[str, float], inferred: set[str]) -> str:
    return _sentence(metric, round(ball[metric], 2), metric in inferred)


@functools.lru_cache(maxsize=4096)
def _sentence(metric: str, value: float, inferred: bool) -> str:
    """A value in words; all balls so far are told again after every new one."""
    told = say(metric, value)
    return f"{_label(metric)} about {told} (inferred)" if inferred else f"{_label(metric)} {told}"


def _beyond(value: float, correction: Correction) -> bool:
    low, high = correction.gate[correction.primary]
    return value < low if correction.sign < 0 else value > high


def _label(metric: str) -> str:
    return load_knowledge().metrics[metric].label

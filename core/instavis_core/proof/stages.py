"""Stages: up, hold or down, by k of the last n or by the probability of the linked share.

The chance that the share is as wanted is a beta posterior under Jeffreys' prior (Brown, Cai & DasGupta, Stat. Sci. 16
(2001) 101).
"""

from __future__ import annotations

from dataclasses import dataclass

from scipy.special import betaincc

from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.model import Stage
from instavis_core.message import NOTHING, Message
from instavis_core.proof.verdicts import Verdict
from instavis_core.terms import VerdictKind

RUN_OF_MISSES = 4
SURE_UP, SURE_DOWN = 0.75, 0.05  # probability of the required share, to go up and to go down (assumption)
REMEMBERED_STAGES = 2  # windows of a stage over which the probability is computed
RULES = ("count", "chance")


@dataclass(frozen=True, kw_only=True)
class Advice:
    """Advice on the stage and its reason; ``hits`` of the last ``of`` balls were linked, and ``need`` are needed."""

    stage: str
    reason: Message
    hits: int
    of: int
    need: int


def advise(verdicts: list[Verdict], stage_id: str | None, compensated: bool, rule: str = "count") -> Advice:
    """Advise on the stage from its judged balls, oldest first.

    Parameters
    ----------
    verdicts : list of Verdict
    stage_id : str or None
        The full swing when None.
    compensated : bool
        Something else may explain the answer: never up.
    rule : {"count", "chance"}
        k of the last n, or the posterior chance that the share of linked balls is as wanted.
    """
    stages = vocabulary().stages
    stage = stages.get(stage_id or "full", stages["full"])
    if not stage.ball:
        return Advice(
            stage="hold",
            reason=Message("prove-stage-no-ball-go-up"),
            hits=0,
            of=0,
            need=0,
        )
    judged = [v for v in verdicts if v.verdict != VerdictKind.UNCLEAR]
    hits = sum(v.verdict == VerdictKind.LINKED for v in judged[-stage.of :])
    up, down, result = (_by_chance if rule == "chance" else _by_count)(judged, stage)

    def say(what: str, reason: Message) -> Advice:
        return Advice(stage=what, reason=reason, hits=hits, of=stage.of, need=stage.need)

    if down:
        return say("down", Message("prove-easier-stage-finds-movement-sooner", down=down))
    if len(judged) < stage.least:
        return say(
            "hold",
            Message("prove-more-balls-verdict-needed-stage", left=stage.least - len(judged)),
        )
    if up and compensated:
        return say("hold", Message("prove-gate-passed-but-something-else"))
    return say("up" if up else "hold", result)


def _by_count(judged: list[Verdict], stage: Stage) -> tuple[bool, Message, Message]:
    """Return whether to go up, why to go down (or empty), and the count in words."""
    window = judged[-stage.of :]
    hits = sum(v.verdict == VerdictKind.LINKED for v in window)
    missed = len(judged) >= RUN_OF_MISSES and not any(v.verdict == VerdictKind.LINKED for v in judged[-RUN_OF_MISSES:])
    down = Message("prove-last-balls-not-linked", run_of_misses=RUN_OF_MISSES) if missed else NOTHING
    result = Message("prove-last-linked", hits=hits, window=len(window))
    if hits >= stage.need:
        return True, down, result + "."
    return False, down, Message("prove-needed", text=result, need=stage.need, of=stage.of)


def _by_chance(judged: list[Verdict], stage: Stage) -> tuple[bool, Message, Message]:
    window = judged[-REMEMBERED_STAGES * stage.of :]
    hits, wanted = sum(v.verdict == VerdictKind.LINKED for v in window), stage.need / stage.of
    chance = float(betaincc(hits + 0.5, len(window) - hits + 0.5, wanted))
    result = Message(
        "prove-linked-chance-more",
        hits=hits,
        window=len(window),
        chance=chance,
        wanted=wanted,
    )
    down = result if len(window) >= RUN_OF_MISSES and chance <= SURE_DOWN else NOTHING
    if chance >= SURE_UP:
        return True, down, result + "."
    return False, down, Message("prove-share-needed", text=result, sure_up=SURE_UP)

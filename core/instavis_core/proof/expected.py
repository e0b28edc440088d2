"""The bad first phase that a correction may cause, recognized in the balls, with its match-up."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.model import Ugly
from instavis_core.message import Message
from instavis_core.proof.verdicts import Verdict
from instavis_core.shots import Block


@dataclass(frozen=True, kw_only=True)
class Expected:
    """A first phase that shows: its meaning, what is missing, and on how many of how many balls."""

    id: str
    text: Message
    matchup: Message
    shown: int
    of: int


def expected_ugly(stage: Block, verdicts: list[Verdict], fault: str) -> list[Expected]:
    """Find signs of an expected first phase among the last balls with the movement.

    Parameters
    ----------
    stage : Block
        The balls of the stage, golfer frame, in the order they were hit.
    verdicts : list of Verdict
        One a ball of the stage.
    fault : str
        Id of the fault under correction.
    """
    moved = [i for i, verdict in enumerate(verdicts) if verdict.moved]
    found = []
    for ugly in vocabulary().ugly.values():
        if fault not in ugly.faults:
            continue
        recent = moved[-ugly.of :]
        shown = sum(_shows(ugly, stage, i) for i in recent)
        if shown >= ugly.need:
            found.append(Expected(id=ugly.id, text=ugly.text, matchup=ugly.matchup, shown=shown, of=len(recent)))
    return found


def _shows(ugly: Ugly, stage: Block, ball: int) -> bool:
    if ugly.turf:
        return stage.turf[ball] in ugly.turf
    value = float(stage.column(ugly.metric)[ball])
    if np.isnan(value):
        return False
    return (ugly.above is not None and value > ugly.above) or (ugly.below is not None and value < ugly.below)

"""The ladder: up, hold or down, as k of the last n."""

from __future__ import annotations

from dataclasses import dataclass

from instavis_core.knowledge import load_knowledge
from instavis_core.proof.verdicts import Verdict

RUN_OF_MISSES = 4


@dataclass(frozen=True)
class Advice:
    """What to do with the stage and why; ``hits`` of the last ``of`` were linked, ``need`` are wanted."""

    stage: str
    reason: str
    hits: int
    of: int
    need: int


def advise(verdicts: list[Verdict], stage_id: str | None, compensated: bool) -> Advice:
    """Advice from the judged balls of the current stage, oldest first."""
    stages = load_knowledge().stages
    stage = stages.get(stage_id or "full", stages["full"])
    if not stage.ball:
        return Advice("hold", "No ball at this stage: go up when the position is found three times in a row.", 0, 0, 0)
    judged = [v for v in verdicts if v.verdict != "unclear"]
    window = judged[-stage.of :]
    hits = sum(v.verdict == "linked" for v in window)
    if len(judged) >= RUN_OF_MISSES and not any(v.verdict == "linked" for v in judged[-RUN_OF_MISSES:]):
        reason = f"The last {RUN_OF_MISSES} balls were not linked: an easier stage finds the movement sooner."
        return Advice("down", reason, hits, stage.of, stage.need)
    if len(judged) < stage.least:
        reason = f"{stage.least - len(judged)} more judged balls before this stage can be called."
        return Advice("hold", reason, hits, stage.of, stage.need)
    if hits >= stage.need and compensated:
        reason = "The gate is passed, but something else may explain it: settle that first."
        return Advice("hold", reason, hits, stage.of, stage.need)
    if hits >= stage.need:
        return Advice("up", f"{hits} of the last {len(window)} were linked.", hits, stage.of, stage.need)
    reason = f"{hits} of the last {len(window)} were linked; {stage.need} of {stage.of} are wanted."
    return Advice("hold", reason, hits, stage.of, stage.need)

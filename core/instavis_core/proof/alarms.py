"""What else could have changed the number: compensations watched while a correction is proved."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.special import stdtr

from instavis_core.knowledge import load_knowledge
from instavis_core.proof.verdicts import Verdict
from instavis_core.shots import Block

LEAST_BALLS = 5
CALLED_AT = 0.01  # two-sided chance at which a shift is called real here
FASTEST_DROP = 0.06  # of club speed below what the stage asks for
FATIGUE_DROP = 0.05
RECENT = 6


@dataclass(frozen=True)
class Alarm:
    """One alarm: which and why."""

    id: str
    text: str


def watch(baseline: Block, stage: Block, stage_id: str | None, verdicts: list[Verdict]) -> list[Alarm]:
    """Alarms of the current stage; balls in the order they were hit."""
    makers = (_aim, _ball_position, _easier, _fatigue)
    alarms = [alarm for make in makers if (alarm := make(baseline, stage, stage_id)) is not None]
    return alarms + _without_move(verdicts) + _overcorrection(verdicts)


def overcorrecting(verdicts: list[Verdict]) -> bool:
    """Whether at least half of the last balls passed the gate on its far side."""
    recent = [v for v in verdicts if v.value is not None][-RECENT:]
    return len(recent) >= RECENT and sum(v.beyond for v in recent) >= RECENT / 2


def _shift(before: np.ndarray, after: np.ndarray) -> tuple[float, float]:
    """Difference of means and its two-sided p (Welch); (0, 1) with too few balls."""
    a, b = before[~np.isnan(before)], after[~np.isnan(after)]
    if a.size < LEAST_BALLS or b.size < LEAST_BALLS:
        return 0.0, 1.0
    va, vb = a.var(ddof=1) / a.size, b.var(ddof=1) / b.size
    if va + vb <= 0:
        return float(b.mean() - a.mean()), 0.0 if b.mean() != a.mean() else 1.0
    t = (b.mean() - a.mean()) / np.sqrt(va + vb)
    freedom = (va + vb) ** 2 / (va**2 / (a.size - 1) + vb**2 / (b.size - 1))
    return float(b.mean() - a.mean()), float(2 * stdtr(freedom, -abs(t)))


def _aim(baseline: Block, stage: Block, stage_id: str | None) -> Alarm | None:
    path, path_p = _shift(baseline.column("path_deg"), stage.column("path_deg"))
    face, face_p = _shift(baseline.column("face_deg"), stage.column("face_deg"))
    gap, _ = _shift(
        baseline.column("face_deg") - baseline.column("path_deg"), stage.column("face_deg") - stage.column("path_deg")
    )
    together = path_p < CALLED_AT and face_p < CALLED_AT and path * face > 0
    if together and abs(gap) < 0.3 * min(abs(path), abs(face)):
        text = f"Path and face moved together ({path:+.1f}° and {face:+.1f}°): check the aim."
        return Alarm("aim-shift", text)
    return None


def _ball_position(baseline: Block, stage: Block, stage_id: str | None) -> Alarm | None:
    path, path_p = _shift(baseline.column("path_deg"), stage.column("path_deg"))
    attack, attack_p = _shift(baseline.column("attack_deg"), stage.column("attack_deg"))
    # Along one arc the path moves about two thirds of a degree for a degree of attack, the other way.
    if path_p < CALLED_AT and attack_p < CALLED_AT and path * attack < 0 and 0.5 < abs(path / attack) < 1.5:
        return Alarm("ball-position", f"Path {path:+.1f}° with attack {attack:+.1f}°: check the ball position.")
    return None


def _easier(baseline: Block, stage: Block, stage_id: str | None) -> Alarm | None:
    before, after = baseline.column("club_speed_mps"), stage.column("club_speed_mps")
    _, p = _shift(before, after)
    if p >= CALLED_AT:
        return None
    share = float(np.nanmean(after) / np.nanmean(before))
    stages = load_knowledge().stages
    wanted = stages[stage_id].speed[0] if stage_id in stages else stages["full"].speed[0]
    if share < min(wanted, 1 - FASTEST_DROP):
        return Alarm("swing-easier", f"Club speed is {100 * (1 - share):.0f} % below the baseline: swinging easier.")
    return None


def _fatigue(baseline: Block, stage: Block, stage_id: str | None) -> Alarm | None:
    speed = stage.column("club_speed_mps")
    speed = speed[~np.isnan(speed)]
    if speed.size < 24:
        return None
    early, late = speed[: speed.size // 3].mean(), speed[-8:].mean()
    if late < (1 - FATIGUE_DROP) * early:
        return Alarm("fatigue", f"Club speed fell {100 * (1 - late / early):.0f} % within the stage: rest or stop.")
    return None


def _without_move(verdicts: list[Verdict]) -> list[Alarm]:
    judged = [v for v in verdicts if v.verdict != "unclear"]
    free = sum(v.verdict == "changed-without-move" for v in judged)
    linked = sum(v.verdict == "linked" for v in judged)
    if free >= 3 and free > linked:
        return [Alarm("without-move", f"{free} balls changed without the movement: something else does it.")]
    return []


def _overcorrection(verdicts: list[Verdict]) -> list[Alarm]:
    if not overcorrecting(verdicts):
        return []
    return [Alarm("overcorrection", "Half of the last balls passed the gate on the far side.")]

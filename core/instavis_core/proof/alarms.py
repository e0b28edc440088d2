"""What else could have changed the number: compensations watched after every ball of a correction.

While an alarm explains a change, nothing is verified. Three alarms are about the stage as a whole (its length, its
conditions, a baseline that was still moving); the stage's own balls can overrule them.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.special import ndtri, stdtr

from instavis_core.knowledge import vocabulary
from instavis_core.message import Message, joined
from instavis_core.proof.baseline import Baseline
from instavis_core.proof.correction import Correction
from instavis_core.proof.verdicts import Verdict
from instavis_core.shots import Block
from instavis_core.terms import VerdictKind

MIN_BALLS = 5
CALLED_AT = 0.01  # two-sided p at which a shift counts as real
NORMAL_BAR = float(ndtri(1 - CALLED_AT / 2))
TELLING_ERRORS = 2.0  # from the expected gap before an aim is suspected
FASTEST_DROP = 0.06  # of club speed below the stage's demand
FATIGUE_DROP, FATIGUE_FROM, FATIGUE_LATE = 0.05, 24, 8
RECENT = 6
FULL_LENGTH = 0.9  # of the full swing's speed: a stage that asks for less is a shorter swing
MIN_FREE, FREE_TO_LINKED = 3, 2
BETWEEN_BLOCKS = ("stage-length", "conditions", "baseline-drift")
"""Alarms about what is the same on every ball of the stage, with the movement or without."""
AHEAD = ("overcorrection",)
"""Alarms that do not explain a change."""


@dataclass(frozen=True)
class Alarm:
    """An alarm: kind and reason."""

    id: str
    text: Message


@dataclass(frozen=True, kw_only=True)
class Watched:
    """Alarms after the last ball, and after every ball (n,) whether one explains the change.

    ``by_ball`` are alarms of single balls, ``of_stage`` those of the stage that its own balls can overrule.
    """

    alarms: list[Alarm]
    by_ball: np.ndarray
    of_stage: np.ndarray

    @property
    def explaining(self) -> list[Alarm]:
        """Return alarms that explain the change, those of single balls first."""
        return sorted((a for a in self.alarms if a.id not in AHEAD), key=lambda a: a.id in BETWEEN_BLOCKS)


def watch(
    base: Baseline,
    stage: Block,
    stage_id: str | None,
    correction: Correction,
    verdicts: list[Verdict],
    changed: Sequence[str] = (),
) -> Watched:
    """Watch a stage.

    Parameters
    ----------
    base : Baseline
    stage : Block
        In the order they were hit.
    stage_id : str or None
    correction : Correction
    verdicts : list of Verdict
        One a ball of the stage.
    changed : sequence of str
        Conditions that are not the baseline's, by their words in the vocabulary: tee, turf, mat, ball, bay, day.
    """
    n = len(stage)
    shifts = _shifts(base.clean, stage)
    by_ball = [
        _aim(shifts, correction),
        _ball_position(shifts),
        _strike(shifts, correction),
        _easier(shifts, stage_id),
        _fatigue(stage),
        _without_move(verdicts),
    ]
    stage_alarms = [
        alarm
        for alarm in (_length(base.clean, stage_id), _conditions(changed), _drift(base, correction))
        if alarm is not None
    ]
    stands = [alarm for alarm, when in by_ball if alarm is not None and when.size and when[-1]]
    return Watched(
        alarms=[*stands, *stage_alarms, *_overcorrection(verdicts)],
        by_ball=np.any([when for _, when in by_ball], axis=0) if n else np.zeros(0, bool),
        of_stage=np.full(n, bool(stage_alarms)),
    )


def overcorrecting(verdicts: list[Verdict]) -> bool:
    """Return True if at least half of the last balls passed the gate on the far side."""
    recent = [v for v in verdicts if v.value is not None][-RECENT:]
    return len(recent) >= RECENT and sum(v.beyond for v in recent) >= RECENT / 2


@dataclass(frozen=True, kw_only=True)
class _Shift:
    """The shift after every ball (n,): difference of means, its standard error, whether it is significant (Welch), and
    its share of the old value.
    """

    size: np.ndarray
    error: np.ndarray
    real: np.ndarray
    share: np.ndarray


Found = tuple[Alarm | None, np.ndarray]
"""What is said after the last ball, and the balls after which it held."""

WATCHED = ("path_deg", "face_deg", "attack_deg", "strike_toe_mm", "spin_axis_deg", "side_m", "club_speed_mps")
GAP = "face to path"


def _shifts(baseline: Block, stage: Block) -> dict[str, _Shift]:
    """Compute how every watched number, and face-to-path, moved from the baseline to the stage."""
    before, after = _stacked(baseline), _stacked(stage)
    there = ~np.isnan(before)
    count_a = there.sum(1)
    mean_a = np.where(there, before, 0.0).sum(1) / np.maximum(count_a, 1)
    spread_a = (np.where(there, before - mean_a[:, None], 0.0) ** 2).sum(1) / np.maximum(count_a - 1, 1)
    measured = ~np.isnan(after)
    away = np.where(measured, after - mean_a[:, None], 0.0)  # from the old center, so that sums stay small
    count_b, total, squares = measured.cumsum(1), away.cumsum(1), (away**2).cumsum(1)
    size = total / np.maximum(count_b, 1)
    spread_b = np.maximum(squares - count_b * size**2, 0.0) / np.maximum(count_b - 1, 1)
    a, b = (spread_a / np.maximum(count_a, 1))[:, None], spread_b / np.maximum(count_b, 1)
    enough = (count_a >= MIN_BALLS)[:, None] & (count_b >= MIN_BALLS)
    error = np.sqrt(np.maximum(a + b, 1e-18))
    parts = a**2 / np.maximum(count_a - 1, 1)[:, None] + b**2 / np.maximum(count_b - 1, 1)
    freedom = np.maximum((a + b) ** 2 / np.maximum(parts, 1e-36), 1.0)
    away_by = np.abs(size) / error
    # Below the normal threshold a shift is also below t's: tails are computed only beyond it.
    real = enough & (away_by > NORMAL_BAR)
    real[real] = 2 * stdtr(freedom[real], -away_by[real]) < CALLED_AT
    share = 1 + size / np.where(np.abs(mean_a) > 1e-9, mean_a, np.inf)[:, None]
    return {
        name: _Shift(size=np.where(enough[k], size[k], 0.0), error=error[k], real=real[k], share=share[k])
        for k, name in enumerate((*WATCHED, GAP))
    }


def _stacked(block: Block) -> np.ndarray:
    rows = [block.column(m) for m in WATCHED]
    return np.stack([*rows, rows[1] - rows[0]])


def _last(when: np.ndarray) -> bool:
    return bool(when.size and when[-1])


def _aim(shift: dict[str, _Shift], correction: Correction) -> Found:
    """Detect path and face moving in step, as with a new aim, when the correction does not predict it."""
    path, face, gap = shift["path_deg"], shift["face_deg"], shift[GAP]
    when = path.real & face.real & (path.size * face.size > 0) & ~gap.real
    if correction.face_per_path is not None:
        expected = path.size * (correction.face_per_path - 1)
        when &= np.abs(gap.size - expected) >= TELLING_ERRORS * gap.error
    if not _last(when):
        return None, when
    text = Message(
        "prove-path-face-moved-together-check",
        path=path.size[-1],
        face=face.size[-1],
    )
    return Alarm("aim-shift", text), when


def _ball_position(shift: dict[str, _Shift]) -> Found:
    path, attack = shift["path_deg"], shift["attack_deg"]
    # Earlier or later on one arc: path and attack change in opposite directions by about the same angle.
    ratio = np.abs(path.size) / np.maximum(np.abs(attack.size), 1e-9)
    when = path.real & attack.real & (path.size * attack.size < 0) & (ratio > 0.5) & (ratio < 1.5)
    if not _last(when):
        return None, when
    text = Message(
        "prove-path-attack-check-ball-position",
        path=path.size[-1],
        attack=attack.size[-1],
    )
    return Alarm("ball-position", text), when


def _strike(shift: dict[str, _Shift], correction: Correction) -> Found:
    """Detect a curve that changed with strike position while face-to-path stayed the same.

    The curve is the spin axis, or where the ball ended sideways if no axis was measured.
    """
    toe, gap, axis, side = shift["strike_toe_mm"], shift[GAP], shift["spin_axis_deg"], shift["side_m"]
    curved = np.where(axis.real, axis.size, np.where((axis.size == 0) & side.real, side.size, 0.0))
    # Gear effect: struck toward the toe the ball curves to the lead side, and the other way.
    when = toe.real & ~gap.real & (toe.size * curved < 0)
    if correction.primary.startswith("strike"):
        when = np.zeros_like(when)
    if not _last(when):
        return None, when
    text = Message("prove-curve-changed-strike-mm-not", size=toe.size[-1])
    return Alarm("strike-only", text), when


def _easier(shift: dict[str, _Shift], stage_id: str | None) -> Found:
    speed, stages = shift["club_speed_mps"], vocabulary().stages
    wanted = stages[stage_id].speed[0] if stage_id in stages else stages["full"].speed[0]
    when = speed.real & (speed.share < min(wanted, 1 - FASTEST_DROP))
    if not _last(when):
        return None, when
    text = Message("prove-club-speed-below-baseline-easier", share=100 * (1 - speed.share[-1]))
    return Alarm("swing-easier", text), when


def _fatigue(stage: Block) -> Found:
    """Detect club speed falling from the first third of the stage to its last eight balls."""
    speed = stage.column("club_speed_mps")
    known = np.flatnonzero(~np.isnan(speed))
    when, drop = np.zeros(speed.size, bool), 0.0
    sums = np.append(0.0, speed[known].cumsum())
    for n in range(FATIGUE_FROM, known.size + 1):
        early, late = sums[n // 3] / (n // 3), (sums[n] - sums[n - FATIGUE_LATE]) / FATIGUE_LATE
        drop = 1 - late / early
        end = known[n] if n < known.size else speed.size
        when[known[n - 1] : end] = drop > FATIGUE_DROP
    if not _last(when):
        return None, when
    return Alarm("fatigue", Message("prove-club-speed-fell-stage-rest", late=100 * drop)), when


def _without_move(verdicts: list[Verdict]) -> Found:
    """Detect far more balls that changed without the movement than with it."""
    free = np.cumsum([v.verdict == VerdictKind.CHANGED_WITHOUT_MOVE for v in verdicts])
    linked = np.cumsum([v.verdict == VerdictKind.LINKED for v in verdicts])
    when = (free >= MIN_FREE) & (free > FREE_TO_LINKED * linked)
    if not _last(when):
        return None, when
    text = Message("prove-balls-changed-without-move-so", free=int(free[-1]))
    return Alarm("without-move", text), when


def _length(baseline: Block, stage_id: str | None) -> Alarm | None:
    """Detect shorter swings than in the baseline."""
    stages = vocabulary().stages
    if stage_id not in stages or stages[stage_id].speed[1] >= FULL_LENGTH:
        return None
    if len(baseline) and all(s == stage_id for s in baseline.stage):
        return None
    text = Message("prove-stage-shorter-swings-baseline-hit")
    return Alarm("stage-length", text)


def _conditions(changed: Sequence[str]) -> Alarm | None:
    if not changed:
        return None
    words = vocabulary().words["condition"]
    text = Message("prove-conditions-differ-baseline", changed=joined(words[c].lower() for c in changed))
    return Alarm("conditions", text)


def _drift(base: Baseline, correction: Correction) -> Alarm | None:
    """Detect a primary number that was already moving during the baseline."""
    if base.drift * correction.sign <= 0:
        return None
    label = vocabulary().metrics[correction.primary].label
    text = Message("prove-already-changing-during-baseline-may", label=label)
    return Alarm("baseline-drift", text)


def _overcorrection(verdicts: list[Verdict]) -> list[Alarm]:
    if not overcorrecting(verdicts):
        return []
    return [Alarm("overcorrection", Message("prove-half-last-balls-passed-gate"))]

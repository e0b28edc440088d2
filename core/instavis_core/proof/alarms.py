"""What else could have changed the number: compensations watched while a correction is proved."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from scipy.special import stdtr

from instavis_core.knowledge import vocabulary
from instavis_core.message import Message
from instavis_core.proof.correction import Correction
from instavis_core.proof.verdicts import Verdict
from instavis_core.shots import Block
from instavis_core.terms import VerdictKind

LEAST_BALLS = 5
CALLED_AT = 0.01  # two-sided chance at which a shift is called real here
TELLING_ERRORS = 2.0  # from the expected gap before an aim is suspected
FASTEST_DROP = 0.06  # of club speed below what the stage asks for
FATIGUE_DROP = 0.05
RECENT = 6


@dataclass(frozen=True)
class Alarm:
    """One alarm: which and why."""

    id: str
    text: Message


def watch(
    baseline: Block, stage: Block, stage_id: str | None, correction: Correction, verdicts: list[Verdict]
) -> list[Alarm]:
    """Alarms of the current stage; balls in the order they were hit."""
    shift = _shifts(baseline, stage)
    found = (
        _aim(shift, correction),
        _ball_position(shift),
        _strike(shift, correction),
        _easier(baseline, stage, stage_id, shift),
        _fatigue(stage),
    )
    return [a for a in found if a is not None] + _without_move(verdicts) + _overcorrection(verdicts)


def overcorrecting(verdicts: list[Verdict]) -> bool:
    """Whether at least half of the last balls passed the gate on its far side."""
    recent = [v for v in verdicts if v.value is not None][-RECENT:]
    return len(recent) >= RECENT and sum(v.beyond for v in recent) >= RECENT / 2


@dataclass(frozen=True)
class _Shift:
    """Difference of means, its standard error, and its two-sided p (Welch)."""

    size: float
    error: float
    p: float

    @property
    def real(self) -> bool:
        return self.p < CALLED_AT


WATCHED = ("path_deg", "face_deg", "attack_deg", "strike_toe_mm", "spin_axis_deg", "club_speed_mps")
GAP = Message("face to path")


def _shifts(baseline: Block, stage: Block) -> dict[str, _Shift]:
    """How every watched number, and face to path, moved from the baseline to the stage (Welch's t)."""
    (na, ma, va), (nb, mb, vb) = _moments(baseline), _moments(stage)
    shifts = {}
    for k, name in enumerate((*WATCHED, GAP)):
        if min(na[k], nb[k]) < LEAST_BALLS:
            shifts[name] = _Shift(0.0, float("inf"), 1.0)
            continue
        a, b, size = va[k] / na[k], vb[k] / nb[k], mb[k] - ma[k]
        if a + b <= 0:
            shifts[name] = _Shift(size, 1e-9, 0.0 if size else 1.0)
            continue
        freedom = (a + b) ** 2 / (a**2 / (na[k] - 1) + b**2 / (nb[k] - 1))
        error = math.sqrt(a + b)
        shifts[name] = _Shift(size, error, float(2 * stdtr(freedom, -abs(size / error))))
    return shifts


def _moments(block: Block) -> tuple[list[int], list[float], list[float]]:
    """Count, mean and variance of every watched number where it was measured, face to path last."""
    rows = [block.column(m) for m in WATCHED]
    values = np.stack([*rows, rows[1] - rows[0]])
    there = ~np.isnan(values)
    count = there.sum(axis=1)
    mean = np.where(there, values, 0.0).sum(axis=1) / np.maximum(count, 1)
    squares = np.where(there, values - mean[:, None], 0.0) ** 2
    return count.tolist(), mean.tolist(), (squares.sum(axis=1) / np.maximum(count - 1, 1)).tolist()


def _aim(shift: dict[str, _Shift], correction: Correction) -> Alarm | None:
    """Path and face moved in step, as an aim does and this correction is not expected to."""
    path, face, gap = shift["path_deg"], shift["face_deg"], shift[GAP]
    if not (path.real and face.real and path.size * face.size > 0) or gap.real:
        return None
    if correction.face_per_path is not None:
        expected = path.size * (correction.face_per_path - 1)
        if abs(gap.size - expected) < TELLING_ERRORS * gap.error:
            return None
    return Alarm(
        "aim-shift",
        Message(
            "Path and face moved together ({path:+.1f}° and {face:+.1f}°): check the aim.",
            path=path.size,
            face=face.size,
        ),
    )


def _ball_position(shift: dict[str, _Shift]) -> Alarm | None:
    path, attack = shift["path_deg"], shift["attack_deg"]
    # Earlier or later on one arc: path and attack move against each other by about the same angle.
    if path.real and attack.real and path.size * attack.size < 0 and 0.5 < abs(path.size / attack.size) < 1.5:
        text = Message(
            "Path {path:+.1f}° with attack {attack:+.1f}°: check the ball position.", path=path.size, attack=attack.size
        )
        return Alarm("ball-position", text)
    return None


def _strike(shift: dict[str, _Shift], correction: Correction) -> Alarm | None:
    """The curve changed with the place of the strike, while face to path stayed."""
    if correction.primary.startswith("strike"):
        return None
    toe, axis, gap = shift["strike_toe_mm"], shift["spin_axis_deg"], shift[GAP]
    # Gear effect: struck toward the toe the ball curves to the lead side, and the other way.
    if toe.real and axis.real and not gap.real and toe.size * axis.size < 0:
        return Alarm(
            "strike-only",
            Message("The curve changed with the strike ({size:+.0f} mm), not with face to path.", size=toe.size),
        )
    return None


def _easier(baseline: Block, stage: Block, stage_id: str | None, shift: dict[str, _Shift]) -> Alarm | None:
    if not shift["club_speed_mps"].real:
        return None
    share = float(np.nanmean(stage.column("club_speed_mps")) / np.nanmean(baseline.column("club_speed_mps")))
    stages = vocabulary().stages
    wanted = stages[stage_id].speed[0] if stage_id in stages else stages["full"].speed[0]
    if share < min(wanted, 1 - FASTEST_DROP):
        return Alarm(
            "swing-easier",
            Message("Club speed is {share:.0f} % below the baseline: swinging easier.", share=100 * (1 - share)),
        )
    return None


def _fatigue(stage: Block) -> Alarm | None:
    speed = stage.column("club_speed_mps")
    speed = speed[~np.isnan(speed)]
    if speed.size < 24:
        return None
    early, late = speed[: speed.size // 3].mean(), speed[-8:].mean()
    if late < (1 - FATIGUE_DROP) * early:
        return Alarm(
            "fatigue",
            Message("Club speed fell {late:.0f} % within the stage: rest or stop.", late=100 * (1 - late / early)),
        )
    return None


def _without_move(verdicts: list[Verdict]) -> list[Alarm]:
    judged = [v for v in verdicts if v.verdict != VerdictKind.UNCLEAR]
    free = sum(v.verdict == VerdictKind.CHANGED_WITHOUT_MOVE for v in judged)
    linked = sum(v.verdict == VerdictKind.LINKED for v in judged)
    if free >= 3 and free > linked:
        return [
            Alarm(
                "without-move", Message("{free} balls changed without the movement: something else does it.", free=free)
            )
        ]
    return []


def _overcorrection(verdicts: list[Verdict]) -> list[Alarm]:
    if not overcorrecting(verdicts):
        return []
    return [Alarm("overcorrection", Message("Half of the last balls passed the gate on the far side."))]

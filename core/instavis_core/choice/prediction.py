"""Predict the baseline's balls without one cause, through impact and flight."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from instavis_core.cause.evidence import CENTRES, SPREADS
from instavis_core.cause.likelihood import effect_table
from instavis_core.flight import fly
from instavis_core.impact import Delivery, launch_of
from instavis_core.knowledge import Cause
from instavis_core.message import Message, joined
from instavis_core.reading.completion import complete
from instavis_core.reading.mishits import STRIKE_LIMIT_MM
from instavis_core.shots import Block

SPEED = "club_speed_mps"
FARTHEST_SIDE = 60.0  # m; one lost ball should not dominate a block
MISHIT_AT = 0.75 * STRIKE_LIMIT_MM  # mm from the center where poor contact begins


@dataclass(frozen=True, kw_only=True)
class Pattern:
    """Median of a block, golfer frame: [°], meters; ``offline_m`` is the typical distance from the line."""

    path_deg: float
    face_to_path_deg: float
    start_deg: float
    curve_m: float
    carry_m: float
    offline_m: float
    poor_contact: float


@dataclass(frozen=True, kw_only=True)
class Prediction:
    """Before and after one cause is removed, and a sentence about what remains.

    ``landings_*`` are carry and side [m], golfer frame, of the baseline's own balls.
    """

    before: Pattern
    after: Pattern
    shift: dict[str, float]
    remains: Message
    landings_before: list[tuple[float, float]]
    landings_after: list[tuple[float, float]]


def predict_without(block: Block, cases: Sequence[tuple[Cause, float]]) -> list[Prediction] | None:
    """Predict the pattern without each of several causes, one at a time.

    Parameters
    ----------
    block : Block
        The baseline, golfer frame.
    cases : sequence of (Cause, float)
        Each cause with how strong it is in this golfer (0 to about 1.3).

    Returns
    -------
    list of Prediction or None
        One a case; None when path, face or club speed are known on fewer than three balls.
    """
    baseline = baseline_delivery(block)
    if baseline is None:
        return None
    worlds, shifts = [baseline], []
    for cause, severity in cases:
        effects = effect_table((cause,), block.golfer, block.club)[0]
        shift = {metric: -severity * effects[k] for k, metric in enumerate(CENTRES)}
        worlds.append(_without(baseline, cause, severity, effects, shift))
        shifts.append({m: float(v) for m, v in shift.items() if abs(v) > 1e-9})
    (before, down), *after = _patterns(worlds, block)
    return [
        Prediction(
            before=before,
            after=pattern,
            shift=shift,
            remains=_remains(pattern, block),
            landings_before=down,
            landings_after=landings,
        )
        for (pattern, landings), shift in zip(after, shifts, strict=True)
    ]


def _without(
    baseline: dict[str, np.ndarray], cause: Cause, severity: float, effects: np.ndarray, shift: dict[str, float]
) -> dict[str, np.ndarray]:
    """Return the baseline's deliveries with one cause removed from median, scatter and speed."""
    changed = {}
    for metric, values in baseline.items():
        middle = np.median(values)
        changed[metric] = middle + shift.get(metric, 0.0) + (values - middle) * _narrower(metric, effects, severity)
    changed[SPEED] = baseline[SPEED] * (1 - severity * cause.effect.get("club_speed_pct", 0.0) / 100)
    return changed


def baseline_delivery(block: Block) -> dict[str, np.ndarray] | None:
    """Return the deliveries of the balls that are known well enough to simulate, with gaps filled by typical values."""
    completed = complete(block, check_readings=False).columns
    known = ~(np.isnan(completed["path_deg"]) | np.isnan(completed["face_deg"]) | np.isnan(completed[SPEED]))
    if known.sum() < 3:
        return None
    usual = {"attack_deg": block.club.attack, "dynamic_loft_deg": block.club.usual_dynamic_loft}
    delivery = {}
    for metric in (SPEED, *CENTRES):
        values = completed[metric][known]
        delivery[metric] = np.where(np.isnan(values), usual.get(metric, 0.0), values)
    return delivery


def _narrower(metric: str, effects: np.ndarray, severity: float) -> float:
    """Return the factor on a metric's scatter when the cause no longer widens it."""
    for k, name in enumerate(SPREADS, start=len(CENTRES)):
        if SPREADS[name] == metric:
            return float(np.exp(-severity * effects[k]))
    return 1.0


def _patterns(worlds: list[dict[str, np.ndarray]], block: Block) -> list[tuple[Pattern, list[tuple[float, float]]]]:
    """Compute the pattern of each case and where its balls land; all balls fly at once."""
    columns = [np.concatenate([world[m] for world in worlds]) for m in (SPEED, *CENTRES)]
    launch = launch_of(Delivery(*columns), block.club)
    flight = fly(*launch.columns())
    shape = (len(worlds), -1)
    start, curve = launch.launch_direction.reshape(shape), flight.curve_m.reshape(shape)
    carry, side = flight.carry_m.reshape(shape), flight.side_m.reshape(shape)
    landings = np.round(np.stack([carry, side], axis=2), 1).tolist()
    return [
        (_pattern(world, start[i], curve[i], carry[i], side[i]), [(c, s) for c, s in landings[i]])
        for i, world in enumerate(worlds)
    ]


def _pattern(
    world: dict[str, np.ndarray], start: np.ndarray, curve: np.ndarray, carry: np.ndarray, side: np.ndarray
) -> Pattern:
    strike = np.hypot(world["strike_toe_mm"], world["strike_high_mm"])
    return Pattern(
        path_deg=float(np.median(world["path_deg"])),
        face_to_path_deg=float(np.median(world["face_deg"] - world["path_deg"])),
        start_deg=float(np.median(start)),
        curve_m=float(np.median(curve)),
        carry_m=float(np.median(carry)),
        offline_m=float(np.sqrt(np.mean(np.clip(side, -FARTHEST_SIDE, FARTHEST_SIDE) ** 2))),
        poor_contact=float(np.mean(strike > MISHIT_AT)),
    )


def _remains(after: Pattern, block: Block) -> Message:
    """Return a sentence about what the coach would still see."""
    tolerance = block.golfer.skill.tolerance
    left = []
    if abs(after.path_deg) > tolerance["path_deg"]:
        left.append(
            Message(
                "correct-path-would-still",
                path_deg=abs(after.path_deg),
                side=_side(after.path_deg),
            )
        )
    gap = after.face_to_path_deg
    if abs(gap) > tolerance["face_deg"]:
        left.append(
            Message(
                "correct-face-would-path",
                gap=abs(gap),
                way=Message("common-open") if gap > 0 else Message("common-closed"),
            )
        )
    if not left:
        return Message("correct-path-face-would-close-enough")
    return Message("sentence", left=joined(left, "semicolon")).capital()


def _side(value: float) -> Message:
    return Message("in-to-out") if value > 0 else Message("out-to-in")

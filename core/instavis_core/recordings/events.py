"""The moments of a swing, from the curves or as set by a coach."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from instavis_core.errors import InputError
from instavis_core.knowledge import load_motion
from instavis_core.message import Message
from instavis_core.recordings.series import SwingSeries

# The curve that turns at the top, best first; pressure alone is the weakest.
TURNING = ("arm_turn_deg", "chest_turn_deg", "turn_deg")
MIN_TURN = {"arm_turn_deg": 40.0, "chest_turn_deg": 30.0, "turn_deg": 12.0}  # ° back and through; less is not a swing
MOVED = 0.04  # share of the backswing after which the swing has started
ADDRESS_BEFORE = 0.10  # s before that
CALM_SECONDS, CALM = 0.12, 0.04  # s, and the share of the backswing that a curve may move at address
TOP_SPREAD, IMPACT_SPREAD = 0.012, 0.012  # s, one SD where the curve shows the moment (simulated swings)
GUESS_SPREAD = 0.045  # s, where a moment is interpolated by usual tempo
PRESSURE_MOVED, PRESSURE_RESTS = 0.08, 0.02  # shares of the weight
# s around the top in which a curve without a pause stays within a share of its range (simulated swings)
NEAR = 0.05
NEAR_TOP = {
    "arm_turn_deg": (0.072, 0.094),
    "chest_turn_deg": (0.082, 0.077),
    "turn_deg": (0.072, 0.024),
    "lead_share": (0.136, -0.012),
}
MIN_REST = 0.12  # s: shortest pause at the top that is recognized


@dataclass(frozen=True)
class Moments:
    """The moments of a swing.

    ``at[moment]`` [s] for the eight moments, ``error`` [s, one SD] of each, and the moments that a coach has set.
    """

    at: dict[str, float]
    error: dict[str, float]
    set_by_hand: list[str]


def find_moments(swing: SwingSeries, marks: Mapping[str, float] | None = None) -> Moments:
    """Find the eight moments of a recorded swing.

    The curve that turns farthest (arms, chest, pelvis) gives the start and the top. Arms and chest give impact where
    they return to their address value. Moments that no curve shows are placed by usual tempo (``motion.toml``), with a
    larger error. The top is the end of the backswing; a golfer who pauses there starts down later.

    Parameters
    ----------
    swing : SwingSeries
    marks : mapping of float, optional
        Moments set by hand [s]; the others are found around them.

    Raises
    ------
    InputError
        When there is no swing in the recording, or marks are unknown, out of order or outside.
    """
    marks = _checked(swing, marks or {})
    leading = next((name for name in TURNING if name in swing.columns), None)
    found = _by_turning(swing, leading) if leading else _by_pressure(swing)
    rest = 0.0 if "top" in marks else _rest_at_the_top(swing, TURNING if leading else ("lead_share",), found)
    found |= {name: (t, 0.0) for name, t in marks.items()}
    _in_order({name: t for name, (t, _) in found.items()})
    at, error = _placed(found, rest)
    return Moments(at, error, [m for m in at if m in marks])


def marked(found: Moments, marks: Mapping[str, float], end: float) -> Moments:
    """Return an instrument's moments, replaced by those set by hand.

    Raises
    ------
    InputError
        When marks are unknown, out of order, or beyond the recording's ``end`` [s].
    """
    at = found.at | _known_marks(marks, end)
    _in_order(at)
    return Moments(at, found.error | dict.fromkeys(marks, 0.0), [m for m in at if m in marks])


def _checked(swing: SwingSeries, marks: Mapping[str, float]) -> dict[str, float]:
    _in_order(_known_marks(marks, float(swing.time[-1])))
    return dict(marks)


def _known_marks(marks: Mapping[str, float], end: float) -> dict[str, float]:
    moments = load_motion().moments
    for name, at in marks.items():
        if name not in moments:
            raise InputError(f"marks.{name}"[:60], at, Message("common-one", known=", ".join(moments)))
        if not 0 <= at <= end:
            raise InputError(f"marks.{name}", at, Message("recordings-time-0", end=end))
    return dict(marks)


def _in_order(at: Mapping[str, float]) -> None:
    names = [m for m in load_motion().moments if m in at]
    for first, then in zip(names, names[1:], strict=False):
        if at[first] >= at[then]:
            raise InputError(
                f"marks.{then}",
                round(at[then], 3),
                Message("recordings-time-after", moment=first, time=at[first]),
            )


def _rest_at_the_top(swing: SwingSeries, names: Sequence[str], found: dict[str, tuple[float, float]]) -> float:
    """Return how long the golfer pauses [s]; with a pause, top and transition in ``found`` are set to its two ends."""
    time, ends = swing.time, []
    for name in names:
        if name in swing.columns:
            away = swing.columns[name] - swing.columns[name].min()
            within = PRESSURE_RESTS if name == "lead_share" else NEAR * away[: int(away.argmin()) + 1].max()
            near = np.flatnonzero(away <= within)
            before, after = NEAR_TOP[name]
            ends.append((time[near[0]] + before, time[near[-1]] - after))
    reached, left = np.median(ends, axis=0).tolist()
    if left - reached < MIN_REST:
        return 0.0
    motion = load_motion()
    down = motion.seconds[motion.place("transition")] - motion.seconds[motion.place("top")]
    error = found["top"][1]
    found["top"], found["transition"] = (reached, error), (left + float(down), error)
    return float(left - reached)


def _by_turning(swing: SwingSeries, name: str) -> dict[str, tuple[float, float]]:
    """Start, top and (from arms or chest) impact, with errors."""
    values, time = swing.columns[name], swing.time
    window = max(3, int(CALM_SECONDS / (time[1] - time[0])))
    still = float(np.median(values[:window]))
    top = _top(values - still, name)
    still = _settled(values, top, window, still)
    back = still - values[top]
    # Arms rest at the top while the body already returns, so the middle one of all curves is used.
    rivals = [int(swing.columns[other].argmin()) for other in TURNING if other in swing.columns]
    turned = float(np.median(time[rivals]))
    began = np.flatnonzero(values[:top] > still - MOVED * back)
    start = time[began[-1]] if began.size else time[0]
    found = {"address": (max(0.0, float(start) - ADDRESS_BEFORE), 0.03), "top": (turned, TOP_SPREAD)}
    after = np.flatnonzero(values[top:] >= still)
    if not after.size:
        raise InputError("recording", name, Message("recordings-swing-through-ball-curve-never"))
    if name != "turn_deg":
        found["impact"] = (float(time[top + after[0]]), IMPACT_SPREAD)
    return found


def _settled(values: np.ndarray, top: int, window: int, still: float) -> float:
    """Return the level before the swing: the last calm stretch, so that a waggle is ignored."""
    back = still - values[top]
    halfway = int(np.flatnonzero(values[: top + 1] > still - back / 2)[-1])
    calm = [k for k in range(window, halfway + 1) if np.ptp(values[k - window : k]) < CALM * back]
    return float(np.median(values[calm[-1] - window : calm[-1]])) if calm else still


def _top(away: np.ndarray, name: str) -> int:
    """Return the lowest point that is followed by a full rise."""
    top = int(away.argmin())
    swing = min(-away[top], away[top:].max() - away[top])
    if swing < MIN_TURN[name]:
        raise InputError(
            "recording",
            name,
            Message(
                "recordings-swing-curve-turns-back-through",
                turn=MIN_TURN[name],
            ),
        )
    return top


def _by_pressure(swing: SwingSeries) -> dict[str, tuple[float, float]]:
    """Find the moments from pressure alone: trail-most just before the top, lead-most around impact."""
    lead, time = swing.columns.get("lead_share"), swing.time
    if lead is None:
        raise InputError("recording", ", ".join(swing.columns), Message("recordings-turn-pressure-nothing-here-shows"))
    low = int(lead.argmin())
    rise = lead[low:]
    if not low or rise.max() - lead[low] < 2 * PRESSURE_MOVED:
        raise InputError("recording", "lead_share", Message("recordings-swing-pressure-goes-back-lead"))
    still = float(np.median(lead[: max(3, low // 5)]))
    began = np.flatnonzero(lead[:low] > still - MOVED * (still - lead[low]))
    # Pressure keeps moving after impact: the steepest rise is a little before it.
    steepest = low + int(np.gradient(rise).argmax())
    seconds = load_motion().seconds
    span = (time[steepest] - time[low]) if steepest > low else 0.1
    impact = time[steepest] + 0.45 * span + 0.3 * (seconds[5] - seconds[3])
    return {
        "address": (float(time[began[-1]] if began.size else 0.0), 0.05),
        "top": (float(time[low + int(np.flatnonzero(rise < rise[0] + PRESSURE_RESTS)[-1])]), GUESS_SPREAD),
        "impact": (float(impact), GUESS_SPREAD),
    }


def _placed(found: Mapping[str, tuple[float, float]], rest: float) -> tuple[dict[str, float], dict[str, float]]:
    """Return all moments: found ones unchanged, the others by usual tempo without the pause."""
    motion = load_motion()
    known = [m for m in motion.moments if m in found]
    usual = motion.seconds[[motion.place(m) for m in known]]
    own = np.array([found[m][0] for m in known])
    tempo = (own[-1] - own[0] - rest) / (usual[-1] - usual[0])
    at, error = {}, {}
    for moment, seconds in zip(motion.moments, motion.seconds, strict=True):
        if moment in found:
            at[moment], error[moment] = found[moment]
            continue
        if seconds > usual[-1]:
            at[moment] = float(own[-1] + tempo * (seconds - usual[-1]))
        elif seconds < usual[0]:
            at[moment] = float(own[0] - tempo * (usual[0] - seconds))
        else:
            at[moment] = float(np.interp(seconds, usual, own))
        # Between two known moments tempo is more accurate than beyond them.
        inside = usual[0] < seconds < usual[-1]
        error[moment] = GUESS_SPREAD / 3 if inside and "impact" in found else GUESS_SPREAD
    return at, error

"""The swing of the arms as one camera sees it: what tells start, top and impact."""

from __future__ import annotations

import numpy as np

from instavis_core.camera.landmarks import PoseSeries
from instavis_core.errors import InputError
from instavis_core.message import Message

NEAR_TOP = {"face-on": 0.20, "down-the-line": 0.05}
"""Share of the way back within which the arms are about the top: its middle is what is found (sample bodies)."""
TOP_LATE = {"face-on": 0.001, "down-the-line": 0.022}
IMPACT_EARLY = {"face-on": 0.010, "down-the-line": 0.011}
TOP_SPREAD = {"face-on": 0.006, "down-the-line": 0.023}
IMPACT_SPREAD = {"face-on": 0.006, "down-the-line": 0.008}
"""s by which the arms show a moment late or early, and one SD of what is left (sample bodies)."""
LOW = 0.30  # share of the way up within which hands that are seen from behind are about impact
LEAST_RISE = 0.6  # arm lengths that hands go up from their lowest to the top, else there is no swing
FIRST_PEAK = 0.5  # of the highest: hands are at a top when they have come so far up


def arm_turn(series: PoseSeries) -> np.ndarray:
    """Turn of the arms (k,) [°]: 0 where they hang, − on the way back, + through; rough beyond the shoulders' height.

    From in front it is the angle of the hands about the middle of the shoulders. From behind the hands, where that
    angle does not show, it is how high they are, taken as negative until they come through the lowest place.
    """
    hands = series.place("lead_wrist", "trail_wrist") - series.place("lead_shoulder", "trail_shoulder")
    if series.view == "face-on":
        return np.degrees(np.unwrap(np.arctan2(hands[:, 0], -hands[:, 1])))
    reach = np.nanmax(np.hypot(*hands.T))
    height = hands[:, 1] / reach
    low = lowest(height)
    raised = np.degrees(np.arccos(np.clip(1 - (height - height[low]), -1, 1)))
    return np.where(np.arange(height.size) <= low, -raised, raised)


def lowest(height: np.ndarray) -> int:
    """The frame in which the hands come down through the ball: the lowest between the two times they are up."""
    floor, top = height.min(), height.max()
    if top - floor < LEAST_RISE:
        raise InputError("clip", round(float(top - floor), 2), Message("a swing: hands that go up, down and up again"))
    up = np.flatnonzero(height > floor + FIRST_PEAK * (top - floor))
    gaps = np.flatnonzero(np.diff(up) > 1)
    for gap in gaps:
        between = slice(up[gap] + 1, up[gap + 1])
        if height[between].min() < floor + FIRST_PEAK / 2 * (top - floor):
            return int(up[gap] + 1 + height[between].argmin())
    raise InputError("clip", "hands", Message("a swing: hands that go up, down and up again"))


def top_of(time: np.ndarray, arms: np.ndarray, impact: float, view: str) -> float:
    """When the arms are back [s]: the middle of the time they are near their farthest before impact."""
    before = time < impact
    back = arms[before]
    near = np.flatnonzero(back <= back.min() + NEAR_TOP[view] * (np.median(back[:5]) - back.min()))
    return float(time[near[0]] + time[near[-1]]) / 2 - TOP_LATE[view]


def impact_of(time: np.ndarray, arms: np.ndarray, crossed: float, view: str) -> float:
    """When the hands are back at the ball [s]; ``crossed`` is when the curve of the arms came back to its address.

    From behind, the middle of the time the hands are low: where they are lowest is too flat to tell.
    """
    if view == "face-on":
        return crossed + IMPACT_EARLY[view]
    height = 1 - np.cos(np.radians(arms))
    low = int(np.flatnonzero(arms <= 0)[-1])
    top = int(arms[: low + 1].argmin())
    level = LOW * height[top]
    down = top + int(np.flatnonzero(height[top:] <= level)[0])
    up = np.flatnonzero(height[low:] >= level)
    return float(time[down] + time[low + int(up[0]) if up.size else -1]) / 2 + IMPACT_EARLY[view]

"""The swing of the arms as one camera sees it: what tells start, top and impact."""

from __future__ import annotations

import numpy as np

from instavis_core.camera.landmarks import PoseSeries
from instavis_core.errors import InputError
from instavis_core.message import Message

NEAR_TOP = {"face-on": 0.20, "down-the-line": 0.05}
"""Share of the way back within which the arms are about the top: its middle is what is found (sample bodies)."""
TOP_LATE = {"face-on": 0.001, "down-the-line": 0.027}
IMPACT_EARLY = {"face-on": 0.010, "down-the-line": 0.042}
TOP_SPREAD = {"face-on": 0.006, "down-the-line": 0.012}
IMPACT_SPREAD = {"face-on": 0.006, "down-the-line": 0.012}
"""s by which the arms show a moment late or early, and one SD of what is left (sample bodies)."""
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

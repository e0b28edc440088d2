"""The swing of the arms as one camera sees it: start, top and impact."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import pairwise

import numpy as np

from instavis_core.camera.landmarks import PoseSeries
from instavis_core.errors import InputError
from instavis_core.message import Message

NEAR_TOP = 0.20
"""The hands are near the top within this share of the backswing; the middle of that time is the top."""
TOP_LATE = {"face-on": 0.001, "down-the-line": -0.003}
IMPACT_EARLY = {"face-on": 0.010, "down-the-line": 0.011}
TOP_SPREAD = {"face-on": 0.009, "down-the-line": 0.017}
IMPACT_SPREAD = {"face-on": 0.006, "down-the-line": 0.008}
"""How late or early the arms show a moment [s], and one SD of the remaining error (sample bodies)."""
LOW = 0.30  # share of the way up within which hands seen from behind are near impact
MIN_RISE = 0.6  # arm lengths between the lowest and highest hands; less is not a swing
RESTS = 0.05  # of the way up: hands this low are at rest
FIRST_PEAK = 0.5  # of the highest: hands this high are at a top


def arm_turn(series: PoseSeries) -> np.ndarray:
    """Turn of the arms (k,) [°]: 0 where they hang, − in the backswing, + in the follow-through; rough above shoulder
    height.

    From the front it is the angle of the hands about the middle of the shoulders. From behind the hands that angle does
    not show, so the height of the hands is used, negative until they pass the lowest point.
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
    """Return the frame where the hands come down through the ball: the lowest one between the two times they are up."""
    downs = _between_ups(height)
    if downs:
        return downs[0].start + int(height[downs[0]].argmin())
    result = Message("films-swing-hands-go-up-down")
    raise InputError("clip", round(float(np.ptp(height)), 2), result)


def last_swing(series: PoseSeries, before_s: float, after_s: float) -> PoseSeries:
    """Keep only the last swing of a clip that may start with other swings or rehearsals.

    Parameters
    ----------
    series : PoseSeries
        As it was found, with gaps.
    before_s, after_s : float
        What is kept around the moment the hands come down through the ball.

    Returns
    -------
    PoseSeries
        The same series if no swing is found.
    """
    hands = series.place("lead_wrist", "trail_wrist") - series.place("lead_shoulder", "trail_shoulder")
    there = np.flatnonzero(~np.isnan(hands[:, 1]))
    if there.size < 2:
        return series
    height = hands[there, 1] / np.hypot(*hands[there].T).max()
    downs = _between_ups(height)
    if not downs:
        return series
    through = downs[-1]
    low = series.times[there[through.start + height[through].argmin()]]
    begin = low - before_s
    if len(downs) > 1:  # hands that came down from another swing, and rested before this one
        rest = height[downs[-2]]
        down = downs[-2].start + int(np.flatnonzero(rest <= np.median(rest) + RESTS * np.ptp(height))[0])
        begin = max(begin, series.times[there[down]])
    return series.during((series.times >= begin) & (series.times <= low + after_s))


def _between_ups(height: np.ndarray) -> list[slice]:
    """Return the times when the hands are down between two times up."""
    floor, top = height.min(), height.max()
    if top - floor < MIN_RISE:
        return []
    up = np.flatnonzero(height > floor + FIRST_PEAK * (top - floor))
    found = []
    for begin, end in pairwise(up):
        between = height[begin + 1 : end]
        if between.size and between.min() < floor + FIRST_PEAK / 2 * (top - floor):
            found.append(slice(int(begin) + 1, int(end)))
    return found


def top_curves(series: PoseSeries, arms: np.ndarray) -> dict[str, np.ndarray]:
    """Return curves (k,) that are lowest at the top of the swing.

    They are the arm turn and, from behind, the horizontal distance of the hands from the ball, because their height
    barely changes there.
    """
    if series.view == "face-on":
        return {"arms": arms}
    hands = series.place("lead_wrist", "trail_wrist") - series.place("lead_shoulder", "trail_shoulder")
    return {"arms": arms, "out": hands[:, 0]}


def top_of(time: np.ndarray, curves: Iterable[np.ndarray], impact: float, view: str) -> float:
    """Return the time of the top [s]: the middle of the time when the hands are near their farthest point before
    impact.
    """
    before = time < impact
    middles = []
    for back in (curve[before] for curve in curves):
        near = np.flatnonzero(back <= back.min() + NEAR_TOP * (np.median(back[:5]) - back.min()))
        middles.append(float(time[near[0]] + time[near[-1]]) / 2)
    return sum(middles) / len(middles) - TOP_LATE[view]


def impact_of(time: np.ndarray, arms: np.ndarray, crossed: float, view: str) -> float:
    """Return when the hands are back at the ball [s].

    ``crossed`` is when the arm curve is back at its address value. From behind, it is the middle of the time the hands
    are low, because their lowest point is too flat to find.
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

"""Landmarks of one clip: where the golfer's joints are in the picture, frame by frame."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

import numpy as np

from instavis_core.errors import InputError
from instavis_core.message import Message

VIEWS = ("face-on", "down-the-line")
SIDED = ("ear", "shoulder", "elbow", "wrist", "hip", "knee", "ankle", "heel", "toe")
LANDMARKS = ("nose", *(f"{side}_{joint}" for joint in SIDED for side in ("lead", "trail")))
SLOWEST, FASTEST = 25.0, 250.0  # frames a second
SHORTEST, LONGEST = 0.8, 20.0  # s
MIN_SHARE_FOUND = 0.9  # share of frames between first and last in which a person must be found
LONGEST_GAP = 0.10  # s: longest gap that is bridged
MIN_VISIBLE = 0.3  # median visibility of hips, knees and ankles of the nearer side
WIDE = 0.4  # shoulder width over trunk length: more means a view from in front
EDGE = 0.02  # shares beyond which a joint is out of the picture


@dataclass(frozen=True, kw_only=True)
class PoseSeries:
    """Landmarks by frame.

    ``times`` (k,) [s] rise from 0. ``points[name]`` (k, 3) are shares of the picture to the right and down, and
    visibility from 0 to 1; NaN where no person was found. ``turns`` of pelvis and chest (k,) [°] are the network's
    guess, 0 along the picture and + when the lead side moves away from a camera in front; empty without a guess.
    ``sound_impact`` [s] is when the strike was heard; ``since`` [s] is the time of the first frame in the file.
    """

    view: str
    hand: str
    width: int
    height: int
    times: np.ndarray
    points: dict[str, np.ndarray]
    turns: dict[str, np.ndarray] = field(default_factory=dict)
    sound_impact: float | None = None
    since: float = 0.0

    @property
    def fps(self) -> float:
        """Frames per second, averaged over the clip."""
        return float((self.times.size - 1) / (self.times[-1] - self.times[0]))

    def place(self, *names: str) -> np.ndarray:
        """Center of landmarks (k, 2) in picture heights: toward the target or the ball line, and up.

        A picture is taken from the golfer's front or from behind the hands; for a right-hander, the target or the ball
        is to the right in it.
        """
        side = 1.0 if self.hand == "right" else -1.0
        middle = np.mean([self.points[name][:, :2] for name in names], axis=0)
        return middle * [side * self.width / self.height, -1.0]

    def during(self, frames: np.ndarray) -> PoseSeries:
        """Keep only some frames (k,); times start at 0 again."""
        begin = float(self.times[frames][0])
        return replace(
            self,
            times=self.times[frames] - begin,
            points={name: values[frames] for name, values in self.points.items()},
            turns={part: values[frames] for part, values in self.turns.items()},
            sound_impact=None if self.sound_impact is None else self.sound_impact - begin,
            since=self.since + begin,
        )

    def visible(self, *names: str) -> float:
        """Return the median visibility of landmarks."""
        return float(np.nanmedian([self.points[name][:, 2] for name in names]))


def checked(series: PoseSeries) -> PoseSeries:
    """Return the series without gaps, or raise the reason why it shows no readable swing.

    Raises
    ------
    InputError
        For too few frames a second, too short a clip, nobody or half a body in the picture, long gaps.
    """
    times = series.times
    if times.size < 2 or not SHORTEST <= times[-1] - times[0] <= LONGEST:
        length = round(float(times[-1] - times[0]), 2) if times.size else 0
        result = Message("films-seconds", shortest=SHORTEST, longest=LONGEST)
        raise InputError("clip", length, result)
    if not SLOWEST <= series.fps <= FASTEST:
        result = Message("films-least-frames-second", slowest=SLOWEST)
        raise InputError("clip", round(series.fps), result)
    found = ~np.isnan(series.points["nose"][:, 0])
    if found.mean() < MIN_SHARE_FOUND:
        result = Message("films-one-golfer-picture-address-finish")
        raise InputError("clip", Message("films-found-only-frames", n=int(found.sum()), all=found.size), result)
    gap, since = 0.0, times[0]
    for at, here in zip(times, found, strict=True):
        gap, since = (gap, at) if here else (max(gap, at - since), since)
    if gap > LONGEST_GAP:
        result = Message("films-golfer-visible-without-gap-ms", value=1000 * LONGEST_GAP)
        raise InputError("clip", Message("films-not-visible-ms", value=1000 * gap), result)
    _check_body_in_picture(series)
    return _bridged(series, found)


def view_of(series: PoseSeries) -> str:
    """Guess the view: from the front, the shoulders are wide compared with the trunk."""
    begin = slice(0, max(3, series.times.size // 8))
    shoulders = series.place("lead_shoulder") - series.place("trail_shoulder")
    trunk = series.place("lead_shoulder", "trail_shoulder") - series.place("lead_hip", "trail_hip")
    wide = np.nanmedian(np.abs(shoulders[begin, 0])) / np.nanmedian(np.hypot(*trunk[begin].T))
    return VIEWS[0] if wide > WIDE else VIEWS[1]


def _check_body_in_picture(series: PoseSeries) -> None:
    upright = np.nanmedian(series.place("nose")[:, 1]) - np.nanmedian(series.place("lead_ankle", "trail_ankle")[:, 1])
    if upright < 0:
        raise InputError("clip", Message("films-upside-down"), Message("films-upright-picture-turn-clip"))
    needed = ("nose", "hip", "knee", "ankle")
    for joint in needed:
        names = [name for name in LANDMARKS if name.endswith(joint)]
        points = np.array([np.nanmedian(series.points[name], axis=0) for name in names])
        outside = ((points[:, :2] < EDGE) | (points[:, :2] > 1 - EDGE)).any()
        if outside or points[:, 2].max() < MIN_VISIBLE:
            result = Message("films-whole-body-picture-room-around")
            raise InputError("clip", Message("films-not-visible", joint=joint), result)


def _bridged(series: PoseSeries, found: np.ndarray) -> PoseSeries:
    points = {
        name: np.column_stack([np.interp(series.times, series.times[found], column[found]) for column in values.T])
        for name, values in series.points.items()
    }
    turns = {part: _unwound(series.times, values, found) for part, values in series.turns.items()}
    return replace(series, points=points, turns=turns)


def _unwound(times: np.ndarray, degrees: np.ndarray, found: np.ndarray) -> np.ndarray:
    return np.interp(times, times[found], np.degrees(np.unwrap(np.radians(degrees[found]))))

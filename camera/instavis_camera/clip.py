"""Landmarks of a whole clip."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np

from instavis_camera.decoder import decode
from instavis_camera.follow import LEFT, Follower, Found
from instavis_camera.model import LANDMARK_SHA, NAME, VERSION, Networks
from instavis_camera.video import SOUND_RATE
from instavis_core.camera import VIEWS, PoseSeries, last_swing, strike_heard, view_of
from instavis_core.errors import InputError
from instavis_core.message import Message

MODEL = {"name": NAME, "version": VERSION, "sha256": LANDMARK_SHA}
LATEST = 5.0  # s: longest delay of a monitor
BEFORE, AFTER = 2.2, 1.0  # s of a swing before and after the strike
ALIKE = 0.8  # a second person of this size may be the golfer


def landmarks_of(
    path: Path,
    view: str | None,
    hand: str,
    networks: Networks,
    report: Callable[[float], None] = lambda seconds: None,
    about: float | None = None,
) -> PoseSeries:
    """Follow the golfer through a clip.

    Parameters
    ----------
    path : Path
        A video file.
    view : {"face-on", "down-the-line"}, optional
        Side it was taken from; guessed from the picture if empty.
    hand : {"right", "left"}
        The golfer's, to tell lead from trail.
    networks : Networks
    report : callable
        Called with the seconds of the clip that have been looked at.
    about : float, optional
        When a monitor reported the ball [s of the clip]: only the swing before it is measured.

    Raises
    ------
    InputError
        When it is no video, or nobody is in it.
    """
    clip = decode(path)
    heard = strike_heard(clip.sound, SOUND_RATE, clip.sound_from)
    begin, end = looked_at(about, heard)
    follower = Follower(networks)
    times: list[float] = []
    found: list[Found | None] = []
    for frame in clip.frames():
        if frame.time < begin:
            continue
        if frame.time > end:
            break
        times.append(frame.time)
        found.append(follower.find(frame.picture))
        if follower.others > ALIKE:
            refusal = Message("films-one-golfer-picture-other-one")
            raise InputError("clip", Message("films-two-people"), refusal)
        report(frame.time)
    if not any(found):
        raise InputError("clip", Message("films-no-golfer-found"), Message("films-one-golfer-picture"))
    series = PoseSeries(
        view=view or VIEWS[0],
        hand=hand,
        width=clip.width,
        height=clip.height,
        times=np.array(times) - times[0],
        points=_named(found, hand),
        turns={part: _turn(found, LEFT[joint], hand) for part, joint in (("pelvis", "hip"), ("chest", "shoulder"))},
        sound_impact=None if heard is None else heard - times[0],
        since=times[0],
    )
    if about is not None and heard is None:  # a golfer who rehearses swings more than once
        series = last_swing(series, BEFORE, AFTER)
    return series if view else replace(series, view=view_of(series))


def looked_at(about: float | None, heard: float | None) -> tuple[float, float]:
    """Return the part of a clip to measure [s].

    Parameters
    ----------
    about : float or None
        When a monitor reported the ball; without it the whole clip is measured.
    heard : float or None
        When a strike was heard.
    """
    if about is None:
        return 0.0, np.inf
    if heard is not None and about - LATEST < heard <= about:
        return heard - BEFORE, heard + AFTER
    return about - LATEST, about + AFTER


def _turn(found: list[Found | None], place: int, hand: str) -> np.ndarray:
    """Return the network's estimate of the direction of the line from trail to lead side [°]: 0 along the picture, +
    when the lead side points away from the camera.
    """
    nobody = np.full((33, 3), np.nan)
    table = np.array([nobody if one is None else one.body for one in found])
    across = table[:, place] - table[:, place + 1]
    if hand == "left":
        across *= (1.0, 1.0, -1.0)
    return np.degrees(np.arctan2(across[:, 2], across[:, 0]))


def _named(found: list[Found | None], hand: str) -> dict[str, np.ndarray]:
    nobody = np.full((33, 3), np.nan)
    table = np.array([nobody if one is None else one.points for one in found])
    lead = 0 if hand == "right" else 1
    points = {"nose": table[:, 0]}
    for joint, place in LEFT.items():
        points[f"lead_{joint}"], points[f"trail_{joint}"] = table[:, place + lead], table[:, place + 1 - lead]
    return points

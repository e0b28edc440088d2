"""The figure through a whole swing with given answers of checks, one picture per frame."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from instavis_core.figure.pose import Pose, pose_at
from instavis_core.figure.skeleton import stand
from instavis_core.figure.strokes import Ink, Segment, Sheet, Stroke, ball, body, ground, shaft, stroke
from instavis_core.figure.views import View, project
from instavis_core.knowledge.figure import Picture
from instavis_core.knowledge.motion import load_motion

STILL_BEFORE, STILL_AFTER = 0.5, 0.3  # s
FRAMES_A_SECOND = 40
FULL_SHEET: Sheet = (-1.15, -0.08, 1.15, 2.45)  # room for the club overhead [m]
FADES = (1.0, 0.5, 0.0)  # share of an answer that remains at its moment, one and two moments away


@dataclass(frozen=True, kw_only=True)
class Shown:
    """An answer of a check in a swing, and its amount."""

    picture: Picture
    grade: str
    amount: float


@dataclass(frozen=True, kw_only=True)
class MovingFigure:
    """``frames`` of strokes on the ``sheet``, ``seconds`` [s] apart, seen from ``view``."""

    view: str
    seconds: float
    sheet: Sheet
    frames: tuple[tuple[Stroke, ...], ...]


def moving_figure(shown: Iterable[Shown], view: View, tempo: float = 1.0) -> MovingFigure:
    """Draw a swing.

    Parameters
    ----------
    shown : iterable of Shown
        What is not sound in it.
    view : View
        From where, and which hand.
    tempo : float
        Of the sound swing's length.
    """
    moments, struck, poses = _moving(shown, tempo)
    teed = ball(project(stand(poses[0], grounded=True), view))
    frames = []
    for at, pose in zip(moments, poses, strict=True):
        figure = project(stand(pose, grounded=bool(at <= STILL_BEFORE)), view)
        club = shaft(figure)
        there = teed if at < struck else []
        frames.append((ground(), _rounded(club), *map(_rounded, (*body(figure, Ink.BODY), *there))))
    return MovingFigure(view=view.name, seconds=1 / FRAMES_A_SECOND, sheet=FULL_SHEET, frames=tuple(frames))


def _moving(shown: Iterable[Shown], tempo: float) -> tuple[np.ndarray, float, list[Pose]]:
    """Return the smooth pose through the moments: frame times [s], impact [s], one pose per frame."""
    from scipy.interpolate import PchipInterpolator  # slow to import, needed only for practice

    motion = load_motion()
    poses: list[Pose] = [pose_at(moment) for moment in motion.moments]
    for one in shown:
        place = motion.moments.index(one.picture.at)
        for i, pose in enumerate(poses):
            away = abs(i - place)
            # The address posture stays visible through the swing.
            share = one.amount if place == 0 else one.amount * (FADES[away] if away < len(FADES) else 0.0)
            for name, value in one.picture.grades.get(one.grade, {}).items():
                pose[name] += share * value
    knots = STILL_BEFORE + tempo * np.array(motion.seconds)
    times = np.concatenate([[0.0], knots, [knots[-1] + STILL_AFTER]])
    held = [poses[0], *poses, poses[-1]]
    names = list(poses[0])
    frames = np.arange(times[0], times[-1], 1 / FRAMES_A_SECOND)
    curves = PchipInterpolator(times, [[pose[name] for name in names] for pose in held])(frames)
    struck = float(knots[motion.moments.index("impact")])
    return frames, struck, [dict(zip(names, row, strict=True)) for row in curves.tolist()]


def _rounded(drawn: Stroke) -> Stroke:
    """Round to millimeters: a swing has a hundred pictures."""
    lines: list[Segment] = [((round(a, 3), round(b, 3)), (round(c, 3), round(d, 3))) for (a, b), (c, d) in drawn.lines]
    return stroke(drawn.ink, lines, drawn.width)

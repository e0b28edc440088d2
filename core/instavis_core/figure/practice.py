"""Made-up swings to practise the eye on: the figure at full speed, with one grade of a look in it and, often, something
else beside.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.errors import InputError
from instavis_core.figure.pose import Pose, pose_at
from instavis_core.figure.skeleton import stand
from instavis_core.figure.strokes import Ink, Segment, Sheet, Stroke, ball, body, ground, shaft, stroke
from instavis_core.figure.views import View, project
from instavis_core.knowledge.figure import Picture, load_figure
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.knowledge.motion import load_motion
from instavis_core.message import Message

SWINGS = 10
SOUND_SHARE = 0.5  # of the swings in which the look is sound
AMOUNT = (0.6, 1.3)  # how much of a grade as it is drawn a swing shows
BESIDE_SHARE, BESIDE_AMOUNT = 0.6, (0.3, 0.8)  # another look's grade beside it, and how much of that
TEMPO_SPREAD = 0.06  # log SD
STILL_BEFORE, STILL_AFTER = 0.5, 0.3  # s
FRAMES_A_SECOND = 40
WHOLE: Sheet = (-1.15, -0.08, 1.15, 2.45)  # room for the club overhead [m]
FADES = (1.0, 0.5, 0.0)  # how much of a grade is left at its moment, one and two moments away


@dataclass(frozen=True, kw_only=True)
class PracticeSwing:
    """``frames`` of strokes on the ``sheet``, ``seconds`` [s] apart; ``grade``, one of ``grades``, is in it."""

    look: str
    view: str
    grade: str
    grades: tuple[str, ...]
    seconds: float
    sheet: Sheet
    frames: tuple[tuple[Stroke, ...], ...]


@dataclass(frozen=True, kw_only=True)
class Planned:
    """What is in a swing before it is drawn: ``grade``, one of ``grades``, and what of the tables is ``shown``."""

    picture: Picture
    grade: str
    grades: tuple[str, ...]
    shown: tuple[tuple[Picture, str, float], ...]
    tempo: float


def planned_swing(look: str, seed: int, number: int) -> Planned:
    """Decide what is in one swing of a series.

    Parameters
    ----------
    look : str
        Id of the look.
    seed : int
        Of the series: the same series comes back by the same seed.
    number : int
        Of the swing in its series, from 0 below `SWINGS`.

    Raises
    ------
    InputError
        For an unknown look, or a number beyond the series.
    """
    table = load_figure().looks
    if look not in table:
        raise InputError("look", look, Message("one of the looks: {known}", known=", ".join(table)))
    if not 0 <= number < SWINGS:
        raise InputError("number", number, Message("0 to {last}", last=SWINGS - 1))
    rng = np.random.default_rng([seed, number, list(table).index(look)])
    picture, grades = table[look], shipped_knowledge().checks[look].grades
    grade = grades[0] if rng.random() < SOUND_SHARE else str(rng.choice(grades[1:]))
    shown = [(picture, grade, rng.uniform(*AMOUNT))]
    if rng.random() < BESIDE_SHARE:
        shown += _beside(rng, picture, table)
    tempo = float(np.exp(rng.normal(0, TEMPO_SPREAD)))
    return Planned(picture=picture, grade=grade, grades=tuple(grades), shown=tuple(shown), tempo=tempo)


def practice_swing(look: str, seed: int, number: int, hand: str = "right") -> PracticeSwing:
    """Draw one swing of a series.

    Parameters
    ----------
    look, seed, number
        As for `planned_swing`.
    hand : {"right", "left"}

    Raises
    ------
    InputError
        For an unknown look, or a number beyond the series.
    """
    planned = planned_swing(look, seed, number)
    moments, struck, poses = _moving(planned.shown, planned.tempo)
    view = View(planned.picture.view, hand)
    begun = STILL_BEFORE
    frames = []
    teed = ball(project(stand(poses[0], grounded=True), view))
    for at, pose in zip(moments, poses, strict=True):
        figure = project(stand(pose, grounded=bool(at <= begun)), view)
        club = shaft(figure)
        there = teed if at < struck else []
        frames.append((ground(), _rounded(club), *map(_rounded, (*body(figure, Ink.BODY), *there))))
    return PracticeSwing(
        look=look,
        view=view.name,
        grade=planned.grade,
        grades=planned.grades,
        seconds=1 / FRAMES_A_SECOND,
        sheet=WHOLE,
        frames=tuple(frames),
    )


def _beside(rng: np.random.Generator, picture: Picture, table: dict[str, Picture]) -> list[tuple[Picture, str, float]]:
    """A fault of another look that moves nothing of what this one is about."""
    own = {name for adds in picture.grades.values() for name in adds}
    others = [
        (other, grade)
        for other in table.values()
        for grade, adds in other.grades.items()
        if adds and not own & set(adds)
    ]
    other, grade = others[int(rng.integers(len(others)))]
    return [(other, grade, rng.uniform(*BESIDE_AMOUNT))]


def _moving(shown: tuple[tuple[Picture, str, float], ...], tempo: float) -> tuple[np.ndarray, float, list[Pose]]:
    """The pose through the moments, with what is shown, smooth: times of the frames [s], impact [s], a pose a frame."""
    from scipy.interpolate import PchipInterpolator  # long to load, for the few who practise

    motion = load_motion()
    poses: list[Pose] = [pose_at(moment) for moment in motion.moments]
    for picture, grade, much in shown:
        place = motion.moments.index(picture.at)
        for i, pose in enumerate(poses):
            away = abs(i - place)
            # How somebody stands at address is there all the swing long.
            share = much if place == 0 else much * (FADES[away] if away < len(FADES) else 0.0)
            for name, value in picture.grades.get(grade, {}).items():
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
    """To the millimetre: a swing is a hundred pictures."""
    lines: list[Segment] = [((round(a, 3), round(b, 3)), (round(c, 3), round(d, 3))) for (a, b), (c, d) in drawn.lines]
    return stroke(drawn.ink, lines, drawn.width)

"""Read films: which exist for a student, what a screen needs, and two swings side by side."""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import date
from typing import Any, BinaryIO

import numpy as np
from django.db.models import QuerySet

from instavis.accounts.models import Coach, Student
from instavis.assessment.films.models import Film, Pair
from instavis.assessment.recordings.models import Recording
from instavis.assessment.recordings.services import moments_in, swing_of
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import open_to
from instavis.platform.errors import not_found
from instavis.platform.file_storage import FILMS
from instavis_core.camera import LANDMARKS, Lines, PoseSeries, checked, lines_of
from instavis_core.errors import InputError
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message
from instavis_core.recordings import Difference, Moments, SwingSeries, differences
from instavis_io.poses import read_pose
from instavis_report import beside_lines

MAX_LISTED = 400
SIDES = ("before", "now")


@dataclass(frozen=True, kw_only=True)
class FilmRow:
    """A film in a list: ``id`` is its recording's, ``purpose`` its ball's block, empty without a ball."""

    id: int
    lesson_id: int
    day: date
    ball: int | None
    purpose: str
    movement: str
    view: str
    name: str


@dataclass(frozen=True, kw_only=True)
class FilmRead:
    """A film for a screen: for every frame its time [s], the size of its picture [bytes], and the landmarks (shares of
    the picture to the right and down); moments [s], and lines from address.
    """

    id: int
    view: str
    hand: str
    width: int
    height: int
    times: list[float]
    sizes: list[int]
    moments: dict[str, float]
    landmarks: dict[str, list[list[float]]]
    lines: Lines


@dataclass(frozen=True, kw_only=True)
class PairRead:
    """Two stills of one moment and sentences on what differs; days and balls say which swings they are."""

    view: str
    hand: str
    moment: str
    moment_name: Message
    before_day: date
    before_ball: int | None
    now_day: date
    now_ball: int | None
    lines: list[Message]


def film_of(coach: Coach, recording_id: int) -> Film:
    """Return the film of a recording of the academy."""
    found = Film.objects.filter(open_to(coach, "recording__lesson"), recording_id=recording_id)
    film = found.select_related("recording__lesson__student").first()
    if film is None:
        raise not_found("film")
    return film


def is_filmed(student: Student) -> bool:
    """Return True if there is a film of a student."""
    return _with_film(student).exists()


def _with_film(student: Student) -> QuerySet[Recording]:
    """Return films of recordings that were not discarded."""
    return Recording.objects.filter(lesson__student=student, dropped_at__isnull=True, film__isnull=False)


def films_of(student: Student) -> list[FilmRow]:
    """Return the films of a student, newest first, without discarded ones."""
    rows = (
        _with_film(student)
        .select_related("lesson__academy", "shot__block")
        .defer("columns")
        .order_by("-lesson__started_at", "-shot__number", "-id")
    )
    return [
        FilmRow(
            id=r.pk,
            lesson_id=r.lesson_id,
            day=r.lesson.day,
            ball=r.shot.number if r.shot else None,
            purpose=r.shot.purpose if r.shot else "",
            movement=r.shot.movement if r.shot else "",
            view=r.view,
            name=r.name,
        )
        for r in rows[:MAX_LISTED]
    ]


def read_film(film: Film) -> FilmRead:
    """Return what a screen needs to show a film."""
    recording = film.recording
    series, moments = checked(_pose(film)), _swing(recording)[1]
    frames = np.searchsorted(series.times, np.array(film.times) - 1e-3).clip(0, series.times.size - 1)
    places = {name: series.points[name][frames, :2].round(4).tolist() for name in LANDMARKS}
    return FilmRead(
        id=recording.pk,
        view=recording.view,
        hand=series.hand,
        width=film.width,
        height=film.height,
        times=film.times,
        sizes=film.sizes,
        moments=moments.at,
        landmarks=places,
        lines=lines_of(series, moments),
    )


def pictures_of(film: Film) -> bytes:
    """Return all its pictures, concatenated."""
    with _opened(film.key) as stored:
        return stored.read()


def pose_of(film: Film) -> dict[str, Any]:
    """Return its landmarks, ``instavis.pose/1``."""
    with _opened(film.pose_key) as stored:
        record: dict[str, Any] = json.load(stored)
    return record


def still_at(recording: Recording, moment: str) -> bytes:
    """Return the picture of a film nearest to a moment.

    Raises
    ------
    InputError
        For a moment that the swing does not have.
    Refused
        When the film is not kept any more.
    """
    film = Film.objects.filter(recording=recording).first()
    if film is None:
        raise not_found("film")
    moments = _swing(recording)[1]
    if moment not in moments.at:
        raise InputError("moment", moment, Message("common-one", known=", ".join(moments.at)))
    place = int(np.abs(np.array(film.times) - moments.at[moment]).argmin())
    with _opened(film.key) as stored:
        stored.seek(sum(film.sizes[:place]))
        return stored.read(film.sizes[place])


def beside(before: Recording, now: Recording) -> list[Difference]:
    """Return the differences of two swings, moment by moment.

    Raises
    ------
    InputError
        For swings of two people.
    """
    if before.lesson.student_id != now.lesson.student_id:
        raise InputError("now", now.pk, Message("check-swing-same-student"))
    return differences(_swing(before), _swing(now))


def pair_of(lesson: Lesson) -> PairRead | None:
    """Return the pair on the take-home page."""
    chosen = _chosen(lesson)
    if chosen is None:
        return None
    before, now = chosen.before, chosen.now
    return PairRead(
        view=now.view,
        hand=now.lesson.hand,
        moment=chosen.moment,
        moment_name=vocabulary().words["moment"][chosen.moment],
        before_day=before.lesson.day,
        before_ball=before.shot.number if before.shot else None,
        now_day=now.lesson.day,
        now_ball=now.shot.number if now.shot else None,
        lines=beside_lines([d for d in beside(before, now) if d.at == chosen.moment]),
    )


def pair_image(lesson: Lesson, side: str) -> bytes:
    """Return one picture of the pair: ``before`` or ``now``."""
    chosen = _chosen(lesson)
    if chosen is None or side not in SIDES:
        raise not_found("picture")
    return bytes(chosen.before_image if side == "before" else chosen.now_image)


def _opened(key: str) -> BinaryIO:
    """Return the bytes of a film; missing ones are treated like a missing row."""
    try:
        return FILMS.open(key)
    except FileNotFoundError as error:
        raise not_found("film") from error


def _chosen(lesson: Lesson) -> Pair | None:
    related = ("before__lesson__academy", "before__shot", "now__lesson__academy", "now__shot")
    return Pair.objects.filter(lesson=lesson).select_related(*related).first()


def _pose(film: Film) -> PoseSeries:
    return read_pose(pose_of(film))


def _swing(recording: Recording) -> tuple[SwingSeries, Moments]:
    swing = swing_of(recording)
    return swing, moments_in(recording, swing, recording.marks)

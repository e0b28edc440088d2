"""Store films as long as the academy wants, and the pair for the take-home page."""

from __future__ import annotations

import json
from collections.abc import Iterable
from datetime import datetime, timedelta
from functools import partial
from typing import TYPE_CHECKING, Any

from django.db import transaction

from instavis.accounts.models import Academy
from instavis.accounts.people import note_by_itself
from instavis.accounts.services import require_filming
from instavis.assessment.films.models import Film, Pair
from instavis.assessment.films.selectors import still_at
from instavis.assessment.recordings.models import Recording
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import Lesson
from instavis.platform.file_storage import FILMS
from instavis.platform.transactions import transactional
from instavis_core.errors import InputError
from instavis_core.message import Message

if TYPE_CHECKING:
    from instavis_camera.film import Film as Pictures

FIRST, NEWEST = 10, 40
"""Films of a lesson that are kept: the first ones, for comparison, and the newest."""


class NewFilm:
    """A film whose bytes are stored but whose row is not yet: saved with its recording, or deleted."""

    def __init__(self, pictures: Pictures, pose: dict[str, Any]) -> None:
        self._pictures = pictures
        self._key, _ = FILMS.keep(pictures.pictures)
        self._pose_key, _ = FILMS.keep([json.dumps(pose, separators=(",", ":")).encode()])

    def keep(self, recording: Recording) -> Film:
        """Attach the film to its recording; the recording's lesson is locked.

        Raises
        ------
        Refused
            When the student has not agreed to be filmed, or does not any more.
        """
        require_filming(recording.lesson.student_id)
        film = Film.objects.create(
            recording=recording,
            key=self._key,
            pose_key=self._pose_key,
            width=self._pictures.width,
            height=self._pictures.height,
            times=self._pictures.times,
            sizes=[len(picture) for picture in self._pictures.pictures],
            kept_at=recording.received_at,
        )
        _thin(recording.lesson)
        return film

    def drop(self) -> None:
        """Delete the bytes."""
        FILMS.drop(self._key)
        FILMS.drop(self._pose_key)


def films_wanted(lesson: Lesson) -> bool:
    """Return True if the academy stores films."""
    return lesson.academy.keep_films_days > 0


def forget_films(films: Iterable[Film]) -> int:
    """Delete films and their bytes; return how many."""
    count = 0
    for film in films:
        film.delete()
        transaction.on_commit(partial(_drop_bytes, film))
        count += 1
    return count


def drop_old_films(now: datetime) -> int:
    """Delete films older than the academy's limit, and pairs older than its limit for pictures.

    Measurements stay. Return how many.
    """
    gone = 0
    for academy in Academy.objects.all():
        days = academy.keep_films_days
        old = Film.objects.filter(recording__lesson__academy=academy, kept_at__lte=now - timedelta(days=days))
        count = forget_films(old)
        if count:
            note_by_itself(academy.pk, Message("activity-films-deleted", count=count, days=days), now)
        if academy.keep_pictures_days is not None:
            limit = now - timedelta(days=academy.keep_pictures_days)
            pairs, _ = Pair.objects.filter(lesson__academy=academy, chosen_at__lt=limit).delete()
            count += pairs
        gone += count
    return gone


@transactional
def choose_pair(lesson: Lesson, before: Recording, now: Recording, moment: str, when: datetime) -> Pair:
    """Put one moment of two swings on the take-home page, replacing another pair.

    Raises
    ------
    InputError
        For swings of another student, from different sides, or a moment they do not have.
    """
    locked = locked_lesson(lesson.pk)
    for field, recording in (("before", before), ("now", now)):
        if recording.lesson.student_id != locked.student_id:
            raise InputError(field, recording.pk, Message("check-swing-lessons-student"))
    if before.view != now.view:
        raise InputError("now", now.view, Message("check-film-same-side", view=before.view))
    images = {"before_image": still_at(before, moment), "now_image": still_at(now, moment)}
    result = {"before": before, "now": now, "moment": moment, "chosen_at": when, **images}
    pair, _ = Pair.objects.update_or_create(lesson=locked, defaults=result)
    log_change(locked, Aspect.TAKE_HOME)
    return pair


@transactional
def drop_pair(lesson: Lesson) -> None:
    """Remove the pair from the take-home page."""
    locked = locked_lesson(lesson.pk)
    Pair.objects.filter(lesson=locked).delete()
    log_change(locked, Aspect.TAKE_HOME)


def _drop_bytes(film: Film) -> None:
    FILMS.drop(film.key)
    FILMS.drop(film.pose_key)


def _thin(lesson: Lesson) -> None:
    """Delete pictures between the first and the newest films of a long lesson; measurements stay."""
    films = list(Film.objects.filter(recording__lesson=lesson).order_by("pk"))
    forget_films(films[FIRST:-NEWEST])

"""Receive clips and have a worker measure them; the measurement is stored as a recording, the swing as a film."""

from __future__ import annotations

import functools
import shutil
import tempfile
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path
from typing import TYPE_CHECKING, Any

from django.db.models import Q

from instavis.accounts.models import Coach, Student
from instavis.accounts.people import note
from instavis.accounts.services import change_filming, require_filming
from instavis.assessment.clips.models import Clip
from instavis.assessment.films.models import Film, Pair
from instavis.assessment.films.services import NewFilm, films_wanted, forget_films
from instavis.assessment.recordings.models import Recording
from instavis.assessment.recordings.services import keep_measured
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import Lesson
from instavis.platform.errors import Refused, not_found, problem_of
from instavis.platform.file_storage import CLIPS
from instavis.platform.transactions import transactional
from instavis.work import services as works
from instavis.work.models import Work
from instavis.work.services import Cancelled, Step, WorkFailed
from instavis_core.camera import VIEWS, CameraBody, body_of
from instavis_core.errors import InputError
from instavis_core.message import Message, stored
from instavis_io.poses import pose_record

if TYPE_CHECKING:
    from instavis_camera.model import Networks

CLIP = "clip"
MAX_WAITING = 40
KEEP_FOR = timedelta(days=7)


def keep_clip(
    lesson: Lesson,
    coach: Coach,
    name: str,
    view: str,
    ball: int | None,
    chunks: Iterable[bytes],
    now: datetime,
    about: float | None = None,
) -> Clip:
    """Store a clip and have a worker measure it; ``about`` is when the ball arrived [s of the clip].

    Raises
    ------
    InputError
        For an unknown view.
    Refused
        For a ball the lesson does not have, for a student who has not agreed to be filmed, or when too many wait.
    """
    require_filming(lesson.student_id)
    if view and view not in VIEWS:
        raise InputError("view", view, Message("common-one", known=", ".join(VIEWS)))
    shot = None
    if ball is not None:
        shot = lesson.shots.filter(number=ball).first()
        if shot is None:
            raise not_found("ball-of-a-lesson")
    key, _ = CLIPS.keep(chunks)
    result = {"name": name[:120], "view": view, "shot": shot, "key": key, "about": about, "added_at": now}
    try:
        return _ask(lesson, coach, result)
    except BaseException:
        CLIPS.drop(key)
        raise


@transactional
def _ask(lesson: Lesson, coach: Coach, values: dict[str, Any]) -> Clip:
    locked = locked_lesson(lesson.pk)
    require_filming(locked.student_id)  # they may have withdrawn while the bytes arrived
    if locked.clips.filter(problem={}).count() >= MAX_WAITING:
        raise Refused(
            409,
            "clips",
            Message("check-clips-already-waiting-measured-try", most=MAX_WAITING),
        )
    clip = Clip.objects.create(lesson=locked, **values)
    clip.work = works.ask(CLIP, locked.academy, coach, {"clip": clip.pk}, values["added_at"])
    clip.save(update_fields=["work"])
    log_change(locked, Aspect.RECORDINGS)
    return clip


def drop_clip(clip: Clip) -> None:
    """Delete a clip, measured or not; a worker that measures it discards the result."""
    forget_clip(clip)
    _say(clip.lesson_id)


def forget_clip(clip: Clip) -> None:
    """Delete a clip and its bytes."""
    if clip.work is not None:
        works.cancel(clip.work)
    CLIPS.drop(clip.key)
    clip.delete()


@dataclass(frozen=True)
class FilmCount:
    """What a withdrawal deletes: films, unmeasured clips, and pairs of pictures on take-home pages."""

    films: int
    clips: int
    pairs: int

    @property
    def total(self) -> int:
        """Return how many items will be deleted."""
        return self.films + self.clips + self.pairs


def count_films(student: Student) -> FilmCount:
    """Count everything that shows a student."""
    lessons = student.lessons.all()
    return FilmCount(
        films=Film.objects.filter(recording__lesson__in=lessons).count(),
        clips=Clip.objects.filter(lesson__in=lessons).count(),
        pairs=Pair.objects.filter(lesson__in=lessons).count(),
    )


@transactional
def withdraw_filming(coach: Coach, student: Student, confirmed: bool, now: datetime) -> Student:
    """Withdraw a student's agreement to be filmed and delete every film of them; measurements stay.

    Raises
    ------
    Refused
        409 with how much would be deleted, when there is something and nobody confirmed it.
    """
    counted = count_films(student)
    if counted.total and not confirmed:
        message = Message(
            "check-withdrawing-deletes-every-picture-student",
            **vars(counted),
        )
        raise Refused(409, "films", message)
    student = change_filming(student, False, now)
    lessons = list(student.lessons.order_by("pk").values_list("pk", flat=True))
    seen = Lesson.objects.filter(pk__in=lessons).filter(
        Q(recordings__film__isnull=False) | Q(clips__isnull=False) | Q(pair__isnull=False)
    )
    touched = [locked_lesson(pk) for pk in sorted(set(seen.values_list("pk", flat=True)))]
    for clip in Clip.objects.filter(lesson__in=lessons).select_related("work"):
        forget_clip(clip)
    forget_films(Film.objects.filter(recording__lesson__in=lessons))
    Pair.objects.filter(lesson__in=lessons).delete()
    for lesson in touched:
        log_change(lesson, Aspect.RECORDINGS)
        log_change(lesson, Aspect.TAKE_HOME)
    if counted.total:
        note(coach, Message("activity-films-withdrawn", count=counted.films, student=student.pk), now)
    return student


def drop_old_clips(now: datetime) -> int:
    """Delete clips that could not be measured, or waited for a week; return how many."""
    old = list(Clip.objects.filter(added_at__lt=now - KEEP_FOR).select_related("work"))
    for clip in old:
        forget_clip(clip)
    return len(old)


@works.does(CLIP, works.FILMS)
def measure_clip(work: Work, step: Step) -> dict[str, Any]:
    """Measure a clip: store what the body did and the pictures of the swing, then delete the clip.

    Raises
    ------
    WorkFailed
        When it cannot be measured: the clip keeps the reason.
    Cancelled
        When it was deleted meanwhile.
    """
    clip = Clip.objects.select_related("lesson__student", "shot", "work").filter(pk=work.arguments["clip"]).first()
    if clip is None:
        raise Cancelled
    # Only a worker needs the networks: every web process would load them too.
    from instavis_camera.clip import MODEL, landmarks_of
    from instavis_camera.film import film_of

    try:
        # A file without a name: a killed worker leaves no film behind.
        with tempfile.TemporaryFile() as copy:
            with CLIPS.open(clip.key) as stored:
                shutil.copyfileobj(stored, copy)
            copy.flush()
            path = Path(f"/proc/self/fd/{copy.fileno()}")
            series = landmarks_of(path, clip.view or None, clip.lesson.hand, _networks(), lambda _: step(1), clip.about)
            body = body_of(series)
            film = None
            if films_wanted(clip.lesson):
                film = NewFilm(film_of(path, series, body.moments), pose_record(series, MODEL))
        recording = _keep(clip, body, film, work.asked_at)
    except FileNotFoundError as error:
        raise Cancelled from error
    except InputError as error:
        _refuse(clip, error)
        raise WorkFailed({"field": error.field}) from error
    CLIPS.drop(clip.key)
    return {"recording": recording.pk}


def _keep(clip: Clip, body: CameraBody, film: NewFilm | None, now: datetime) -> Recording:
    """Replace the clip by its measurement; if the clip was deleted meanwhile, the measurement is discarded."""

    def also(recording: Recording) -> None:
        if not Clip.objects.filter(pk=clip.pk).delete()[0]:
            raise Cancelled
        require_filming(recording.lesson.student_id)
        if film is not None:
            film.keep(recording)

    try:
        return keep_measured(clip.lesson, body, clip.name, now, clip.shot, also)
    except BaseException as error:
        if film is not None:
            film.drop()
        if isinstance(error, Refused):  # the student withdrew meanwhile
            raise Cancelled from error
        raise


@functools.cache
def _networks() -> Networks:
    from instavis_camera.model import SHIPPED, load

    return load(SHIPPED)


@transactional
def _refuse(clip: Clip, error: InputError) -> None:
    problem = {name: stored(text) for name, text in problem_of(error) if text is not None}
    Clip.objects.filter(pk=clip.pk).update(problem=problem)
    log_change(locked_lesson(clip.lesson_id), Aspect.RECORDINGS)
    CLIPS.drop(clip.key)


@transactional
def _say(lesson_id: int) -> None:
    log_change(locked_lesson(lesson_id), Aspect.RECORDINGS)

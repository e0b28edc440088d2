"""Films for a screen, two swings side by side, and the pair on the take-home page."""

from __future__ import annotations

from typing import Any, Literal

from django.http import HttpResponse
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.accounts.requests import CoachRequest
from instavis.accounts.selectors import student_of
from instavis.assessment.films import selectors, services
from instavis.assessment.films.selectors import FilmRead, FilmRow, PairRead
from instavis.assessment.recordings.selectors import recording_of
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problems
from instavis_core.recordings import Difference

router = Router()
CACHED = {"Cache-Control": "private, max-age=86400"}
A_WHILE = {"Cache-Control": "private, max-age=60"}  # a coach may change the moment


class PairIn(Schema):
    """The recordings of two films and the moment to show of them."""

    model_config = ConfigDict(extra="forbid")
    before: int
    now: int
    moment: str = Field(max_length=20)


@router.get("/students/{student_id}/films", response={200: list[FilmRow], 404: Problems})
def list_films(request: CoachRequest, student_id: int) -> list[FilmRow]:
    """List the stored films of a student, newest first."""
    return selectors.films_of(student_of(request.user, student_id))


@router.get("/recordings/{recording_id}/film", response={200: FilmRead, 404: Problems})
def get_film(request: CoachRequest, recording_id: int) -> FilmRead:
    """Return frames, moments, landmarks and lines of a recording's film."""
    return selectors.read_film(selectors.film_of(request.user, recording_id))


@router.get("/recordings/{recording_id}/film/pictures", response={200: None, 404: Problems})
def get_pictures(request: CoachRequest, recording_id: int) -> HttpResponse:
    """Return its pictures: concatenated JPEGs of the given sizes."""
    film = selectors.film_of(request.user, recording_id)
    return HttpResponse(selectors.pictures_of(film), content_type="application/octet-stream", headers=CACHED)


@router.get("/recordings/{recording_id}/film/pose", response={200: dict[str, Any], 404: Problems})
def get_pose(request: CoachRequest, recording_id: int) -> dict[str, Any]:
    """Return the landmarks, ``instavis.pose/1``."""
    return selectors.pose_of(selectors.film_of(request.user, recording_id))


@router.get("/recordings/{recording_id}/film/at/{moment}", response={200: None, 404: Problems, 422: Problems})
def get_frame(request: CoachRequest, recording_id: int, moment: str) -> HttpResponse:
    """Return the picture nearest to a time."""
    film = selectors.film_of(request.user, recording_id)
    return _picture(selectors.still_at(film.recording, moment), A_WHILE)


@router.get("/recordings/{before_id}/beside/{now_id}", response={200: list[Difference], 404: Problems, 422: Problems})
def compare(request: CoachRequest, before_id: int, now_id: int) -> list[Difference]:
    """Return the differences of two swings, moment by moment."""
    before, now = (recording_of(request.user, each) for each in (before_id, now_id))
    return selectors.beside(before, now)


@router.put("/lessons/{lesson_id}/pair", response={200: PairRead, 404: Problems, 422: Problems})
def choose_pair(request: CoachRequest, lesson_id: int, data: PairIn) -> PairRead | None:
    """Put one moment of two films on the take-home page."""
    lesson = lesson_of(request.user, lesson_id)
    before, now = (recording_of(request.user, each) for each in (data.before, data.now))
    services.choose_pair(lesson, before, now, data.moment, timezone.now())
    return selectors.pair_of(lesson)


@router.delete("/lessons/{lesson_id}/pair", response={204: None, 404: Problems})
def drop_pair(request: CoachRequest, lesson_id: int) -> Status[Any]:
    """Remove the pair from the take-home page."""
    services.drop_pair(lesson_of(request.user, lesson_id))
    return Status(204, None)


@router.get("/lessons/{lesson_id}/pair/{side}", response={200: None, 404: Problems})
def get_pair_picture(request: CoachRequest, lesson_id: int, side: Literal["before", "now"]) -> HttpResponse:
    """Return one picture of the pair."""
    return _picture(selectors.pair_image(lesson_of(request.user, lesson_id), side))


def _picture(image: bytes, headers: dict[str, str] | None = None) -> HttpResponse:
    return HttpResponse(image, content_type="image/jpeg", headers=headers)

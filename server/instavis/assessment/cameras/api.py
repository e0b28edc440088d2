"""Cameras: a code from the coach, a token for the phone, status, and films."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from ninja.security import HttpBearer
from pydantic import ConfigDict, Field

from instavis.accounts.access import CsrfOnly
from instavis.accounts.requests import CoachRequest
from instavis.assessment.cameras import selectors, services
from instavis.assessment.cameras.models import Camera
from instavis.assessment.cameras.selectors import CameraView
from instavis.capture.devices.selectors import bay_of
from instavis.platform.errors import Problems
from instavis.platform.language import speak_to
from instavis.platform.throttle import address_of

router = Router()


class CameraRequest(HttpRequest):
    """A request from a camera with a known token."""

    auth: Camera


class CameraToken(HttpBearer):
    """Authenticate a camera by its token; a disconnected one is refused at once."""

    def authenticate(self, request: HttpRequest, token: str) -> Camera | None:
        return selectors.camera_by(token)


class ViewIn(Schema):
    model_config = ConfigDict(extra="forbid")
    view: str = Field(max_length=20)


class CameraCodeOut(Schema):
    """A code that pairs one camera, shown only once."""

    code: str
    until: datetime


class CameraCodeIn(Schema):
    model_config = ConfigDict(extra="forbid")
    code: str = Field(max_length=12)


class CameraTokenOut(Schema):
    """The paired camera's token."""

    token: str


class HereIn(Schema):
    """What a camera reports about itself, about every second."""

    model_config = ConfigDict(extra="forbid")
    filming: bool
    waiting: int = Field(ge=0, le=10_000)
    problem: str = Field("", max_length=200)


class CameraOut(Schema):
    """A camera of a bay; ``heard`` is true while it is connected."""

    id: int
    view: str
    paired_at: datetime | None
    heard: bool
    filming: bool
    waiting: int
    problem: str


class FilmForm(Schema):
    """The ball a film shows; ``about`` is when the ball arrived, in seconds of the film."""

    lesson: int
    ball: int
    key: str = Field(min_length=8, max_length=36)
    about: float | None = Field(None, ge=0, le=60)


class FilmOut(Schema):
    """Whether the film was new."""

    taken: bool


@router.get("/bays/{bay_id}/cameras", response={200: list[CameraOut], 404: Problems})
def list_cameras(request: CoachRequest, bay_id: int) -> list[CameraOut]:
    """List the cameras of a bay and whether they are connected."""
    cameras = list(selectors.cameras_of(bay_of(request.user, bay_id)))
    heard = services.heard_of(cameras)
    silent = services.Heard(filming=False, waiting=0, problem="")
    return [
        CameraOut(
            id=camera.pk,
            view=camera.view,
            paired_at=camera.paired_at,
            heard=camera.pk in heard,
            **vars(heard.get(camera.pk, silent)),
        )
        for camera in cameras
    ]


@router.post("/bays/{bay_id}/cameras", response={201: CameraCodeOut, 404: Problems, 409: Problems, 422: Problems})
def offer_camera(request: CoachRequest, bay_id: int, data: ViewIn) -> Status[Any]:
    """Create a code for a camera, valid for five minutes."""
    camera, code = services.offer_camera(bay_of(request.user, bay_id), data.view, timezone.now())
    return Status(201, CameraCodeOut(code=code, until=camera.code_until))


@router.delete("/cameras/{camera_id}", response={204: None, 404: Problems})
def end_camera(request: CoachRequest, camera_id: int) -> Status[Any]:
    """Disconnect a camera; its token becomes invalid."""
    services.end_camera(selectors.camera_of(request.user, camera_id), timezone.now())
    return Status(204, None)


@router.post("/filming", auth=CsrfOnly(), response={200: CameraTokenOut, 404: Problems, 429: Problems})
def pair_camera(request: HttpRequest, data: CameraCodeIn) -> CameraTokenOut:
    """Pair this camera by its code."""
    return CameraTokenOut(token=services.pair_camera(data.code, address_of(request), timezone.now()))


@router.post("/filming/here", auth=CameraToken(), response={200: CameraView, 401: Problems, 422: Problems})
def say_here(request: CameraRequest, data: HereIn) -> CameraView:
    """Report a camera's state; return whether it may film and which ball was hit."""
    camera = request.auth
    services.hear(camera, services.Heard(**data.dict()))
    if camera.bay.lesson:
        speak_to(camera.bay.lesson.coach)
    return selectors.view_of(camera, timezone.now())


@router.post(
    "/filming/films",
    auth=CameraToken(),
    response={201: FilmOut, 401: Problems, 404: Problems, 409: Problems, 413: Problems, 422: Problems},
)
def send_film(request: CameraRequest, file: File[UploadedFile], form: Form[FilmForm]) -> Status[Any]:
    """Store a camera's film of one ball; answered after the commit, each film once."""
    now = timezone.now()
    taken = services.take_film(request.auth, form.lesson, form.ball, form.key, form.about, file.chunks(), now)
    return Status(201, FilmOut(taken=taken))

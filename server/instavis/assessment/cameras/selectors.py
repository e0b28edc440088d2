"""Cameras of a bay, and what a camera may know about it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from django.db.models import QuerySet

from instavis.accounts.models import Coach
from instavis.assessment.cameras.models import Camera
from instavis.capture.devices.models import Bay
from instavis.platform.errors import not_found
from instavis_core.message import NOTHING, Message

FRESH = 20.0  # s for which the newest ball is reported


@dataclass(frozen=True, kw_only=True)
class CameraView:
    """What a camera needs to know: whether it may film, whom, and the newest ball, hit ``ago`` seconds ago."""

    view: str
    bay: str
    language: str
    may_film: bool
    why_not: Message
    first_name: str
    hand: str
    lesson: int | None
    ball: int | None
    ago: float | None


def cameras_of(bay: Bay) -> QuerySet[Camera]:
    """Return the cameras of a bay."""
    return bay.cameras.filter(paired_at__isnull=False, ended_at__isnull=True)


def camera_of(coach: Coach, camera_id: int) -> Camera:
    """Return one camera of the academy."""
    camera = Camera.objects.filter(pk=camera_id, bay__academy_id=coach.academy_id).first()
    if camera is None:
        raise not_found("camera")
    return camera


def camera_by(token: str) -> Camera | None:
    """Return the camera of a token, unless it is disconnected."""
    related = "bay__academy", "bay__lesson__student", "bay__lesson__coach"
    return Camera.opened_by(token).select_related(*related).first()


def view_of(camera: Camera, now: datetime) -> CameraView:
    """Return what is sent to a camera."""
    lesson = camera.bay.lesson
    student = lesson.student if lesson else None
    newest = lesson.shots.filter(bay=camera.bay).order_by("-number").first() if lesson else None
    ago = (now - newest.received_at).total_seconds() if newest else None
    fresh = ago is not None and ago <= FRESH
    why = NOTHING
    if student is None:
        why = Message("check-no-lesson-bay")
    elif student.filming_agreed_at is None:
        why = Message("check-not-agreed-filmed", name=student.name.split()[0])
    return CameraView(
        view=camera.view,
        bay=camera.bay.name,
        language=lesson.coach.language if lesson else "",
        may_film=not why,
        why_not=why,
        first_name=student.name.split()[0] if student else "",
        hand=lesson.hand if lesson else "right",
        lesson=lesson.pk if lesson else None,
        ball=newest.number if newest and fresh else None,
        ago=ago if fresh else None,
    )

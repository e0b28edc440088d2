"""Pair cameras, track their state, and store each film once."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from django.core.cache import cache

from instavis.assessment.cameras.models import Camera, Sending
from instavis.assessment.clips.services import keep_clip
from instavis.capture.devices.models import Bay
from instavis.capture.shots.models import Shot
from instavis.platform.errors import Refused, not_found
from instavis.platform.pairing import pair
from instavis.platform.transactions import transactional
from instavis_core.camera import VIEWS
from instavis_core.errors import InputError
from instavis_core.message import Message

MAX_CAMERAS = 4
HEARD_FOR = 15  # s that a camera counts as connected after its last report
WRONG = Message("check-code-not-valid-camera-ask")
LONGEST_PROBLEM = 120


@dataclass(frozen=True, kw_only=True)
class Heard:
    """A camera's state: whether it films, how many films wait, and its problem."""

    filming: bool
    waiting: int
    problem: str


@transactional
def offer_camera(bay: Bay, view: str, now: datetime) -> tuple[Camera, str]:
    """Create a code for a camera in a bay, shown only now; unused codes expire.

    Raises
    ------
    InputError
        For an unknown view.
    Refused
        When the bay has as many as it can use.
    """
    if view not in VIEWS:
        raise InputError("view", view, Message("common-one", known=", ".join(VIEWS)))
    locked = Bay.objects.select_for_update().get(pk=bay.pk)
    locked.cameras.filter(paired_at__isnull=True, ended_at__isnull=True).update(ended_at=now)
    if locked.cameras.filter(ended_at__isnull=True).count() >= MAX_CAMERAS:
        raise Refused(409, "camera", Message("check-bay-can-cameras-disconnect-one", most=MAX_CAMERAS))
    camera = Camera(bay=locked, view=view)
    code = camera.offer(now)
    camera.save()
    return camera, code


@transactional
def pair_camera(code: str, address: str, now: datetime) -> str:
    """Exchange a code for a token; each code pairs one camera.

    Raises
    ------
    Refused
        For a wrong or used code, and for too many wrong ones.
    """
    return pair(Camera, "camera", code, address, now, WRONG)[1]


def end_camera(camera: Camera, now: datetime) -> None:
    """Disconnect a camera; its films stay."""
    Camera.objects.filter(pk=camera.pk, ended_at__isnull=True).update(ended_at=now)
    cache.delete(_key(camera))


def hear(camera: Camera, heard: Heard) -> None:
    """Remember a camera's state for a while."""
    cache.set(_key(camera), vars(heard) | {"problem": heard.problem[:LONGEST_PROBLEM]}, HEARD_FOR)


def heard_of(cameras: Iterable[Camera]) -> dict[int, Heard]:
    """Return the recent states of cameras by key; silent ones are left out."""
    by_key = {_key(camera): camera.pk for camera in cameras}
    return {by_key[key]: Heard(**result) for key, result in cache.get_many(by_key).items()}


@transactional
def take_film(
    camera: Camera, lesson_id: int, ball: int, key: str, about: float | None, chunks: Iterable[bytes], now: datetime
) -> bool:
    """Store the film of a ball hit in the camera's bay; return False if it is known.

    Raises
    ------
    Refused
        For a ball of elsewhere, or of a student who did not agree to be filmed.
    """
    shot = (
        Shot.objects.filter(bay=camera.bay, lesson_id=lesson_id, number=ball).select_related("lesson__student").first()
    )
    if shot is None or shot.lesson is None:
        raise not_found("ball-of-this-bay")
    Camera.objects.select_for_update().get(pk=camera.pk)
    if camera.sendings.filter(key=key).exists():
        return False
    keep_clip(shot.lesson, shot.lesson.coach, f"{camera.view} {ball}", camera.view, ball, chunks, now, about)
    Sending.objects.create(camera=camera, key=key, received_at=now)
    return True


def _key(camera: Camera) -> str:
    return f"camera-{camera.pk}"

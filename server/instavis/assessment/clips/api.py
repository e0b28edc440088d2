"""Clips: uploaded for a lesson, measured by a worker, deleted."""

from __future__ import annotations

from typing import Any

from django.utils import timezone
from ninja import File, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import ConfigDict

from instavis.accounts import services as accounts
from instavis.accounts.access import staff
from instavis.accounts.api import StudentOut
from instavis.accounts.models import Student
from instavis.accounts.requests import CoachRequest
from instavis.accounts.selectors import student_of
from instavis.assessment.clips import services
from instavis.assessment.clips.models import Clip
from instavis.lessons.selectors import lesson_of, open_to
from instavis.platform.errors import Problem, Problems, not_found
from instavis.work.models import Work
from instavis.work.services import steps_done
from instavis_core.message import Message, restored

router = Router()
GIVEN_UP = Message("check-film-could-not-measured-server")


class ClipOut(Schema):
    """A clip that is not measured yet; ``state`` is waiting, running or failed; ``frames`` were measured."""

    id: int
    name: str
    view: str
    ball: int | None
    state: str
    frames: int
    problem: Problem | None


class FilmingIn(Schema):
    """Whether a student agrees to be filmed; ``confirmed`` confirms that a withdrawal deletes their films."""

    model_config = ConfigDict(extra="forbid")
    given: bool
    confirmed: bool = False


@router.put(
    "/students/{student_id}/filming",
    auth=staff,
    response={200: StudentOut, 404: Problems, 409: Problems, 422: Problems},
)
def change_filming(request: CoachRequest, student_id: int, data: FilmingIn) -> Student:
    """Record that the student (for a junior, the guardian) agrees to be filmed, or withdraws; then their films are
    deleted.
    """
    student, now = student_of(request.user, student_id), timezone.now()
    if data.given:
        return accounts.change_filming(student, True, now)
    return services.withdraw_filming(request.user, student, data.confirmed, now)


@router.get("/lessons/{lesson_id}/clips", response={200: list[ClipOut], 404: Problems})
def list_clips(request: CoachRequest, lesson_id: int) -> list[ClipOut]:
    """List the clips of a lesson that wait, are being measured, or failed."""
    return [_shown(clip) for clip in lesson_of(request.user, lesson_id).clips.select_related("shot", "work")]


@router.post(
    "/lessons/{lesson_id}/clips",
    response={201: ClipOut, 404: Problems, 409: Problems, 413: Problems, 422: Problems},
)
def send_clip(
    request: CoachRequest, lesson_id: int, file: File[UploadedFile], view: str = "", ball: int | None = None
) -> Status[Any]:
    """Upload a film of one swing; a worker measures it. Without a view, the picture decides."""
    lesson = lesson_of(request.user, lesson_id)
    name = file.name or "clip"
    clip = services.keep_clip(lesson, request.user, name, view, ball, file.chunks(), timezone.now())
    return Status(201, _shown(clip))


@router.delete("/clips/{clip_id}", response={204: None, 404: Problems})
def drop_clip(request: CoachRequest, clip_id: int) -> Status[Any]:
    """Delete a clip, also while it is being measured."""
    clip = Clip.objects.filter(open_to(request.user, "lesson"), pk=clip_id).select_related("work").first()
    if clip is None:
        raise not_found("clip")
    services.drop_clip(clip)
    return Status(204, None)


def _shown(clip: Clip) -> ClipOut:
    work = clip.work
    problem = Problem.model_validate({k: restored(v) for k, v in clip.problem.items()}) if clip.problem else None
    if problem is None and (work is None or not work.open):
        problem = Problem(field="clip", message=GIVEN_UP)
    state = "failed" if problem else "running" if work and work.state == Work.State.RUNNING else "waiting"
    return ClipOut(
        id=clip.pk,
        name=clip.name,
        view=clip.view,
        ball=clip.shot.number if clip.shot else None,
        state=state,
        frames=steps_done(work) if work else 0,
        problem=problem,
    )

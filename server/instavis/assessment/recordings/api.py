"""Recordings: upload by file or device, view, set moments, discard."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from django.utils import timezone
from ninja import File, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import ConfigDict, Field, WithJsonSchema

from instavis.accounts.requests import CoachRequest
from instavis.assessment.recordings import selectors, services
from instavis.assessment.recordings.selectors import RecordingRead
from instavis.capture.devices.api import DeviceToken, ReceiptOut, receipt_out
from instavis.capture.devices.requests import DeviceRequest
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problems
from instavis_core.recordings import Proposal
from instavis_io.schemas import recording

router = Router()
device_router = Router()
MAX_IN_A_BATCH = 20


class RecordingRow(Schema):
    """A recording in a list; ``ball`` is the number of its ball, ``view`` a camera's."""

    id: int
    name: str
    view: str
    ball: int | None
    received_at: datetime
    adjusted: bool


class RecordingsOut(Schema):
    """The recordings of a lesson and the answers they propose, cameras separate from belts and mats."""

    recordings: list[RecordingRow]
    proposals: list[Proposal]
    seen: list[Proposal]


class RecordingChange(Schema):
    """Moments set by hand [s]; discarded or restored."""

    model_config = ConfigDict(extra="forbid")
    marks: dict[str, float] | None = Field(None, max_length=8)
    dropped: bool | None = None


class RecordingBatch(Schema):
    """Recorded swings from a device: ``device_sequence``, ``series``, optionally ``shot_id`` and ``at``."""

    model_config = ConfigDict(extra="forbid")
    recordings: list[Annotated[Any, WithJsonSchema(recording())]] = Field(max_length=MAX_IN_A_BATCH)


@router.get("/lessons/{lesson_id}/recordings", response={200: RecordingsOut, 404: Problems})
def list_recordings(request: CoachRequest, lesson_id: int) -> dict[str, Any]:
    """List the recordings of a lesson."""
    lesson = lesson_of(request.user, lesson_id)
    rows = [
        RecordingRow(
            id=r.pk,
            name=r.name,
            view=r.view,
            ball=r.shot.number if r.shot else None,
            received_at=r.received_at,
            adjusted=bool(r.marks),
        )
        for r in selectors.recordings_of(lesson)
    ]
    result = {camera: selectors.recorded_grades(lesson, camera) for camera in (False, True)}
    return {"recordings": rows, "proposals": result[False], "seen": result[True]}


@router.post(
    "/lessons/{lesson_id}/recordings",
    response={201: RecordingRead, 404: Problems, 409: Problems, 413: Problems, 422: Problems},
)
def send_recording(request: CoachRequest, lesson_id: int, file: File[UploadedFile]) -> Status[Any]:
    """Store one recorded swing from a CSV or C3D file."""
    lesson = lesson_of(request.user, lesson_id)
    recording = services.keep_file(lesson, file.name or "recording", file.read(), timezone.now())
    return Status(201, selectors.read_recording(recording))


@router.get("/recordings/{recording_id}", response={200: RecordingRead, 404: Problems})
def get_recording(request: CoachRequest, recording_id: int) -> RecordingRead:
    """Return curves, moments and proposed answers of one recording."""
    return selectors.read_recording(selectors.recording_of(request.user, recording_id))


@router.patch("/recordings/{recording_id}", response={200: RecordingRead, 404: Problems, 422: Problems})
def change_recording(request: CoachRequest, recording_id: int, data: RecordingChange) -> RecordingRead:
    """Set moments by hand, discard a recording, or restore it."""
    recording = selectors.recording_of(request.user, recording_id)
    services.change_recording(recording, data.marks, data.dropped, timezone.now())
    return selectors.read_recording(recording)


@device_router.post(
    "/recordings", auth=DeviceToken(), response={200: ReceiptOut, 401: Problems, 413: Problems, 422: Problems}
)
def receive_recordings(request: DeviceRequest, data: RecordingBatch) -> ReceiptOut:
    """Store recorded swings from a device; answered after the commit, each once."""
    return receipt_out(services.receive_recordings(request.auth, data.recordings, timezone.now()))

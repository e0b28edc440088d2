"""Bays and devices for coaches, and the protocol for devices."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from django.db.models import QuerySet
from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema, Status
from ninja.security import HttpBearer
from pydantic import ConfigDict, Field, WithJsonSchema

from instavis.accounts.access import heads
from instavis.accounts.requests import CoachRequest
from instavis.capture.devices import refusals, selectors, services
from instavis.capture.devices.models import Bay, Device, RefusedBall
from instavis.capture.devices.requests import DeviceRequest
from instavis.capture.shots.models import Shot
from instavis.capture.shots.schemas import ShotOut
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problem, Problems
from instavis_core.message import Message
from instavis_io.schemas import device_ball

bays_router = Router()
device_router = Router()
MAX_IN_A_BATCH = 200


class DeviceToken(HttpBearer):
    """Authenticate a device by its bearer token; a revoked one is refused at once."""

    def authenticate(self, request: HttpRequest, token: str) -> Device | None:
        return selectors.device_by_token(token)


class DeviceOut(Schema):
    id: int
    name: str
    issued_at: datetime
    revoked_at: datetime | None
    seen_at: datetime | None


class BayOut(Schema):
    """A bay, ``student`` and ``hand`` of the active lesson, and when its last ball came."""

    id: int
    name: str
    lesson_id: int | None
    student: str
    hand: str
    last_at: datetime | None = None
    tray: int = 0
    refused_count: int = 0
    devices: list[DeviceOut]

    @staticmethod
    def resolve_student(bay: Bay) -> str:
        """Return the student of the active lesson; empty without one."""
        return bay.lesson.student.name if bay.lesson else ""

    @staticmethod
    def resolve_hand(bay: Bay) -> str:
        """Return their hand in this lesson."""
        return bay.lesson.hand if bay.lesson else ""


class BayIn(Schema):
    model_config = ConfigDict(extra="forbid")
    name: str = Field(min_length=1, max_length=60)


class DeviceIn(Schema):
    model_config = ConfigDict(extra="forbid")
    name: str = Field(min_length=1, max_length=60)


class IssuedOut(Schema):
    """A new device; the token is shown only now."""

    device: DeviceOut
    token: str


class ShotBatch(Schema):
    """Balls from a device: shot records with ``device_sequence``."""

    model_config = ConfigDict(extra="forbid")
    shots: list[Annotated[Any, WithJsonSchema(device_ball())]] = Field(max_length=MAX_IN_A_BATCH)


class RefusedRecordOut(Schema):
    """A refused record: the reason, and the record unchanged."""

    id: int
    reason: str
    field: str
    message: Message
    raw: str
    device_name: str = Field(alias="device.name")
    device_sequence: int | None
    received_at: datetime


class TakeRefused(Schema):
    model_config = ConfigDict(extra="forbid")
    bay_id: int
    refused_ids: list[int] = Field(min_length=1, max_length=500)
    how: refusals.How


class LeaveRefused(Schema):
    model_config = ConfigDict(extra="forbid")
    refused_ids: list[int] = Field(min_length=1, max_length=500)
    left: bool = True


class RefusedOut(Problem):
    """A refused record of a batch."""

    index: int


class ReceiptOut(Schema):
    """Sent after the balls are stored."""

    stored: int
    known: int
    refused: list[RefusedOut]


class HelloOut(Schema):
    """The device's identity on the server, and how many balls the bay's lesson has."""

    device: str
    bay: str
    listening: bool
    lesson: int | None
    balls: int
    last_shot_id: str
    recent_shot_ids: list[str]
    server_time: datetime


@bays_router.get("/bays", response=list[BayOut])
def list_bays(request: CoachRequest) -> QuerySet[Bay]:
    """List the bays of the academy."""
    return selectors.bays_of(request.user)


@bays_router.post("/bays/{bay_id}/devices", auth=heads, response={201: IssuedOut, 404: Problems, 422: Problems})
def issue_device(request: CoachRequest, bay_id: int, data: DeviceIn) -> Status[Any]:
    """Create a device in a bay with its token (head coach)."""
    device, token = services.issue_device(selectors.bay_of(request.user, bay_id), data.name)
    return Status(201, IssuedOut(device=DeviceOut.from_orm(device), token=token))


@bays_router.post("/devices/{device_id}/roll", auth=heads, response={200: IssuedOut, 404: Problems, 409: Problems})
def roll_device(request: CoachRequest, device_id: int) -> IssuedOut:
    """Replace a device's token, shown only now; the old one is refused at once (head coach)."""
    device, token = services.roll_device(selectors.device_of(request.user, device_id))
    return IssuedOut(device=DeviceOut.from_orm(device), token=token)


@bays_router.post("/bays", auth=heads, response={201: BayOut, 422: Problems})
def create_bay(request: CoachRequest, data: BayIn) -> Status[Any]:
    """Create a bay (head coach)."""
    bay = services.create_bay(request.user.academy, data.name)
    return Status(201, selectors.bay_of(request.user, bay.pk))


@bays_router.get("/bays/{bay_id}/refused", response={200: list[RefusedRecordOut], 404: Problems})
def list_refused(request: CoachRequest, bay_id: int) -> QuerySet[RefusedBall]:
    """List refused records of the bay's devices that wait for a decision."""
    return selectors.refused_in(selectors.bay_of(request.user, bay_id))[: selectors.MAX_REFUSED_SHOWN]


@bays_router.post("/lessons/{lesson_id}/refused", response={200: list[ShotOut], 404: Problems, 422: Problems})
def take_refused(request: CoachRequest, lesson_id: int, data: TakeRefused) -> list[Shot]:
    """Add refused records to a lesson, at the positions where they would be."""
    lesson, bay = lesson_of(request.user, lesson_id), selectors.bay_of(request.user, data.bay_id)
    return refusals.take_refused(lesson, bay, data.refused_ids, data.how, timezone.now())


@bays_router.post("/bays/{bay_id}/refused/leave", response={204: None, 404: Problems, 422: Problems})
def leave_refused(request: CoachRequest, bay_id: int, data: LeaveRefused) -> Status[Any]:
    """Dismiss refused records, or restore them."""
    bay = selectors.bay_of(request.user, bay_id)
    refusals.leave_refused(bay, data.refused_ids, data.left, timezone.now())
    return Status(204, None)


@bays_router.post("/devices/{device_id}/revoke", auth=heads, response={200: DeviceOut, 404: Problems})
def revoke_device(request: CoachRequest, device_id: int) -> Device:
    """Refuse a device from now on (head coach)."""
    return services.revoke_device(selectors.device_of(request.user, device_id), timezone.now())


@device_router.get("/hello", auth=DeviceToken(), response={200: HelloOut, 401: Problems})
def hello(request: DeviceRequest) -> HelloOut:
    """Check a device's token and return the time."""
    device = request.auth
    balls, recent = selectors.balls_in(device.bay)
    return HelloOut(
        device=device.name,
        bay=device.bay.name,
        listening=device.bay.lesson_id is not None,
        lesson=device.bay.lesson_id,
        balls=balls,
        last_shot_id=recent[-1] if recent else "",
        recent_shot_ids=recent,
        server_time=timezone.now(),
    )


@device_router.post(
    "/shots", auth=DeviceToken(), response={200: ReceiptOut, 401: Problems, 413: Problems, 422: Problems}
)
def receive_shots(request: DeviceRequest, data: ShotBatch) -> ReceiptOut:
    """Receive balls from a device; answered after the commit, each ball once."""
    return receipt_out(services.receive_shots(request.auth, data.shots, timezone.now()))


def receipt_out(receipt: services.Receipt) -> ReceiptOut:
    """Return the result of a batch for a device."""
    refused = [RefusedOut(index=index, **problem.dict()) for index, problem in receipt.refused]
    return ReceiptOut(stored=receipt.stored, known=receipt.known, refused=refused)

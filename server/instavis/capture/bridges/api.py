"""Bridges: a code from the coach, incoming rows, and the coach's column mapping."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field, StringConstraints

from instavis.accounts.access import heads
from instavis.accounts.requests import CoachRequest
from instavis.capture.bridges import selectors, services, standing
from instavis.capture.devices.api import DeviceToken, RefusedOut
from instavis.capture.devices.requests import DeviceRequest
from instavis.capture.devices.selectors import bay_of
from instavis.capture.files.preview import Preview
from instavis.capture.files.schemas import MappingIn
from instavis.capture.files.selectors import mapping_as_json
from instavis.platform.errors import Problems
from instavis.platform.throttle import address_of
from instavis_core.message import Message
from instavis_io.tables import read_mapping
from instavis_io.tables.guess import ColumnGuess

router = Router()
device_router = Router()
MAX_ROWS, LONGEST_ROW = 200, 20_000
MAX_HEAD, LONGEST_HEAD = 30, 4000


class BridgeCodeOut(Schema):
    """A code that pairs one bridge, shown only now."""

    code: str
    until: datetime


class BridgeOut(Schema):
    """A bridge of a bay; ``heard`` is true while it is connected."""

    id: int
    name: str
    paired_at: datetime | None
    last_at: datetime | None
    heard: bool
    source: str
    waiting: int
    clock_off_s: float
    problem: str


class SourceOut(Schema):
    """A kind of rows from a bay's bridges."""

    id: int
    name: str
    headers: list[str]
    confirmed_at: datetime | None
    left: bool
    waiting: int
    seen_at: datetime


class SourceShownOut(Schema):
    """A source with its guessed columns, and what its newest rows would become for a golfer with that ``hand``."""

    id: int
    name: str
    hand: str
    mapping: MappingIn
    columns: list[ColumnGuess]
    notes: list[Message]
    remembered: bool
    waiting: int
    preview: Preview


class ConfirmedOut(Schema):
    """How many waiting rows became balls."""

    stored: int


class LeftIn(Schema):
    model_config = ConfigDict(extra="forbid")
    left: bool


class BridgeCodeIn(Schema):
    model_config = ConfigDict(extra="forbid")
    code: str = Field(max_length=12)
    name: str = Field(min_length=1, max_length=60)


class BridgePairedOut(Schema):
    """The bridge's identity and its token, shown only now."""

    device: str
    bay: str
    token: str


class RowIn(Schema):
    model_config = ConfigDict(extra="forbid")
    device_sequence: int
    text: Annotated[str, StringConstraints(max_length=LONGEST_ROW)]


class RowsIn(Schema):
    """Rows of one file or stream: its name, its first lines, and the rows, numbered by the bridge."""

    model_config = ConfigDict(extra="forbid")
    name: str = Field(min_length=1, max_length=200)
    head: list[Annotated[str, StringConstraints(max_length=LONGEST_HEAD)]] = Field(max_length=MAX_HEAD)
    rows: list[RowIn] = Field(max_length=MAX_ROWS)
    example: bool = False


class RowsReceiptOut(Schema):
    """Sent after the rows are stored."""

    stored: int
    known: int
    waiting: int
    no_balls: int
    refused: list[RefusedOut]


class BridgeStatusIn(Schema):
    """What a bridge reports about itself, every few seconds."""

    model_config = ConfigDict(extra="forbid")
    source: str = Field(max_length=300)
    waiting: int = Field(ge=0, le=10_000_000)
    clock: datetime
    problem: str = Field("", max_length=300)


class BridgeStatusOut(Schema):
    """What a bridge receives: its bay, whether a lesson is active, rows that wait for a coach, the server's time."""

    bay: str
    listening: bool
    unmapped: int
    server_time: datetime


@router.get("/bays/{bay_id}/bridges", response={200: list[BridgeOut], 404: Problems})
def list_bridges(request: CoachRequest, bay_id: int) -> list[BridgeOut]:
    """List the bridges of a bay and whether they are connected."""
    bridges = [b for b in selectors.bridges_of(bay_of(request.user, bay_id)) if b.device is not None]
    heard = standing.heard_of([b.device.pk for b in bridges if b.device is not None])
    silent = standing.Heard(source="", waiting=0, clock_off_s=0.0, problem="")
    return [
        BridgeOut(
            id=bridge.pk,
            name=bridge.device.name,
            paired_at=bridge.paired_at,
            last_at=bridge.device.seen_at,
            heard=bridge.device.pk in heard,
            **vars(heard.get(bridge.device.pk, silent)),
        )
        for bridge in bridges
        if bridge.device is not None
    ]


@router.post("/bays/{bay_id}/bridges", auth=heads, response={201: BridgeCodeOut, 404: Problems})
def offer_bridge(request: CoachRequest, bay_id: int) -> Status[Any]:
    """Create a code for a bridge, valid for five minutes (head coach)."""
    bridge, code = standing.offer_bridge(bay_of(request.user, bay_id), timezone.now())
    return Status(201, BridgeCodeOut(code=code, until=bridge.code_until))


@router.delete("/bridges/{bridge_id}", auth=heads, response={204: None, 404: Problems})
def end_bridge(request: CoachRequest, bridge_id: int) -> Status[Any]:
    """Disconnect a bridge; it is refused from now on (head coach)."""
    standing.end_bridge(selectors.bridge_of(request.user, bridge_id), timezone.now())
    return Status(204, None)


@router.get("/bays/{bay_id}/sources", response={200: list[SourceOut], 404: Problems})
def list_sources(request: CoachRequest, bay_id: int) -> list[SourceOut]:
    """List the kinds of rows from a bay's bridges."""
    bay = bay_of(request.user, bay_id)
    waiting = selectors.waiting_in(bay)
    return [
        SourceOut(
            id=source.pk,
            name=source.name,
            headers=source.headers,
            confirmed_at=source.confirmed_at,
            left=source.left,
            waiting=waiting.get(source.pk, 0),
            seen_at=source.seen_at,
        )
        for source in selectors.sources_of(bay)
    ]


@router.get("/sources/{source_id}", response={200: SourceShownOut, 404: Problems})
def get_source(request: CoachRequest, source_id: int) -> dict[str, Any]:
    """Return a source, its guessed columns, and what its newest rows would become."""
    source = selectors.source_of(request.user, source_id)
    proposal, mapping, remembered = selectors.proposal_of(source, request.user)
    return {
        "id": source.pk,
        "name": source.name,
        "hand": selectors.golfer_in(source.bay).hand,
        "mapping": mapping_as_json(mapping),
        "columns": list(proposal.columns),
        "notes": list(proposal.notes),
        "remembered": remembered,
        "waiting": source.waiting.count(),
        "preview": selectors.preview_of(source, mapping),
    }


@router.post("/sources/{source_id}/preview", response={200: Preview, 404: Problems, 422: Problems})
def preview_source(request: CoachRequest, source_id: int, data: MappingIn) -> Preview:
    """Return what the newest rows would become with another mapping."""
    return selectors.preview_of(selectors.source_of(request.user, source_id), read_mapping(data.dict()))


@router.put("/sources/{source_id}/mapping", response={200: ConfirmedOut, 404: Problems, 422: Problems})
def confirm_source(request: CoachRequest, source_id: int, data: MappingIn) -> ConfirmedOut:
    """Confirm the columns; waiting rows become balls, and later ones become balls at once."""
    source = selectors.source_of(request.user, source_id)
    mapping = read_mapping(data.dict())
    return ConfirmedOut(stored=services.confirm_source(source, mapping, request.user, timezone.now()))


@router.put("/sources/{source_id}/left", response={204: None, 404: Problems})
def leave_source(request: CoachRequest, source_id: int, data: LeftIn) -> Status[Any]:
    """Mark the rows as not balls, or undo that."""
    services.leave_source(selectors.source_of(request.user, source_id), data.left)
    return Status(204, None)


@device_router.post("/pair", auth=None, response={200: BridgePairedOut, 404: Problems, 422: Problems, 429: Problems})
def pair_bridge(request: HttpRequest, data: BridgeCodeIn) -> BridgePairedOut:
    """Pair a bridge by its code."""
    device, token = standing.pair_bridge(data.code, data.name, address_of(request), timezone.now())
    return BridgePairedOut(device=device.name, bay=device.bay.name, token=token)


@device_router.post(
    "/rows", auth=DeviceToken(), response={200: RowsReceiptOut, 401: Problems, 409: Problems, 422: Problems}
)
def receive_rows(request: DeviceRequest, data: RowsIn) -> RowsReceiptOut:
    """Receive rows of a table or stream; answered after the commit, each row once."""
    rows = [services.Row(device_sequence=row.device_sequence, text=row.text) for row in data.rows]
    receipt = services.receive_rows(request.auth, data.name, data.head, rows, data.example, timezone.now())
    refused = [RefusedOut(index=index, **problem.dict()) for index, problem in receipt.refused]
    return RowsReceiptOut(**{**vars(receipt), "refused": refused})


@device_router.post("/here", auth=DeviceToken(), response={200: BridgeStatusOut, 401: Problems, 422: Problems})
def say_here(request: DeviceRequest, data: BridgeStatusIn) -> BridgeStatusOut:
    """Report a bridge's state; return whether a lesson is active."""
    device, now = request.auth, timezone.now()
    off = (data.clock - now).total_seconds() if data.clock.tzinfo else 0.0
    standing.hear(
        device,
        standing.Heard(source=data.source, waiting=data.waiting, clock_off_s=round(off, 1), problem=data.problem),
    )
    unmapped = sum(selectors.waiting_in(device.bay).values())
    return BridgeStatusOut(
        bay=device.bay.name, listening=device.bay.lesson_id is not None, unmapped=unmapped, server_time=now
    )

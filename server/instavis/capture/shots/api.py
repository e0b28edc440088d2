"""Balls: list, mark, import from a file, export to a file."""

from __future__ import annotations

import json
from typing import Any

from django.db.models import QuerySet
from django.http import HttpResponse
from django.utils import timezone
from ninja import File, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import ConfigDict, Field

from instavis.accounts.requests import CoachRequest
from instavis.capture.devices.selectors import bay_of
from instavis.capture.shots import selectors, services
from instavis.capture.shots.models import Shot
from instavis.capture.shots.schemas import ShotOut
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problems
from instavis.platform.keys import read_keys
from instavis_core.errors import InputError
from instavis_core.message import Message
from instavis_io.ball_files import read_balls
from instavis_io.tables import write_table

router = Router()
MAX_MARKED = 500


class Marks(Schema):
    """A coach's marks of a ball; an empty text removes a mark.

    ``mark_basis`` is blind for a movement marked while the ball's numbers were hidden; seen shows them.
    """

    model_config = ConfigDict(extra="forbid")
    movement: str | None = None
    mark_basis: str | None = None
    club: str | None = None
    turf: str | None = None
    intent: str | None = None
    note: str | None = None
    set_aside: str | None = None


class MarksOfMany(Marks):
    """The same marks for several balls of a lesson."""

    shot_ids: list[int] = Field(min_length=1, max_length=MAX_MARKED)


class BallByHand(Schema):
    """A ball in three words, device frame."""

    model_config = ConfigDict(extra="forbid")
    start: str
    curve: str
    contact: str = "clean"


class ClaimIn(Schema):
    model_config = ConfigDict(extra="forbid")
    bay_id: int
    shot_ids: list[int] = Field(min_length=1, max_length=MAX_MARKED)


class Imported(Schema):
    """How many balls a file added, and how many were known."""

    stored: int
    known: int


@router.get("/lessons/{lesson_id}/shots", response={200: list[ShotOut], 404: Problems})
def list_shots(request: CoachRequest, lesson_id: int) -> QuerySet[Shot]:
    """List the balls of a lesson in order."""
    return selectors.shots_of(lesson_of(request.user, lesson_id)).select_related("block")


@router.patch("/shots/{shot_id}", response={200: ShotOut, 404: Problems, 422: Problems})
def mark_shot(request: CoachRequest, shot_id: int, data: Marks) -> Shot:
    """Mark a ball."""
    shot = selectors.shot_of(request.user, shot_id)
    marks = {k: v for k, v in data.dict(exclude_unset=True).items() if v is not None}
    return services.mark_shot(shot, marks) if marks else shot


@router.post("/lessons/{lesson_id}/marks", response={200: list[ShotOut], 404: Problems, 422: Problems})
def mark_many(request: CoachRequest, lesson_id: int, data: MarksOfMany) -> list[Shot]:
    """Mark several balls at once: all or none."""
    marks = {k: v for k, v in data.dict(exclude_unset=True).items() if v is not None and k != "shot_ids"}
    return services.mark_shots(lesson_of(request.user, lesson_id), data.shot_ids, marks)


@router.post("/lessons/{lesson_id}/balls", response={201: ShotOut, 404: Problems, 422: Problems})
def add_by_hand(request: CoachRequest, lesson_id: int, data: BallByHand) -> Status[Any]:
    """Add a ball by start, curve and contact, for a bay without a monitor."""
    lesson = lesson_of(request.user, lesson_id)
    return Status(201, services.add_by_hand(lesson, data.start, data.curve, data.contact, timezone.now()))


@router.get("/bays/{bay_id}/tray", response={200: list[ShotOut], 404: Problems})
def get_unassigned(request: CoachRequest, bay_id: int) -> QuerySet[Shot]:
    """List the unassigned balls of a bay."""
    return selectors.unassigned_in(bay_of(request.user, bay_id))[:MAX_MARKED]


@router.post("/lessons/{lesson_id}/claim", response={200: list[ShotOut], 404: Problems, 422: Problems})
def claim_balls(request: CoachRequest, lesson_id: int, data: ClaimIn) -> list[Shot]:
    """Add unassigned balls of a bay to the lesson."""
    lesson, bay = lesson_of(request.user, lesson_id), bay_of(request.user, data.bay_id)
    return services.claim_balls(lesson, bay, data.shot_ids, timezone.now())


@router.post("/lessons/{lesson_id}/import", response={201: Imported, 404: Problems, 413: Problems, 422: Problems})
def import_shots(
    request: CoachRequest, lesson_id: int, file: File[UploadedFile], purpose: str = "baseline"
) -> Status[Any]:
    """Import a CSV or JSON file in our format; all or none."""
    lesson = lesson_of(request.user, lesson_id)
    records = read_balls(file.read(), file.name or "")
    stored = services.import_shots(lesson, records, purpose, timezone.now())
    return Status(201, Imported(stored=stored, known=len(records) - stored))


@router.get("/lessons/{lesson_id}/export.{kind}", response={200: None, 404: Problems, 422: Problems})
def export_shots(request: CoachRequest, lesson_id: int, kind: str, balls: str = "") -> HttpResponse:
    """Export balls of a lesson in our format, csv or json: all, or those with the given comma-separated keys."""
    shots = selectors.shots_of(lesson_of(request.user, lesson_id))
    if balls:
        shots = shots.filter(pk__in=read_keys(balls))
    records = [selectors.as_record(s) for s in shots]
    if kind == "csv":
        response = HttpResponse(write_table(records), content_type="text/csv; charset=utf-8")
    elif kind == "json":
        response = HttpResponse(json.dumps(records, indent=1), content_type="application/json")
    else:
        raise InputError("kind", kind, Message("bays-csv-json"))
    response["Content-Disposition"] = f'attachment; filename="lesson-{lesson_id}.{kind}"'
    return response

"""Balls: list, mark, bring in from a file, take out to a file."""

from __future__ import annotations

import json

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import File, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import ConfigDict

from instavis.config.errors import Problems
from instavis.lessons.selectors import lesson_of
from instavis.shots import selectors, services
from instavis.shots.schemas import ShotOut
from instavis_core.errors import InputError
from instavis_core.shots import read_shots
from instavis_core.tables import read_table, write_table

router = Router()


class Marks(Schema):
    """What a coach says of a ball; an empty text takes a mark back."""

    model_config = ConfigDict(extra="forbid")
    movement: str | None = None
    turf: str | None = None
    intent: str | None = None
    note: str | None = None
    set_aside: str | None = None


class Imported(Schema):
    """How many balls a file brought, and how many the lesson already had."""

    stored: int
    known: int


@router.get("/lessons/{lesson_id}/shots", response={200: list[ShotOut], 404: Problems})
def list_shots(request: HttpRequest, lesson_id: int):
    """Balls of a lesson in the order they came."""
    return selectors.shots_of(lesson_of(request.user, lesson_id))


@router.patch("/shots/{shot_id}", response={200: ShotOut, 404: Problems, 422: Problems})
def mark_shot(request: HttpRequest, shot_id: int, data: Marks):
    """Mark a ball, now or late."""
    shot = selectors.shot_of(request.user, shot_id)
    marks = {k: v for k, v in data.dict(exclude_unset=True).items() if v is not None}
    return services.mark_shot(shot, marks) if marks else shot


@router.post("/lessons/{lesson_id}/import", response={201: Imported, 404: Problems, 413: Problems, 422: Problems})
def import_shots(request: HttpRequest, lesson_id: int, file: UploadedFile = File(...), purpose: str = "baseline"):
    """Bring in a CSV or JSON file in our format; all of it or nothing."""
    lesson = lesson_of(request.user, lesson_id)
    data = file.read()
    records = _read_json(data) if (file.name or "").lower().endswith((".json", ".ndjson")) else read_table(data)
    stored = services.import_shots(lesson, records, purpose, timezone.now())
    return Status(201, Imported(stored=len(stored), known=len(records) - len(stored)))


@router.get("/lessons/{lesson_id}/export.{kind}", response={200: None, 404: Problems, 422: Problems})
def export_shots(request: HttpRequest, lesson_id: int, kind: str):
    """Every ball of a lesson as a file in our format: csv or json."""
    records = [selectors.as_record(s) for s in selectors.shots_of(lesson_of(request.user, lesson_id))]
    if kind == "csv":
        response = HttpResponse(write_table(records), content_type="text/csv; charset=utf-8")
    elif kind == "json":
        response = HttpResponse(json.dumps(records, indent=1), content_type="application/json")
    else:
        raise InputError("kind", kind, "csv or json")
    response["Content-Disposition"] = f'attachment; filename="lesson-{lesson_id}.{kind}"'
    return response


def _read_json(data: bytes):
    try:
        text = data.decode("utf-8-sig")
        whole = text.lstrip().startswith("[")
        raw = json.loads(text) if whole else [json.loads(line) for line in text.splitlines() if line.strip()]
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError) as error:
        raise InputError("file", str(error), "JSON: a list of shot records, or one a line") from None
    if not raw:
        raise InputError("file", "nothing", "at least one ball")
    return read_shots(raw, "ball")

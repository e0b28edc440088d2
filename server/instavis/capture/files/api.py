"""Files being imported: upload, preview, map, store with progress, cancel."""

from __future__ import annotations

from typing import Any

from django.utils import timezone
from ninja import File, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import ConfigDict

from instavis.accounts.requests import CoachRequest
from instavis.capture.files import selectors, services
from instavis.capture.files.models import Draft
from instavis.capture.files.preview import Preview
from instavis.capture.files.schemas import MappingIn
from instavis.capture.files.selectors import ImportProgress
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problem, Problems
from instavis_core.message import Message
from instavis_io.tables import read_mapping
from instavis_io.tables.guess import ColumnGuess

router = Router()


class DraftOut(Schema):
    """An uploaded file: its guessed columns and what would be imported."""

    id: int
    name: str
    mapping: MappingIn
    columns: list[ColumnGuess]
    notes: list[Message]
    remembered: bool
    own_format: bool
    preview: Preview


class StoreIn(Schema):
    model_config = ConfigDict(extra="forbid")
    mapping: MappingIn
    leave_out_bad: bool = False


class ImportProgressOut(Schema):
    """The progress of an import; ``state`` is waiting, reading, done, cancelled or failed."""

    state: str
    done: int
    total: int
    stored: int
    known: int
    left_out: int
    problems: list[Problem]


@router.post("/lessons/{lesson_id}/drafts", response={201: DraftOut, 404: Problems, 413: Problems, 422: Problems})
def send_draft(request: CoachRequest, lesson_id: int, file: File[UploadedFile]) -> Status[Any]:
    """Upload a table; nothing is stored before its columns are confirmed."""
    lesson = lesson_of(request.user, lesson_id)
    draft = services.keep_draft(lesson, request.user, file.name or "file", file.chunks(), timezone.now())
    try:
        return Status(201, _shown(draft))
    except ValueError:
        services.drop_draft(draft)
        raise


@router.post("/drafts/{draft_id}/preview", response={200: Preview, 404: Problems, 422: Problems})
def preview_draft(request: CoachRequest, draft_id: int, data: MappingIn) -> Preview:
    """Return what would be imported with another mapping."""
    return selectors.preview_of(selectors.draft_of(request.user, draft_id), read_mapping(data.dict()))


@router.post("/drafts/{draft_id}/store", response={202: ImportProgressOut, 404: Problems, 409: Problems, 422: Problems})
def store_draft(request: CoachRequest, draft_id: int, data: StoreIn) -> Status[Any]:
    """Store the balls; poll for progress, or cancel."""
    draft = selectors.draft_of(request.user, draft_id)
    mapping = read_mapping(data.mapping.dict())
    draft = services.ask_to_store(draft, request.user, mapping, data.leave_out_bad, timezone.now())
    return Status(202, selectors.progress_of(draft))


@router.get("/drafts/{draft_id}/progress", response={200: ImportProgressOut, 404: Problems})
def draft_progress(request: CoachRequest, draft_id: int) -> ImportProgress:
    """Return the progress."""
    return selectors.progress_of(selectors.draft_of(request.user, draft_id))


@router.delete("/drafts/{draft_id}", response={204: None, 404: Problems})
def drop_draft(request: CoachRequest, draft_id: int) -> Status[Any]:
    """Delete the file, or cancel its import; nothing of it is stored then."""
    services.drop_draft(selectors.draft_of(request.user, draft_id))
    return Status(204, None)


def _shown(draft: Draft) -> dict[str, Any]:
    proposal, mapping, remembered = selectors.proposal_of(draft)
    return {
        "id": draft.pk,
        "name": draft.name,
        "mapping": selectors.mapping_as_json(mapping),
        "columns": list(proposal.columns),
        "notes": list(proposal.notes),
        "remembered": remembered,
        "own_format": proposal.own_format,
        "preview": selectors.preview_of(draft, mapping),
    }

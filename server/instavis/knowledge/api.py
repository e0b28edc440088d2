"""The knowledge: current entries, the head coach's changes, and their effect."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.accounts.access import heads
from instavis.accounts.requests import CoachRequest
from instavis.knowledge import selectors, services
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problems
from instavis_core.figure import CheckPicture, DrillPicture, check_picture, drill_picture
from instavis_core.knowledge import (
    EDITABLE,
    Cause,
    Caution,
    Check,
    Club,
    Drill,
    IntakeWord,
    Metric,
    School,
    Stage,
    load_motion,
)
from instavis_core.knowledge.model import Felt, Window
from instavis_core.message import Message

router = Router()


class SeriesOut(Schema):
    """A series of a recording: its name and unit."""

    id: str
    label: Message
    unit: str


class KnowledgeOut(Schema):
    """What the screens need from the knowledge."""

    metrics: list[Metric]
    clubs: list[Club]
    causes: list[Cause]
    checks: list[Check]
    windows: list[Window]
    series: list[SeriesOut]
    moments: list[str]
    intake_words: list[IntakeWord]
    drills: list[Drill]
    felt: list[Felt]
    stages: list[Stage]
    schools: list[School]
    cautions: list[Caution]
    words: dict[str, dict[str, Message]]


class VersionOut(Schema):
    """One version: who made it, when and why."""

    number: int
    note: str
    made_by: str
    made_at: datetime
    changes: dict[str, dict[str, dict[str, Any]]]


class VersionsOut(Schema):
    """All versions, newest first; what may be changed; and the shipped entries."""

    versions: list[VersionOut]
    editable: dict[str, list[str]]
    may_edit: bool
    shipped_causes: list[Cause]
    shipped_checks: list[Check]
    shipped_drills: list[Drill]
    shipped_windows: list[Window]


class ChangesIn(Schema):
    model_config = ConfigDict(extra="forbid")
    changes: dict[str, dict[str, dict[str, Any]]] = Field(default_factory=dict)
    note: str = Field("", max_length=200)


@router.get("/knowledge", response=KnowledgeOut)
def get_knowledge(request: CoachRequest) -> dict[str, Any]:
    """Return faults, checks, drills and words of the coach's academy."""
    known = selectors.knowledge_of(request.user.academy)
    motion = load_motion()
    return {
        "metrics": list(known.vocabulary.metrics.values()),
        "clubs": list(known.vocabulary.clubs.values()),
        "causes": list(known.causes.values()),
        "checks": list(known.checks.values()),
        "windows": list(known.windows.values()),
        "series": [{"id": s.id, "label": s.label, "unit": s.unit} for s in motion.series.values()],
        "moments": list(motion.moments),
        "intake_words": list(known.vocabulary.intake_words.values()),
        "drills": list(known.drills.values()),
        "felt": list(known.vocabulary.felt.values()),
        "stages": list(known.vocabulary.stages.values()),
        "schools": list(known.vocabulary.schools.values()),
        "cautions": list(known.vocabulary.cautions.values()),
        "words": known.vocabulary.words,
    }


@router.get("/knowledge/versions", response=VersionsOut)
def list_versions(request: CoachRequest) -> dict[str, Any]:
    """The academy's versions, newest first."""
    shipped = selectors.shipped()
    versions = request.user.academy.knowledge_versions.select_related("made_by")
    return {
        "versions": [
            {"number": v.number, "note": v.note, "made_by": v.made_by.name, "made_at": v.made_at, "changes": v.changes}
            for v in versions
        ],
        "editable": {table: list(fields) for table, fields in EDITABLE.items()},
        "may_edit": request.user.role == request.user.Role.HEAD,
        "shipped_causes": list(shipped.causes.values()),
        "shipped_checks": list(shipped.checks.values()),
        "shipped_drills": list(shipped.drills.values()),
        "shipped_windows": list(shipped.windows.values()),
    }


@router.post("/knowledge/versions", auth=heads, response={201: VersionOut, 409: Problems, 422: Problems})
def save_version(request: CoachRequest, data: ChangesIn) -> Status[Any]:
    """Save a new version (head coach); empty changes restore what ships."""
    version = services.save_version(request.user, data.changes, data.note, timezone.now())
    return Status(201, {**vars(version), "made_by": request.user.name})


@router.post("/lessons/{lesson_id}/judge-anew", response={204: None, 404: Problems})
def judge_anew(request: CoachRequest, lesson_id: int) -> Status[Any]:
    """Judge a lesson by the current version instead of the one it began with."""
    services.judge_anew(lesson_of(request.user, lesson_id))
    return Status(204, None)


@router.get("/figures/{check}", response={200: CheckPicture, 422: Problems})
def get_figure(request: HttpRequest, check: str, hand: str = "right", view: str = "") -> CheckPicture:
    """Return a drawn check: the figure without a fault and one for each answer."""
    return check_picture(check, hand, view)


@router.get("/drill-figures/{drill}", response={200: DrillPicture, 422: Problems})
def get_drill_figure(request: HttpRequest, drill: str, hand: str = "right") -> DrillPicture:
    """Return a drawn drill with its object."""
    return drill_picture(drill, hand)

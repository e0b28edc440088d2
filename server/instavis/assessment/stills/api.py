"""Pictures: upload, landmarks, measurement, display, discard."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.http import HttpResponse
from django.utils import timezone
from ninja import File, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import ConfigDict, Field

from instavis.accounts.requests import CoachRequest
from instavis.assessment.stills import selectors, services
from instavis.assessment.stills.models import Still
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problems
from instavis_core.knowledge.stills import load_stills
from instavis_core.message import Message
from instavis_core.stills import Measured

router = Router()


class ScaleIn(Schema):
    """A known length: its two ends [px] and its length [cm]."""

    model_config = ConfigDict(extra="forbid")
    a: list[float] = Field(min_length=2, max_length=2)
    b: list[float] = Field(min_length=2, max_length=2)
    length_cm: float


class StillOut(Schema):
    """A picture and its measurement; ``address_id`` is the picture it is compared with."""

    id: int
    check: str
    view: str
    width: int
    height: int
    points: dict[str, list[float]]
    scale: ScaleIn | None
    added_at: datetime
    address_id: int | None
    measured: Measured | None


class StillChange(Schema):
    """Landmarks [px], the known length; discarded or restored."""

    model_config = ConfigDict(extra="forbid")
    points: dict[str, list[float]] | None = Field(None, max_length=40)
    scale: ScaleIn | None = None
    dropped: bool | None = None


class GuideOut(Schema):
    """How a check is measured: its landmarks in clicking order."""

    check: str
    label: Message
    view: str
    moment: str
    points: list[str]
    since_address: bool
    needs_length: bool


class StillsOut(Schema):
    """The pictures of a lesson, how checks are measured, and the names of landmarks."""

    stills: list[StillOut]
    guides: list[GuideOut]
    landmarks: dict[str, Message]


def _shown(still: Still) -> StillOut:
    address = selectors.address_of(still) if still.check_id else None
    return StillOut(
        **{name: getattr(still, name) for name in ("id", "view", "width", "height", "points", "added_at")},
        check=still.check_id,
        scale=ScaleIn(**still.scale) if still.scale else None,
        address_id=address.pk if address else None,
        measured=selectors.measured(still),
    )


@router.get("/lessons/{lesson_id}/stills", response={200: StillsOut, 404: Problems})
def list_stills(request: CoachRequest, lesson_id: int) -> dict[str, Any]:
    """List the pictures with their measurements."""
    table = load_stills()
    guides = [
        GuideOut(
            check=m.check,
            label=m.label,
            view=m.view,
            moment=m.moment,
            points=list(m.points),
            since_address=m.since_address,
            needs_length=m.unit == "cm",
        )
        for m in table.measures.values()
    ]
    stills = [_shown(s) for s in selectors.stills_of(lesson_of(request.user, lesson_id))]
    return {"stills": stills, "guides": guides, "landmarks": table.landmarks}


@router.post(
    "/lessons/{lesson_id}/stills", response={201: StillOut, 404: Problems, 409: Problems, 413: Problems, 422: Problems}
)
def send_still(
    request: CoachRequest, lesson_id: int, file: File[UploadedFile], check: str = "", view: str = "face-on"
) -> Status[Any]:
    """Store a picture for a check; without a check it is the address picture of a view."""
    lesson = lesson_of(request.user, lesson_id)
    still = services.keep_still(lesson, check, view, file.read(), timezone.now())
    return Status(201, _shown(still))


@router.get("/stills/{still_id}", response={200: StillOut, 404: Problems})
def get_still(request: CoachRequest, still_id: int) -> StillOut:
    """Return one picture and its measurement."""
    return _shown(selectors.still_of(request.user, still_id))


@router.patch("/stills/{still_id}", response={200: StillOut, 404: Problems, 422: Problems})
def change_still(request: CoachRequest, still_id: int, data: StillChange) -> StillOut:
    """Change landmarks or known length, discard, restore."""
    still = selectors.still_of(request.user, still_id)
    scale = data.scale.dict() if data.scale else None
    return _shown(services.change_still(still, data.points, scale, data.dropped, timezone.now()))


@router.get("/stills/{still_id}/picture", response={200: None, 404: Problems})
def get_picture(request: CoachRequest, still_id: int) -> HttpResponse:
    """Return the picture file."""
    still = selectors.still_of(request.user, still_id)
    return HttpResponse(
        bytes(still.image), content_type="image/jpeg", headers={"Cache-Control": "private, max-age=86400"}
    )

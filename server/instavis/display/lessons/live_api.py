"""The lesson's log for screens without a socket."""

from __future__ import annotations

from typing import Any

from ninja import Router

from instavis.accounts.requests import CoachRequest
from instavis.corrections.proofs.api import proof_out
from instavis.display.lessons.messages import Missed
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problems

router = Router()
MAX_EVENTS = 200


@router.get("/lessons/{lesson_id}/events", response={200: Missed, 404: Problems})
def list_events(request: CoachRequest, lesson_id: int, after: int = 0) -> dict[str, Any]:
    """Return at most 200 events after a cursor, as the live connection would send them."""
    lesson = lesson_of(request.user, lesson_id)
    events = list(lesson.events.filter(cursor__gt=after).values("cursor", "kind", "data")[:MAX_EVENTS])
    out_of_sync = after > lesson.last_event or (events and events[0]["cursor"] > after + 1)
    return {
        "events": [] if out_of_sync else events,
        "proof": {"kind": "proof", "data": proof_out(lesson)},
        "resync": {"kind": "resync", "cursor": lesson.last_event} if out_of_sync else None,
    }

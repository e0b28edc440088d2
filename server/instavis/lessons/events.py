"""The event log of a lesson and notifications to its screens."""

from __future__ import annotations

import secrets
from enum import StrEnum
from typing import Any

from django.db import transaction

from instavis.lessons.models import Lesson, LessonEvent
from instavis.platform.lines import call

MAX_EVENTS = 3000  # events of a lesson
MAX_EVENTS_SENT = 20  # events sent with the notification; a screen that misses some reads them from the log


class Aspect(StrEnum):
    """The part of a lesson that changed, for screens that show it."""

    STATION = "station"
    LESSON = "lesson"
    BAY = "bay"
    BLOCK = "block"
    SHOTS = "shots"
    INTAKE = "intake"
    SETUP = "setup"
    CHECKS = "checks"
    RECORDINGS = "recordings"
    STILLS = "stills"
    CORRECTION = "correction"
    PROOF = "proof"
    TRIAL = "trial"
    TAKE_HOME = "take-home"
    REFUSED = "refused"


def group_of(lesson_id: int) -> str:
    """The channel group of a lesson's screens."""
    return f"lesson-{lesson_id}"


def locked_lesson(lesson_id: int) -> Lesson:
    """Lock the lesson's row; writers of balls and events wait here in turn."""
    return Lesson.objects.select_for_update().select_related("student", "academy", "open_block").get(pk=lesson_id)


def log_change(lesson: Lesson, what: Aspect) -> None:
    """Append to a locked lesson's log that something changed."""
    log(lesson, "lesson", [{"changed": str(what)}])


def log(lesson: Lesson, kind: str, items: list[dict[str, Any]]) -> None:
    """Append events to a locked lesson and notify screens after the commit."""
    if not items:
        return
    events = []
    for data in items:
        lesson.last_event += 1
        events.append(LessonEvent(lesson=lesson, cursor=lesson.last_event, kind=kind, data=data))
    LessonEvent.objects.bulk_create(events)
    lesson.state = secrets.token_hex(8)
    lesson.save(update_fields=["last_event", "state", "last_ball", "open_block"])
    result = [{"cursor": e.cursor, "kind": e.kind, "data": e.data} for e in events[:MAX_EVENTS_SENT]]
    transaction.on_commit(lambda: _tell(lesson.pk, result, events[-1].cursor))


def shorten_logs() -> int:
    """Shorten the logs of long lessons; a screen that is far behind must fetch everything."""
    dropped = 0
    for pk, last in Lesson.objects.filter(last_event__gt=MAX_EVENTS).values_list("pk", "last_event"):
        dropped += LessonEvent.objects.filter(lesson_id=pk, cursor__lte=last - MAX_EVENTS).delete()[0]
    return dropped


def _tell(lesson_id: int, events: list[dict[str, Any]], last: int) -> None:
    call(group_of(lesson_id), {"type": "lesson.moved", "events": events, "last": last})

"""The practice schedule as an iCalendar file: all-day events, so that no clock change moves them."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta

from icalendar import Calendar, Event

from instavis.lessons.models import Lesson
from instavis.platform.language import spoken
from instavis_core.message import Message
from instavis_core.progress import PlannedDay


def calendar_of(lesson: Lesson, days: Sequence[PlannedDay], now: datetime) -> bytes:
    """Return one all-day event for each practice day; a day keeps its identity when the file is made again."""
    calendar = Calendar()
    calendar.add("prodid", "-//Instavis//practice//EN")
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    for session in days:
        event = Event()
        event.add("uid", f"lesson-{lesson.pk}-{session.planned:%Y%m%d}@instavis")
        event.add("dtstamp", now)
        event.add("dtstart", session.day)
        event.add("dtend", session.day + timedelta(days=1))
        event.add("summary", spoken(Message("practice-practice-minutes", minutes=session.minutes)))
        event.add("description", spoken(session.text))
        event.add("transp", "TRANSPARENT")
        calendar.add_component(event)
    return calendar.to_ical()

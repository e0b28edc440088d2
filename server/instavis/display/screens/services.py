"""Pair and disconnect second screens."""

from __future__ import annotations

from datetime import datetime

from instavis.display.screens.models import Screen
from instavis.lessons.models import Lesson
from instavis.platform.pairing import pair
from instavis.platform.transactions import transactional
from instavis_core.message import Message

WRONG = Message("lesson-code-not-valid-lesson-ask")


@transactional
def offer_screen(lesson: Lesson, now: datetime) -> tuple[Screen, str]:
    """Create a code for a second screen, shown only now; unused codes expire."""
    lesson.screens.filter(paired_at__isnull=True, ended_at__isnull=True).update(ended_at=now)
    screen = Screen(lesson=lesson)
    code = screen.offer(now)
    screen.save()
    return screen, code


@transactional
def pair_screen(code: str, address: str, now: datetime) -> str:
    """Exchange a code for a token; each code pairs one screen.

    Raises
    ------
    Refused
        For a wrong or used code, and for too many wrong ones.
    """
    return pair(Screen, "screen", code, address, now, WRONG)[1]


def end_screens(lesson: Lesson, now: datetime) -> None:
    """Disconnect every second screen of a lesson."""
    lesson.screens.filter(ended_at__isnull=True).update(ended_at=now)

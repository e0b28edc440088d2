"""Pairing and ending second screens."""

from __future__ import annotations

import secrets
from datetime import datetime, timedelta

from instavis.display.screens.models import Screen
from instavis.lessons.models import Lesson
from instavis.platform import throttle
from instavis.platform.errors import Refused
from instavis.platform.keys import hash_token
from instavis.platform.transactions import whole
from instavis_core.message import Message

CODE_LASTS = timedelta(minutes=5)
CODE_DIGITS = 6
MOST_GUESSES, GUESS_WINDOW = 12, 60  # wrong codes from one address in so many seconds


@whole
def offer_screen(lesson: Lesson, now: datetime) -> tuple[Screen, str]:
    """A code for a second screen, told only now; codes that were not used end."""
    lesson.screens.filter(paired_at__isnull=True, ended_at__isnull=True).update(ended_at=now)
    code = f"{secrets.randbelow(10**CODE_DIGITS):0{CODE_DIGITS}d}"
    screen = Screen.objects.create(lesson=lesson, code_hash=hash_token(code), code_until=now + CODE_LASTS)
    return screen, code


@whole
def pair_screen(code: str, address: str, now: datetime) -> str:
    """The token for a code; each code pairs one screen.

    Raises
    ------
    Refused
        For a wrong or used code, and for too many wrong ones.
    """
    if throttle.counted("screen", address) >= MOST_GUESSES:
        raise Refused(429, "code", Message("Too many wrong codes. Wait a minute."))
    rows = Screen.objects.select_for_update().filter(
        code_hash=hash_token(code.strip()), code_until__gt=now, paired_at__isnull=True, ended_at__isnull=True
    )
    screen = rows.first()
    if screen is None:
        throttle.count("screen", address, window=GUESS_WINDOW)
        raise Refused(404, "code", Message("This code does not open a lesson. Ask for a new one."))
    token = secrets.token_urlsafe(32)
    screen.token_hash, screen.paired_at = hash_token(token), now
    screen.save(update_fields=["token_hash", "paired_at"])
    return token


def end_screens(lesson: Lesson, now: datetime) -> None:
    """Close every second screen of a lesson."""
    lesson.screens.filter(ended_at__isnull=True).update(ended_at=now)

"""Sessions in the database under the hash of their key, so a backup contains nobody's session."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from hashlib import sha256
from typing import Any, cast

from django.contrib.auth import get_user, logout
from django.contrib.auth.signals import user_logged_in
from django.contrib.sessions.backends.base import SessionBase
from django.contrib.sessions.backends.db import SessionStore as DatabaseStore
from django.contrib.sessions.base_session import AbstractBaseSession
from django.dispatch import receiver
from django.http import HttpRequest
from django.http.response import HttpResponseBase
from django.utils import timezone

from instavis.accounts.models import Coach, CoachSession
from instavis.platform.errors import Refused, not_found
from instavis.platform.lines import call, coach_group, session_group
from instavis.platform.throttle import address_of
from instavis_core.message import Message

COACH, BEGUN, SEEN, BROWSER, ADDRESS = "_auth_user_id", "begun", "seen", "browser", "address"
CONFIRMED, FACTOR = "confirmed", "factor"
SEEN_EVERY = 600
"""Seconds after which a session's last use is written again."""
LONGEST = 14 * 24 * 3600
"""Seconds after which a session ends even if it is used."""
CONFIRMED_FOR = 10 * 60
"""Seconds in which a person who confirmed their identity may change sign-in methods."""

BROWSERS = (("Edg/", "Edge"), ("OPR/", "Opera"), ("Firefox/", "Firefox"), ("Chrome/", "Chrome"), ("Safari/", "Safari"))
SYSTEMS = (
    ("iPhone", "iPhone"),
    ("iPad", "iPad"),
    ("Android", "Android"),
    ("Windows", "Windows"),
    ("Mac OS X", "macOS"),
    ("CrOS", "ChromeOS"),
    ("Linux", "Linux"),
)
"""What browsers and systems call themselves; the first match counts."""


def stored_key(session_key: str) -> str:
    """Return the database's name of a session key: 40 characters fit its column."""
    return sha256(session_key.encode()).hexdigest()[:40]


class SessionStore(DatabaseStore):
    """Django's session store, except that it stores a hash of the key and can list a coach's sessions."""

    @classmethod
    def get_model_class(cls) -> type[AbstractBaseSession]:
        """The table of sessions."""
        return CoachSession

    def _get_session_from_db(self) -> AbstractBaseSession | None:
        stored = CoachSession.objects.filter(session_key=stored_key(self.session_key or ""))
        found = stored.filter(expire_date__gt=timezone.now()).first()
        if found is None:  # Django forgets the key of a session that does not exist
            self._session_key = None
        return found

    def exists(self, session_key: str) -> bool:
        """Return whether a session with that key exists."""
        return bool(super().exists(stored_key(session_key)))

    def create_model_instance(self, data: dict[str, Any]) -> AbstractBaseSession:
        """Return the row of this session."""
        row = cast(CoachSession, super().create_model_instance(data))
        row.session_key = stored_key(row.session_key)
        row.coach_id = int(data[COACH]) if data.get(COACH) else None
        row.begun_at, row.seen_at = _moment(data.get(BEGUN)), _moment(data.get(SEEN))
        row.browser, row.address = data.get(BROWSER, ""), data.get(ADDRESS, "")
        return row

    def delete(self, session_key: str | None = None) -> None:
        """Delete a session, by default this one."""
        key = session_key if session_key is not None else self.session_key
        if key is not None:
            super().delete(stored_key(key))


def _moment(seconds: int | None) -> datetime | None:
    return None if seconds is None else datetime.fromtimestamp(seconds, UTC)


@receiver(user_logged_in)
def _begin(sender: type[Coach], request: HttpRequest, **kwargs: Any) -> None:
    now = int(time.time())
    text = {BEGUN: now, SEEN: now, CONFIRMED: now, BROWSER: browser_of(request), ADDRESS: address_of(request)}
    request.session.update(text)


def browser_of(request: HttpRequest) -> str:
    """Return what a browser calls itself in a few words: ``Firefox, Linux``."""
    agent = request.META.get("HTTP_USER_AGENT", "")
    named = [next((name for sign, name in kinds if sign in agent), "") for kinds in (BROWSERS, SYSTEMS)]
    return ", ".join(filter(None, named))


@dataclass
class _Asking:
    """The part of a request that Django needs to find a session's coach."""

    session: SessionBase


def coach_of(session_key: str | None) -> Coach | None:
    """Return the current coach of a session: None once it has ended, its password was changed, or it lacks what the
    academy requires.
    """
    if session_key is None:
        return None
    asking = cast(HttpRequest, _Asking(SessionStore(session_key)))
    user = get_user(asking)
    return user if isinstance(user, Coach) and user.is_active and not lacks_factor(asking, user) else None


def sessions_of(coach: Coach) -> list[CoachSession]:
    """Return a coach's open sessions, the most recent first."""
    return list(coach.sessions.filter(expire_date__gt=timezone.now()).order_by("-seen_at", "session_key"))


def named(row: CoachSession) -> str:
    """Return a session's public name, which reveals neither its key nor its hash."""
    return sha256(row.session_key.encode()).hexdigest()[:16]


def end_session(coach: Coach, name: str) -> None:
    """End one of a coach's sessions and its live connections.

    Raises
    ------
    Refused
        When the coach has none of that name.
    """
    row = next((row for row in sessions_of(coach) if named(row) == name), None)
    if row is None:
        raise not_found("session")
    _end(row)


def end_other_sessions(coach: Coach, but: str | None) -> int:
    """End all of a coach's sessions except the one with a key; return how many."""
    others = [row for row in sessions_of(coach) if but is None or row.session_key != stored_key(but)]
    for row in others:
        _end(row)
    return len(others)


def _end(row: CoachSession) -> None:
    CoachSession.objects.filter(pk=row.pk).delete()
    call(session_group(row.session_key), {"type": "session.ended"})


def end_lines(coach: Coach) -> None:
    """Close the live connections of a person whose sessions are over."""
    call(coach_group(coach.pk), {"type": "session.ended"})


def check_lines(coach: Coach) -> None:
    """Tell the live connections of a coach whose rights changed to check whether they may stay open."""
    call(coach_group(coach.pk), {"type": "rights.changed"})


def drop_ended_sessions(now: datetime) -> int:
    """Delete expired sessions; return how many."""
    return CoachSession.objects.filter(expire_date__lt=now).delete()[0]


def confirm(request: HttpRequest) -> None:
    """Record that the person confirmed their identity just now."""
    request.session[CONFIRMED] = int(time.time())


def show_factor(request: HttpRequest) -> None:
    """Record that the person showed more than a password in this session, or has just set up a second factor."""
    request.session[FACTOR] = True


def lacks_factor(request: HttpRequest, coach: Coach) -> bool:
    """Return whether the academy requires a second factor that was not shown in this session."""
    return coach.academy.asks_for_factor and not request.session.get(FACTOR)


def ask_to_confirm(request: HttpRequest) -> None:
    """Ask for confirmation before a sign-in method changes.

    Raises
    ------
    Refused
        When it is too long ago that they showed who they are.
    """
    if time.time() - request.session.get(CONFIRMED, 0) > CONFIRMED_FOR:
        raise Refused(403, "confirm", Message("account-enter-your-password-again-first"))


class SessionAgeMiddleware:
    """Ends a session that is too old; records, not too often, that a younger one is in use."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        if request.user.is_authenticated:
            now = int(time.time())
            begun = request.session.setdefault(BEGUN, now)
            if now - begun > LONGEST:
                logout(request)
            elif now - request.session.get(SEEN, 0) > SEEN_EVERY:
                request.session.update({SEEN: now, ADDRESS: address_of(request)})
        return self.get_response(request)

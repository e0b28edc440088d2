"""Sessions in the database under the hash of their key: who reads a backup holds nobody's session."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from hashlib import sha256
from typing import Any, cast

from django.contrib.auth import get_user, logout
from django.contrib.sessions.backends.base import SessionBase
from django.contrib.sessions.backends.db import SessionStore as DatabaseStore
from django.contrib.sessions.base_session import AbstractBaseSession
from django.contrib.sessions.models import Session
from django.http import HttpRequest
from django.http.response import HttpResponseBase
from django.utils import timezone

from instavis.accounts.models import Coach

BEGUN, SEEN = "begun", "seen"
SEEN_EVERY = 600
"""Seconds after which a sign of life is written again."""
LONGEST = 14 * 24 * 3600
"""Seconds after which a session ends, however lively."""


def kept_key(session_key: str) -> str:
    """What the database knows of a session's key: 40 characters fit its column."""
    return sha256(session_key.encode()).hexdigest()[:40]


class SessionStore(DatabaseStore):
    """Django's own, but that the cookie's key is not what is kept."""

    def _get_session_from_db(self) -> AbstractBaseSession | None:
        rows = Session.objects.filter(session_key=kept_key(self.session_key or ""), expire_date__gt=timezone.now())
        found = rows.first()
        if found is None:  # Django forgets the key of a session that is not there
            self._session_key = None
        return found

    def exists(self, session_key: str) -> bool:
        """Whether a session of that key is kept."""
        return bool(super().exists(kept_key(session_key)))

    def create_model_instance(self, data: dict[str, Any]) -> AbstractBaseSession:
        """The row of this session."""
        row = super().create_model_instance(data)
        row.session_key = kept_key(row.session_key)
        return row

    def delete(self, session_key: str | None = None) -> None:
        """Forget a session, this one unless told otherwise."""
        key = session_key if session_key is not None else self.session_key
        if key is not None:
            super().delete(kept_key(key))


@dataclass
class _Asking:
    """As much of a request as Django needs to tell whose session it is."""

    session: SessionBase


def coach_of(session_key: str | None) -> Coach | None:
    """Whose session it is as things stand now: nobody's once it has ended or its password was changed."""
    if session_key is None:
        return None
    user = get_user(cast(HttpRequest, _Asking(SessionStore(session_key))))
    return user if isinstance(user, Coach) and user.is_active else None


class SessionAgeMiddleware:
    """Ends a session that is too old; writes down, not too often, that a younger one is alive."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        if request.user.is_authenticated:
            now = int(time.time())
            begun = request.session.setdefault(BEGUN, now)
            if now - begun > LONGEST:
                logout(request)
            elif now - request.session.get(SEEN, 0) > SEEN_EVERY:
                request.session[SEEN] = now
        return self.get_response(request)

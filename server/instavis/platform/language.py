"""The language and the units that the sentences of one answer are said in: the reader's own."""

from __future__ import annotations

from collections.abc import Callable
from contextvars import ContextVar
from typing import Protocol

from django.http import HttpRequest
from django.http.response import HttpResponseBase
from django.utils import translation

from instavis_core.message import Message
from instavis_report.catalog import ENGLISH, METRIC, PSEUDO, catalog

DATES_IN_ENGLISH = "en-gb"


class Reader(Protocol):
    """Whom something is said to: a coach, or whoever holds a link of that coach's."""

    language: str
    units: str


_spoken: ContextVar[tuple[str, str]] = ContextVar("language and units", default=(ENGLISH, METRIC))


def speak_to(reader: Reader | None) -> None:
    """Say everything from here on as this reader reads it; in plain English to nobody in particular."""
    language, units = (ENGLISH, METRIC) if reader is None else (reader.language, reader.units)
    _spoken.set((language, units))
    translation.activate(DATES_IN_ENGLISH if language in (ENGLISH, PSEUDO) else language)


def language() -> str:
    """The code of the language that is spoken now."""
    return _spoken.get()[0]


def spoken(text: str) -> str:
    """A text in the reader's language and units; what is no message stays."""
    return catalog(*_spoken.get()).render(text)


Message.render = staticmethod(spoken)


class LanguageMiddleware:
    """A signed-in coach reads in the language of the settings; everybody else in English until a page knows better."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        user = getattr(request, "user", None)
        speak_to(user if user is not None and user.is_authenticated else None)
        return self.get_response(request)

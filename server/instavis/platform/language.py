"""The language and units of one answer: the reader's own."""

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
    """The reader of a text: a coach, or the holder of that coach's link."""

    language: str
    units: str


_spoken: ContextVar[tuple[str, str]] = ContextVar("language and units", default=(ENGLISH, METRIC))


def speak_to(reader: Reader | None) -> None:
    """Use this reader's language and units from here on; plain English without a reader."""
    language, units = (ENGLISH, METRIC) if reader is None else (reader.language, reader.units)
    _spoken.set((language, units))
    translation.activate(DATES_IN_ENGLISH if language in (ENGLISH, PSEUDO) else language)


def language() -> str:
    """Return the code of the current language."""
    return _spoken.get()[0]


def spoken(text: str) -> str:
    """Return a text in the reader's language and units; text that is not a message is unchanged."""
    return catalog(*_spoken.get()).render(text)


Message.render = staticmethod(spoken)


class LanguageMiddleware:
    """Signed-in coaches read in the language of their settings; everyone else in English until a page knows better."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        user = getattr(request, "user", None)
        speak_to(user if user is not None and user.is_authenticated else None)
        return self.get_response(request)

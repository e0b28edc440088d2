"""The language that the sentences of one answer are said in: the reader's own."""

from __future__ import annotations

from collections.abc import Callable
from contextvars import ContextVar

from django.http import HttpRequest
from django.http.response import HttpResponseBase

from instavis_core.message import Message
from instavis_report.catalogue import ENGLISH, catalogue

_spoken: ContextVar[str] = ContextVar("language", default=ENGLISH)


def speak(language: str) -> None:
    """Say everything from here on in a language."""
    _spoken.set(language)


def language() -> str:
    """The code of the language that is spoken now."""
    return _spoken.get()


def spoken(text: str) -> str:
    """A text in the reader's language; what is no message stays."""
    return catalogue(_spoken.get()).say(text)


Message.spoken = staticmethod(spoken)


class LanguageMiddleware:
    """A signed-in coach reads in the language of the settings; everybody else in English until a page knows better."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        user = getattr(request, "user", None)
        speak(user.language if user is not None and user.is_authenticated else ENGLISH)
        return self.get_response(request)

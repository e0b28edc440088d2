"""How request bodies are read: leniently from devices, which cannot correct what they sent."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Iterator
from typing import Any

from django.http import HttpRequest
from django.http.response import HttpResponseBase
from ninja.parser import Parser

from instavis.platform.errors import answer, problem_of
from instavis_core.errors import InputError
from instavis_core.message import Message

DEVICE_SHOTS = "/api/device/v1/shots"
MAX_DIGITS = 400


_HALVES = re.compile(rb"\\u[dD][89a-fA-F]|\xed[\xa0-\xbf]")
"""How a body may contain half a character: as an escape, or as bytes that `json.loads` accepts."""


class HalfCharacterMiddleware:
    """Refuse texts with half a character (a lone surrogate), which no database stores, and name the field.

    A device cannot correct what it sent, so its balls are stored unchanged.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        """Answer 422, or continue."""
        json_body = request.content_type == "application/json" and request.path != DEVICE_SHOTS
        if json_body and _HALVES.search(request.body):
            try:
                half = next(_halves(json.loads(request.body)), None)
            except (ValueError, RecursionError):
                half = None  # not JSON: the reader reports it
            if half is not None:
                field, text = half
                shown = text.encode("ascii", "backslashreplace").decode()
                return answer(
                    422, [problem_of(InputError(field, shown, Message("server-text-without-broken-characters")))]
                )
        return self._get_response(request)


def _halves(value: Any, field: str = "") -> Iterator[tuple[str, str]]:
    """Yield texts of a document with half a character, and their place."""
    if isinstance(value, str):
        if any("\ud800" <= character <= "\udfff" for character in value):
            yield field or "body", value
    elif isinstance(value, dict):
        for name, inner in value.items():
            yield from _halves(str(name), field)
            yield from _halves(inner, f"{field}.{name}".lstrip("."))
    elif isinstance(value, list):
        for i, inner in enumerate(value):
            yield from _halves(inner, f"{field}[{i}]")


class BodyParser(Parser):
    """Reads JSON with whole numbers of any length; a device's batch that is not JSON becomes one odd record."""

    def parse_body(self, request: HttpRequest) -> Any:
        """Return the document of a body.

        Raises
        ------
        ValueError, RecursionError
            For what is no JSON, unless it is a device's batch: that is refused as a record is, and kept.
        """
        try:
            return json.loads(request.body, parse_int=_bounded_int)
        except (ValueError, RecursionError):
            if request.path != DEVICE_SHOTS:
                raise
            return {"shots": [request.body.decode("utf-8", "backslashreplace")]}


def _bounded_int(text: str) -> int | float:
    """`int()` rejects numbers of thousands of digits; as a float they are infinite, and validation names the field."""
    return int(text) if len(text) <= MAX_DIGITS else float(text)

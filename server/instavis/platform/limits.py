"""Requests that are too large are refused before a byte of them is read."""

from __future__ import annotations

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from instavis.platform.errors import Problem, answer
from instavis_core.message import Message


class UploadLimitMiddleware:
    """413 in the common shape for a body above the limit."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        length = request.headers.get("Content-Length") or "0"
        limit = settings.MOST_UPLOAD_BYTES
        if not length.isdigit() or int(length) > limit:
            megabytes = limit // 1024 // 1024
            expected = Message("at most {megabytes} MB", megabytes=megabytes)
            message = Message(
                "The upload has {length} bytes; expected {expected}. Split the file.", length=length, expected=expected
            )
            return answer(413, [Problem(field="file", message=message, expected=expected)])
        return self.get_response(request)

"""Django in a thread pool: complete answers, and no state left over from an earlier request."""

from __future__ import annotations

import asyncio
import json
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from types import ModuleType

import pytest
from django.http import HttpRequest, StreamingHttpResponse
from django.urls import path

from instavis.platform.language import speak_to
from instavis.platform.threads import Threads


@dataclass(frozen=True)
class Reader:
    language: str = "xx"
    units: str = "yd-mph"


def answer_of(
    threads: Threads, address: str, query: bytes = b"", host: bytes = b"127.0.0.1"
) -> tuple[int, dict, bytes]:
    """Status, headers and body of a GET."""
    events: list[dict] = []
    scope = {
        "type": "http",
        "method": "GET",
        "path": address,
        "query_string": query,
        "headers": [(b"host", host)],
        "client": ("127.0.0.1", 1),
        "server": ("127.0.0.1", 80),
    }

    async def receive():
        return {"type": "http.request", "body": b"", "more_body": False}

    async def send(event):
        events.append(event)

    # In a thread of its own: this one may have a loop that a browser's driver runs.
    with ThreadPoolExecutor(1) as beside:
        beside.submit(asyncio.run, threads(scope, receive, send)).result()
    start, *parts = events
    return start["status"], dict(start["headers"]), b"".join(part["body"] for part in parts)


def in_parts(request: HttpRequest) -> StreamingHttpResponse:
    answer = StreamingHttpResponse(iter(["one ", "two"]))
    answer.set_cookie("kept", "1")
    answer.set_cookie("also", "2")
    return answer


@pytest.fixture
def threads(settings):
    settings.ROOT_URLCONF = ModuleType("addresses")
    settings.ROOT_URLCONF.urlpatterns = [path("parts", in_parts)]
    made = Threads(1)
    yield made
    made.pool.shutdown()


def test_answer_is_complete_with_headers(threads):
    status, headers, body = answer_of(threads, "/parts")
    assert (status, body) == (200, b"one two")
    assert headers[b"X-Content-Type-Options"] == b"nosniff"
    assert b"also=2" in headers[b"Set-Cookie"]


def test_unreadable_address_is_refused_in_the_common_shape(threads):
    status, _, body = answer_of(threads, "/parts", query=b"\xff")
    assert status == 400
    assert json.loads(body)["errors"][0]["field"] == "address"


def test_language_does_not_leak_between_requests(threads):
    threads.pool.submit(speak_to, Reader()).result()
    status, _, body = answer_of(threads, "/parts", host=b"elsewhere.example")
    assert status == 400
    assert json.loads(body)["errors"][0]["message"].startswith("This server does not accept that host name.")

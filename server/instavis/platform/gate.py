"""The gate that every request passes before Django: its size, its speed, and how many run at once.

A body is read here, within its limits of size and time, before any work starts; then the request waits for its turn.
Limiting the work of a process limits its memory and its database connections.
"""

from __future__ import annotations

import asyncio
import contextlib
import json
import logging
import re
import secrets
import time
from collections.abc import Awaitable, Callable, MutableMapping
from contextlib import AsyncExitStack
from dataclasses import dataclass, field
from typing import Any

from instavis.platform import metrics
from instavis_core.message import Message
from instavis_report.catalog import english

Scope = MutableMapping[str, Any]
Event = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Event]]
Send = Callable[[Event], Awaitable[None]]
App = Callable[[Scope, Receive, Send], Awaitable[None]]

logger = logging.getLogger("instavis.requests")

LONGEST_ADDRESS = 4000
ANONYMOUS_BYTES = 64 * 1024
"""Body size allowed without a session or a token."""
LARGE_BYTES = 1024 * 1024
CHUNK_SECONDS, BODY_SECONDS = 15.0, 90.0
"""How long a sender may be silent, and how long a whole body may take."""
DRAIN_BYTES, DRAIN_SECONDS = 64 * 1024 * 1024, 15.0
PLACE_SECONDS = 20.0
"""How long a request waits for its turn before it is asked to retry."""
AT_ONCE = 10
ALWAYS = ("/healthz", "/readyz")
HEAVY = (
    # The hash of a password takes 100 MB.
    ("POST", re.compile(r"^/api/v1/(?:session(?:/password|/confirmed)?|(?:join|password)/[^/]+)$")),
    ("POST", re.compile(r"^/api/v1/archives$")),
    ("POST", re.compile(r"^/api/v1/lessons/\d+/stills$")),
    ("POST", re.compile(r"^/api/v1/lessons/\d+/recordings$")),
    ("POST", re.compile(r"^/api/v1/lessons/\d+/drafts$")),
    ("POST", re.compile(r"^/api/device/v1/recordings$")),
    ("GET", re.compile(r"^/api/v1/(?:lessons|students)/\d+/archive$")),
    ("GET", re.compile(r"pdf$")),
)
"""Requests that take a lot of memory or processor time: only a few of these run at once."""
SECRET_PARTS = re.compile(r"(?<=/)[A-Za-z0-9_.:%-]{20,}(?=/|$)")
"""Links and tokens in addresses, which must not appear in a log."""


@dataclass
class _Request:
    """What is learned about a request, for its line in the log."""

    id: str
    method: str
    path: str
    begun: float = field(default_factory=time.monotonic)
    status: int = 0
    fields: dict[str, Any] = field(default_factory=dict)


class _Turned(Exception):
    """A request that is answered by the gate."""

    def __init__(self, status: int, field: str, message: Message) -> None:
        self.status, self.field, self.message = status, field, message
        super().__init__(message)


class Gate:
    """An ASGI application around another one.

    ``at_once`` requests run at the same time, ``heavy`` of them of the expensive kind; ``large`` bodies are read at
    once, and ``waiting`` more wait; further requests are asked to retry.
    """

    def __init__(
        self, app: App, *, most_bytes: int, at_once: int = AT_ONCE, heavy: int = 2, large: int = 8, waiting: int = 600
    ) -> None:
        self.app, self.most_bytes = app, most_bytes
        self.places, self.heavy, self.large = (asyncio.Semaphore(n) for n in (at_once, heavy, large))
        self.most_waiting, self.waiting = waiting, 0

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on, or answer it here."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        request = _Request(secrets.token_hex(8), scope["method"], scope["path"])
        scope["log_fields"] = request.fields
        places = AsyncExitStack()

        async def answer(event: Event) -> None:
            if event["type"] == "http.response.start":
                request.status = event["status"]
                event["headers"] = [*event.get("headers", ()), (b"x-request-id", request.id.encode())]
                # The work is done: a slow reader blocks nobody.
                await places.aclose()
            await send(event)

        try:
            async with places:
                if scope["path"] in ALWAYS:
                    await self.app(scope, receive, answer)
                else:
                    body = await self._body(scope, receive)
                    await self._place(places, scope)
                    await self.app(scope, _again(body, receive), answer)
        except _Turned as turned:
            await _refuse(answer, turned)
        except _Gone:
            request.status = 499
        finally:
            _log(request)

    async def _body(self, scope: Scope, receive: Receive) -> bytes:
        headers = dict(scope["headers"])
        if len(scope["path"]) + len(scope["query_string"]) > LONGEST_ADDRESS:
            raise _Turned(414, "address", Message("server-address-longer-characters", most=LONGEST_ADDRESS))
        known = b"instavis_session=" in headers.get(b"cookie", b"") or b"authorization" in headers
        most = self.most_bytes if known else ANONYMOUS_BYTES
        length = headers.get(b"content-length", b"0")
        if not length.isdigit() or int(length) > most:
            await _drain(receive)
            raise _too_large(length.decode("ascii", "replace"), most)
        if int(length) > LARGE_BYTES or b"transfer-encoding" in headers:
            if self.large.locked():
                raise _busy()
            async with self.large:
                return await _read(receive, most)
        return await _read(receive, most)

    async def _place(self, places: AsyncExitStack, scope: Scope) -> None:
        """Wait for a turn; expensive requests wait for two."""
        if self.waiting >= self.most_waiting:
            raise _busy()
        self.waiting += 1
        wanted = [self.places]
        if any(scope["method"] == method and path.search(scope["path"]) for method, path in HEAVY):
            wanted.insert(0, self.heavy)
        try:
            async with asyncio.timeout(PLACE_SECONDS):
                for place in wanted:
                    await places.enter_async_context(place)
        except TimeoutError:
            raise _busy() from None
        finally:
            self.waiting -= 1


class _Gone(Exception):
    """The client has disconnected."""


async def _read(receive: Receive, most: int) -> bytes:
    parts, size = [], 0
    deadline = time.monotonic() + BODY_SECONDS
    while True:
        try:
            async with asyncio.timeout(min(CHUNK_SECONDS, max(0.0, deadline - time.monotonic()))):
                event = await receive()
        except TimeoutError:
            raise _Turned(408, "request", Message("server-rest-request-did-not-arrive")) from None
        if event["type"] == "http.disconnect":
            raise _Gone
        part = event.get("body", b"")
        size += len(part)
        if size > most:
            if event.get("more_body", False):
                await _drain(receive)
            raise _too_large(f"more than {most}", most)
        parts.append(part)
        if not event.get("more_body", False):
            return b"".join(parts)


async def _drain(receive: Receive) -> None:
    """Read the rest of a body for a while, because a client that is cut off does not read the reason."""
    size = 0
    with contextlib.suppress(TimeoutError):
        async with asyncio.timeout(DRAIN_SECONDS):
            while size < DRAIN_BYTES:
                event = await receive()
                size += len(event.get("body", b""))
                if event["type"] == "http.disconnect" or not event.get("more_body", False):
                    return


def _again(body: bytes, receive: Receive) -> Receive:
    """Replay a body that was read; after it only a disconnect can follow."""
    given = False

    async def give() -> Event:
        nonlocal given
        if given:
            return await receive()
        given = True
        return {"type": "http.request", "body": body, "more_body": False}

    return give


def _too_large(length: str, most: int) -> _Turned:
    expected = Message("server-most-kb", kilobytes=most // 1024)
    message = Message("server-upload-bytes-expected-split-file", length=length, expected=expected)
    return _Turned(413, "file", message)


def _busy() -> _Turned:
    return _Turned(503, "server", Message("server-server-busy-nothing-saved-retrying"))


async def _refuse(send: Send, turned: _Turned) -> None:
    """Refuse a request in the common shape of errors; written here because Django is not involved."""
    body = json.dumps({"errors": [{"field": turned.field, "message": english(turned.message)}]}).encode()
    headers = [(b"content-type", b"application/json"), (b"content-length", str(len(body)).encode())]
    if turned.status == 503:
        headers.append((b"retry-after", b"2"))
    if turned.status in (408, 413):
        headers.append((b"connection", b"close"))  # the rest of the body does not matter
    await send({"type": "http.response.start", "status": turned.status, "headers": headers})
    await send({"type": "http.response.body", "body": body})


def _log(request: _Request) -> None:
    took = time.monotonic() - request.begun
    metrics.answered(request.method, request.status, took)
    logger.info(
        "%s %s",
        request.method,
        SECRET_PARTS.sub("…", request.path)[:200],
        extra={"request": request.id, "status": request.status, "ms": round(took * 1000, 1), **request.fields},
    )

"""Django in persistent threads, each answering one request after another.

Django's own handler gives every request a thread and switches several times between sync and async, which costs as much
as most answers (decision 34).
"""

from __future__ import annotations

import asyncio
from collections.abc import Mapping, MutableMapping
from concurrent.futures import ThreadPoolExecutor
from io import BytesIO
from typing import Any

from django.core.handlers.asgi import ASGIRequest
from django.core.handlers.base import BaseHandler
from django.core.signals import request_started
from django.http.response import HttpResponseBase
from django.urls import set_script_prefix

from instavis.platform.errors import Problem, answer
from instavis.platform.gate import Receive, Scope, Send
from instavis.platform.language import speak_to
from instavis_core.message import Message

Headers = list[tuple[bytes, bytes]]


class Threads:
    """An ASGI application for HTTP; a request's body must arrive in one piece, as the gate passes it on."""

    def __init__(self, many: int) -> None:
        self.handler = _Handler()
        self.pool = ThreadPoolExecutor(many, thread_name_prefix="request")

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request."""
        event = await receive()
        if event["type"] == "http.disconnect":
            return
        loop = asyncio.get_running_loop()
        work = loop.run_in_executor(self.pool, self.handler.answer, scope, event.get("body", b""))
        status, headers, content = await work
        await send({"type": "http.response.start", "status": status, "headers": headers})
        await send({"type": "http.response.body", "body": content})


class _Handler(BaseHandler):
    def __init__(self) -> None:
        super().__init__()
        self.load_middleware()

    def answer(self, scope: MutableMapping[str, Any], body: bytes) -> tuple[int, Headers, bytes]:
        """Return status, headers and the whole content; the state of earlier requests in this thread is cleared."""
        speak_to(None)
        set_script_prefix("/")
        request_started.send(sender=type(self), scope=scope)
        response = self._response(scope, body)
        try:
            return response.status_code, _headers(response), response.getvalue()
        finally:
            response.close()

    def _response(self, scope: Mapping[str, Any], body: bytes) -> HttpResponseBase:
        try:
            request = ASGIRequest(scope, BytesIO(body))
        except UnicodeDecodeError:
            return answer(400, [Problem(field="address", message=Message("server-address-not-valid"))])
        response: HttpResponseBase = self.get_response(request)
        return response


def _headers(response: HttpResponseBase) -> Headers:
    text = [(name.encode("ascii"), value.encode("latin1")) for name, value in response.items()]
    cookies = [(b"Set-Cookie", one.output(header="").encode("ascii").strip()) for one in response.cookies.values()]
    return text + cookies

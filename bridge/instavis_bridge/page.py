"""A small local page that shows the bridge's state, pairs it, and sets what it watches."""

from __future__ import annotations

import contextlib
import json
import secrets
import threading
from collections.abc import Iterator
from dataclasses import replace
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from importlib import resources
from typing import TYPE_CHECKING, Any

import httpx

from instavis_bridge.link import AskedToWaitError, Link, NotTakenError

if TYPE_CHECKING:
    from instavis_bridge.program import Bridge

MAX_BYTES = 10_000
HOSTS = ("127.0.0.1", "localhost")


@contextlib.contextmanager
def serve_page(bridge: Bridge, port: int) -> Iterator[str]:
    """Serve the page while the body runs; return its address, or nothing if the port is below 0 or in use."""
    server = None
    if port >= 0:
        with contextlib.suppress(OSError):
            server = ThreadingHTTPServer(("127.0.0.1", port), _handler(bridge, secrets.token_urlsafe(16)))
    if server is None:
        yield ""
        return
    threading.Thread(target=server.serve_forever, daemon=True).start()
    try:
        yield f"http://127.0.0.1:{server.server_port}/"
    finally:
        server.shutdown()
        server.server_close()


def _handler(bridge: Bridge, key: str) -> type[BaseHTTPRequestHandler]:
    page = (resources.files("instavis_bridge") / "page.html").read_text(encoding="utf-8")

    class Handler(BaseHTTPRequestHandler):
        """Answer this computer only; a change needs the page's token."""

        def do_GET(self) -> None:
            if self._stranger():
                return
            if self.path == "/status":
                self._answer(200, "application/json", json.dumps(bridge.status()))
            elif self.path == "/":
                self._answer(200, "text/html; charset=utf-8", page.replace("KEY", key))
            else:
                self._answer(404, "text/plain", "not here")

        def do_POST(self) -> None:
            if self._stranger():
                return
            try:
                length = int(self.headers.get("Content-Length") or 0)
                asked: Any = json.loads(self.rfile.read(min(length, MAX_BYTES)))
                if not secrets.compare_digest(str(asked.get("key", "")), key):
                    self._answer(403, "text/plain", "This page is outdated. Reload it.")
                    return
                changed = _asked(bridge, asked)
            except (ValueError, AttributeError):
                self._answer(422, "text/plain", "This was not understood.")
            except (NotTakenError, AskedToWaitError) as error:
                self._answer(422, "text/plain", str(error))
            except httpx.HTTPError:
                self._answer(422, "text/plain", "The server does not answer: is its address right?")
            else:
                self._answer(200, "application/json", json.dumps(changed))

        def _stranger(self) -> bool:
            host = (self.headers.get("Host") or "").rpartition(":")[0]
            if host in HOSTS:
                return False
            self._answer(403, "text/plain", "This page is for this computer only.")
            return True

        def _answer(self, status: int, kind: str, text: str) -> None:
            data = text.encode()
            self.send_response(status)
            self.send_header("Content-Type", kind)
            self.send_header("Content-Length", str(len(data)))
            self.send_header("Cache-Control", "no-store")
            self.send_header("X-Content-Type-Options", "nosniff")
            self.send_header("X-Frame-Options", "DENY")
            self.end_headers()
            self.wfile.write(data)

        def log_message(self, *_: Any) -> None:
            """Log nothing: the page polls every second."""

    return Handler


def _asked(bridge: Bridge, asked: dict[str, Any]) -> dict[str, Any]:
    result = bridge.settings
    result = replace(
        result,
        server=str(asked.get("server") or result.server).strip().rstrip("/"),
        source=str(asked.get("source") or result.source).strip(),
    )
    if code := str(asked.get("code") or "").strip():
        answer = Link(result.server).pair(code, str(asked.get("name") or "Bay computer")[:60])
        result = replace(result, token=answer.token, bay=answer.bay)
    bridge.change(result)
    return bridge.status()

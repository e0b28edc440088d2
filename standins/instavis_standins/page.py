"""A small page on loopback that controls the stand-in monitor: golfer, club, pace, and faults of the line."""

from __future__ import annotations

import contextlib
import html
import json
import threading
from collections.abc import Iterator
from dataclasses import asdict
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from importlib import resources
from typing import Any

from instavis_core.errors import InputError
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_report.catalog import english
from instavis_standins.golfer import Controls

MAX_BYTES = 10_000
SWING = "/swing/"
"""Separates a ball's key from the fault strengths that follow it."""
SHOWN = ("pace", "paused", "line_down", "doubles", "nonsense", "hit", "sent", "waiting")


@contextlib.contextmanager
def control_page(controls: Controls, port: int) -> Iterator[str]:
    """Serve the page on loopback while the stand-in runs; return its address."""
    server = ThreadingHTTPServer(("127.0.0.1", port), _handler(controls))
    threading.Thread(target=server.serve_forever, daemon=True).start()
    try:
        yield f"http://127.0.0.1:{server.server_port}"
    finally:
        server.shutdown()
        server.server_close()


def state_of(controls: Controls) -> dict[str, Any]:
    """What the page shows."""
    return {**asdict(controls.player), **{name: getattr(controls, name) for name in SHOWN}}


def _page() -> bytes:
    text = (resources.files("instavis_standins") / "page.html").read_text(encoding="utf-8")
    known = shipped_knowledge()
    faults = [(c.key, f"{c.label}") for c in (*known.of_kind("fault"), *known.of_kind("partner"))]
    for mark, rows in (
        ("FAULTS", [("", "no fault"), *faults]),
        ("CLUBS", [(c.id, c.label) for c in known.vocabulary.clubs.values()]),
    ):
        options = "".join(f'<option value="{html.escape(key)}">{html.escape(label)}</option>' for key, label in rows)
        text = text.replace(f"<!--{mark}-->", options)
    return text.encode()


def _handler(controls: Controls) -> type[BaseHTTPRequestHandler]:
    page = _page()

    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:  # noqa: N802
            if self.path == "/state":
                self._answer(200, "application/json", json.dumps(state_of(controls)).encode())
            elif self.path.startswith(SWING):
                with controls.lock:
                    swing = controls.swings.get(self.path.removeprefix(SWING))
                self._answer(404 if swing is None else 200, "application/json", json.dumps(swing).encode())
            else:
                self._answer(200, "text/html; charset=utf-8", page)

        def do_POST(self) -> None:  # noqa: N802
            length = int(self.headers.get("Content-Length") or 0)
            # Only this page may control the stand-in: another origin cannot send JSON without a preflight.
            if length > MAX_BYTES or "json" not in (self.headers.get("Content-Type") or ""):
                self._answer(400, "application/json", b'{"error": "a small JSON object is expected"}')
                return
            try:
                values = json.loads(self.rfile.read(length))
                if "faults" in values:
                    values["faults"] = tuple(f for f in values["faults"] if f)
                controls.change(values)
                self._answer(200, "application/json", json.dumps(state_of(controls)).encode())
            except (InputError, ValueError, TypeError, AttributeError) as error:
                self._answer(
                    422,
                    "application/json",
                    json.dumps({"error": english(getattr(error, "message", str(error)))}).encode(),
                )

        def _answer(self, status: int, kind: str, body: bytes) -> None:
            self.send_response(status)
            self.send_header("Content-Type", kind)
            self.send_header("Content-Length", str(len(body)))
            self.end_headers()
            self.wfile.write(body)

        def log_message(self, *_: Any) -> None:
            """Log nothing: the stand-in's own output is enough."""

    return Handler

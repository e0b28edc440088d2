"""The launcher's own page for whoever watches: health, readiness, metrics. At a port of its own, on loopback."""

from __future__ import annotations

import contextlib
import json
import os
import threading
import urllib.error
import urllib.request
from collections.abc import Iterator
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

from prometheus_client import CONTENT_TYPE_LATEST, CollectorRegistry, Gauge, generate_latest
from prometheus_client.multiprocess import MultiProcessCollector

from launcher.mariadb import DatabaseError
from launcher.supervisor import Supervisor

ASK_SECONDS = 5


def own_host() -> str:
    """A name that the application answers to."""
    return os.environ.get("INSTAVIS_HOSTS", "127.0.0.1").split(",")[0].lstrip(".") or "127.0.0.1"


@contextlib.contextmanager
def status_page(supervisor: Supervisor, metrics: Path, address: str) -> Iterator[None]:
    """Serve `/healthz`, `/readyz` and `/metrics` at `INSTAVIS_STATUS_PORT`, if it is set, for the length of a block."""
    port = os.environ.get("INSTAVIS_STATUS_PORT")
    if not port:
        yield
        return
    if not port.isdigit():
        raise DatabaseError(f"INSTAVIS_STATUS_PORT is {port!r}; expected the number of a free port.")

    class Page(BaseHTTPRequestHandler):
        def do_GET(self) -> None:  # noqa: N802 (the library's name)
            answers = {"/healthz": _health, "/readyz": _readiness, "/metrics": _metrics}
            answer = answers.get(self.path)
            status, kind, body = answer(supervisor, metrics, address) if answer else (404, "text/plain", b"")
            self.send_response(status)
            self.send_header("Content-Type", kind)
            self.send_header("Content-Length", str(len(body)))
            self.end_headers()
            with contextlib.suppress(OSError):  # whoever asked has gone
                self.wfile.write(body)

        def log_message(self, *_: object) -> None:
            pass

    try:
        server = ThreadingHTTPServer((os.environ.get("INSTAVIS_STATUS_BIND", "127.0.0.1"), int(port)), Page)
    except OSError as error:
        raise DatabaseError(f"INSTAVIS_STATUS_PORT {port} cannot be listened at ({error.strerror}).") from error
    thread = threading.Thread(target=server.serve_forever, name="status", daemon=True)
    thread.start()
    try:
        yield
    finally:
        server.shutdown()
        server.server_close()


Answer = tuple[int, str, bytes]


def _health(supervisor: Supervisor, metrics: Path, address: str) -> Answer:
    """Every program with how often it was started again; 503 while one of them is down."""
    programs = {k.name: {"running": k.process.poll() is None, "restarts": k.restarts} for k in supervisor.programs}
    good = all(program["running"] for program in programs.values())
    return _json(200 if good else 503, {"state": "alive" if good else "mending", "programs": programs})


def _readiness(supervisor: Supervisor, metrics: Path, address: str) -> Answer:
    """What a web process says of itself."""
    if not address:
        return _health(supervisor, metrics, address)
    opener = urllib.request.build_opener(urllib.request.ProxyHandler({}))
    try:
        request = urllib.request.Request(f"{address}/readyz", headers={"Host": own_host()})
        with opener.open(request, timeout=ASK_SECONDS) as answer:
            return answer.status, "application/json", answer.read()
    except urllib.error.HTTPError as error:
        return error.code, "application/json", error.read()
    except OSError as error:
        return _json(503, {"state": "not ready", "why": str(error)})


def _metrics(supervisor: Supervisor, metrics: Path, address: str) -> Answer:
    """What all processes counted, and the restarts."""
    registry = CollectorRegistry()
    MultiProcessCollector(registry, path=str(metrics))
    restarts = Gauge("instavis_restarts", "How often a program was started again", ["program"], registry=registry)
    running = Gauge("instavis_running", "Whether a program runs", ["program"], registry=registry)
    for program in supervisor.programs:
        restarts.labels(program.name).set(program.restarts)
        running.labels(program.name).set(program.process.poll() is None)
    return 200, CONTENT_TYPE_LATEST, generate_latest(registry)


def _json(status: int, document: dict) -> Answer:
    return status, "application/json", json.dumps(document).encode()

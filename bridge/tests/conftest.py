"""A server that takes rows by their numbers, and a bridge that runs against it."""

from __future__ import annotations

import json
import threading
import time
from collections.abc import Callable
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

import pytest

from instavis_bridge.program import Bridge
from instavis_bridge.settings import Settings

PATIENCE = 15


def until(found: Callable[[], object]) -> None:
    deadline = time.monotonic() + PATIENCE
    while not found():
        assert time.monotonic() < deadline
        time.sleep(0.02)


class Server:
    """Takes rows by their numbers; ``answer`` may give a status of its own for a request."""

    def __init__(self) -> None:
        self.rows: dict[int, str] = {}
        self.doubled = 0
        self.examples: list[str] = []
        self.answer: Callable[[str, dict], int | None] = lambda what, body: None
        self.lose_answers = 0
        outer = self

        class Handler(BaseHTTPRequestHandler):
            def do_POST(self):
                what = self.path.rpartition("/")[2]
                body = json.loads(self.rfile.read(int(self.headers["Content-Length"])))
                status = outer.answer(what, body) or 200
                result = outer.body_for(what, body) if status == 200 else {"errors": [{"message": f"refused {status}"}]}
                if what == "rows" and status == 200 and outer.lose_answers:
                    outer.lose_answers -= 1
                    self.connection.close()
                    return
                data = json.dumps(result).encode()
                self.send_response(status)
                self.send_header("Content-Length", str(len(data)))
                self.end_headers()
                self.wfile.write(data)

            def log_message(self, *_):
                pass

        self.http = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
        threading.Thread(target=self.http.serve_forever, daemon=True).start()
        self.address = f"http://127.0.0.1:{self.http.server_port}"

    def body_for(self, what: str, body: dict) -> dict:
        if what == "pair":
            return {"device": body["name"], "bay": "Mat one", "token": "iv_secret"}
        if what == "here":
            return {"server_time": "2026-05-04T09:12:31+00:00", "listening": True, "unmapped": 0}
        for row in body["rows"]:
            if body["example"]:
                self.examples.append(row["text"])
            else:
                self.doubled += row["device_sequence"] in self.rows
                self.rows[row["device_sequence"]] = row["text"]
        return {"stored": len(body["rows"]), "known": 0, "waiting": 0, "no_balls": 0, "refused": []}


@pytest.fixture
def server():
    server = Server()
    yield server
    server.http.shutdown()
    server.http.server_close()


@pytest.fixture
def place(tmp_path):
    folder = tmp_path / "balls"
    folder.mkdir()
    return folder


@pytest.fixture
def run(server, place, tmp_path):
    """run() begins a bridge on the folder; it ends with the test."""
    running = []

    def begin(**changes) -> Bridge:
        state = tmp_path / "state"
        state.mkdir(exist_ok=True)
        result = {"server": server.address, "token": "iv_secret", "source": str(place)} | changes
        bridge = Bridge(state, Settings(**result))
        thread = threading.Thread(target=bridge.run, daemon=True)
        thread.start()
        running.append((bridge, thread))
        until(lambda: bridge.status()["watching"])
        return bridge

    def end() -> None:
        for bridge, thread in running:
            bridge.stop()
            thread.join(PATIENCE)
            if bridge._lock_of_source:
                bridge._lock_of_source.close()
        running.clear()

    begin.end = end
    yield begin
    end()

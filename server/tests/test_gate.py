"""Limits before Django: size, time, and concurrent requests."""

from __future__ import annotations

import asyncio
import json
import logging
import re
from concurrent.futures import ThreadPoolExecutor

import pytest
import uvicorn
from django.db import connection
from uvicorn.server import ServerState

from instavis.platform import gate, statements
from instavis.platform.gate import ANONYMOUS_BYTES, Gate
from instavis.project import web

SIGNED_IN = (b"cookie", b"instavis_session=abc")


class Inside:
    """An application that notes what reaches it and answers when it is let."""

    def __init__(self) -> None:
        self.bodies: list[bytes] = []
        self.now = self.most = 0
        self.held = asyncio.Event()
        self.held.set()

    async def __call__(self, scope, receive, send):
        self.now += 1
        self.most = max(self.most, self.now)
        event = await receive()
        self.bodies.append(event["body"])
        await self.held.wait()
        self.now -= 1
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await send({"type": "http.response.body", "body": b"fine"})


def scope_of(path: str = "/api/v1/students", method: str = "POST", headers=()) -> dict:
    return {"type": "http", "method": method, "path": path, "query_string": b"", "headers": list(headers)}


async def ask(gate: Gate, scope: dict, parts=(b"",), silence: bool = False) -> tuple[int, dict]:
    """Status and body of the answer to a request that comes in parts, and may then fall silent."""
    result: list[dict] = []
    waiting = list(parts)

    async def receive():
        if waiting:
            return {"type": "http.request", "body": waiting.pop(0), "more_body": silence or bool(waiting)}
        await asyncio.sleep(30)
        return {"type": "http.disconnect"}

    async def send(event):
        result.append(event)

    await gate(scope, receive, send)
    body = b"".join(event.get("body", b"") for event in result[1:])
    return result[0]["status"], json.loads(body) if body.startswith(b"{") else {}


def run(coroutine):
    """In a thread of its own: this one may have a loop that a browser's driver runs."""
    with ThreadPoolExecutor(1) as beside:
        return beside.submit(asyncio.run, coroutine).result()


def asked(inside: Inside, scope: dict, parts=(b"",), **limits) -> tuple[int, dict]:
    return run(ask(Gate(inside, most_bytes=1_000_000, **limits), scope, parts))


def test_request_body_passes_completely():
    inside = Inside()
    assert asked(inside, scope_of(headers=[SIGNED_IN]), (b"one ", b"two"))[0] == 200
    assert inside.bodies == [b"one two"]


@pytest.mark.parametrize(
    ("headers", "parts"),
    [
        ([(b"content-length", str(ANONYMOUS_BYTES + 1).encode())], (b"",)),
        ([(b"content-length", b"many")], (b"",)),
        ([(b"transfer-encoding", b"chunked")], (b"x" * 40_000, b"x" * 40_000)),
        ([SIGNED_IN, (b"content-length", b"1000001")], (b"",)),
        ([SIGNED_IN, (b"transfer-encoding", b"chunked")], (b"x" * 600_000, b"x" * 600_000)),
    ],
    ids=["anonymous", "no-number", "anonymous-chunks", "signed-in", "signed-in-chunks"],
)
def test_oversized_body_is_refused(headers, parts):
    inside = Inside()
    status, result = asked(inside, scope_of(headers=headers), parts)
    assert (status, result["errors"][0]["field"]) == (413, "file")
    assert "kB" in result["errors"][0]["message"]
    assert inside.bodies == []


def test_long_address_is_refused():
    assert asked(Inside(), scope_of("/" + "x" * 5000))[0] == 414


def test_silent_sender_times_out(monkeypatch):
    monkeypatch.setattr(gate, "CHUNK_SECONDS", 0.05)
    inside = Inside()
    status, _ = run(ask(Gate(inside, most_bytes=1000), scope_of(headers=[SIGNED_IN]), (b"half",), True))
    assert status == 408
    assert inside.bodies == []


async def crowd(gate: Gate, inside: Inside, path: str, count: int) -> list[int]:
    inside.held.clear()
    everybody = [asyncio.create_task(ask(gate, scope_of(path))) for _ in range(count)]
    await asyncio.sleep(0.05)
    inside.held.set()
    return [status for status, _ in await asyncio.gather(*everybody)]


@pytest.mark.parametrize(("path", "most"), [("/api/v1/students", 4), ("/api/v1/session", 2)], ids=["plain", "heavy"])
def test_concurrent_requests_are_limited(path, most):
    async def all_of_it():
        inside = Inside()
        gate = Gate(inside, most_bytes=1000, at_once=4, heavy=2)
        return await crowd(gate, inside, path, 30), inside.most

    statuses, reached = run(all_of_it())
    assert statuses == [200] * 30
    assert reached == most


def test_full_queue_asks_to_retry_but_health_answers():
    async def all_of_it():
        inside = Inside()
        gate = Gate(inside, most_bytes=1000, at_once=1, waiting=2)
        inside.held.clear()
        first = [asyncio.create_task(ask(gate, scope_of())) for _ in range(3)]
        await asyncio.sleep(0.05)
        late = await ask(gate, scope_of())
        health = asyncio.create_task(ask(gate, scope_of("/healthz", "GET")))
        await asyncio.sleep(0.05)
        reached = inside.now
        inside.held.set()
        return late, reached, [s for s, _ in await asyncio.gather(*first, health)]

    (status, result), reached, others = run(all_of_it())
    assert status == 503
    assert "Retrying" in result["errors"][0]["message"]
    assert reached == 2  # one at work, and the question after health
    assert others == [200] * 4


@pytest.mark.parametrize(
    ("address", "token"),
    [
        ("/api/v1/home/{}/practice", "Qc4TcLo9aP_k44GB-2x89oYstj1CwrGYIoJfi4BZmUw"),
        ("/email/{}", "eyJjb2FjaCI6MX0:1tWqXr:Jm6y3r-0Vn_q8uZ7l1w2x3y4z5"),
        ("/home/{}", "ehMx4f41tikQw25wINHQ0J0ONA9.3TM6SUduM2N0COxVJo5x8uu2n3F"),
    ],
)
def test_log_line_has_user_and_duration_without_secrets(caplog, address, token):
    with caplog.at_level("INFO", logger="instavis.requests"):
        asked(Inside(), scope_of(address.format(token)))
    [record] = caplog.records
    assert not any(part in record.getMessage() for part in re.split("[:.]", token))
    assert record.status == 200
    assert record.ms >= 0
    assert len(record.request) == 16


def test_slow_statement_is_logged_without_values(db, caplog, monkeypatch):
    monkeypatch.setattr(statements, "SLOW_SECONDS", 0.0)
    caplog.set_level(logging.WARNING, "instavis.platform.statements")
    with connection.cursor() as cursor, connection.execute_wrapper(statements.timed):
        cursor.execute("SELECT %s, 'Perrin Oakenshaw', 4711", ["Bayside"])
    [record] = [r for r in caplog.records if r.name == "instavis.platform.statements"][:1]
    assert record.statement == "SELECT %s, …, …"
    assert record.seconds >= 0


def test_slow_request_head_times_out(monkeypatch):
    """Hundreds of callers who say half a word would hold every line there is."""
    monkeypatch.setattr(web, "HEADER_SECONDS", 0.2)

    async def answer_to(first: bytes, more: bytes = b"") -> bytes:
        async def application(scope, receive, send):
            await send({"type": "http.response.start", "status": 204, "headers": []})
            await send({"type": "http.response.body", "body": b""})

        config = uvicorn.Config(application, http=web.PatientProtocol, lifespan="off", log_config=None)
        config.load()
        state = ServerState()
        loop = asyncio.get_running_loop()
        server = await loop.create_server(
            lambda: web.PatientProtocol(config=config, server_state=state, app_state={}), "127.0.0.1", 0
        )
        reader, writer = await asyncio.open_connection(*server.sockets[0].getsockname())
        writer.write(first)
        await asyncio.sleep(0.1)
        writer.write(more)
        heard = await asyncio.wait_for(reader.read(200), 2)
        writer.close()
        server.close()
        return heard

    half = b"GET /healthz HTTP/1.1\r\nHost: x\r\nX-Half: "
    assert asyncio.run(answer_to(half)) == b""
    assert asyncio.run(answer_to(b"")) == b""
    assert asyncio.run(answer_to(half, b"whole\r\n\r\n")).startswith(b"HTTP/1.1 204")

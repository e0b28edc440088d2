"""Lines over TCP, WebSocket and serial: in pieces, with rubbish, over lost connections."""

from __future__ import annotations

import contextlib
import itertools
import json
import os
import pty
import socket
import ssl
import subprocess
import threading
import time

import pytest
from websockets.sync.server import serve

from instavis_bridge.journal import Journal
from instavis_bridge.streams import STREAMS

HEAD = "Club,Path,Face"


@pytest.fixture
def listen(tmp_path):
    """listen(address) begins a stream; its texts(n) waits for so many rows."""
    streams = []

    def begin(address: str):
        journal = Journal(tmp_path / "journal")
        stream = STREAMS[address.partition(":")[0]](address, journal)
        stream.start()
        streams.append(stream)

        def texts(count: int) -> list[str]:
            until = time.monotonic() + 10
            while len(journal.unsent) < count and time.monotonic() < until:
                time.sleep(0.01)
            return [e.text for e in journal.unsent]

        stream.texts, stream.journal = texts, journal
        return stream

    yield begin
    for stream in streams:
        stream.stop()


@pytest.fixture
def server():
    with contextlib.closing(socket.create_server(("127.0.0.1", 0))) as listening:
        listening.settimeout(10)
        yield listening


def test_tcp_lines_survive_fragments_and_reconnects(listen, server):
    stream = listen(f"tcp://127.0.0.1:{server.getsockname()[1]}")
    line, _ = server.accept()
    with line:
        for piece in (b"Club,Path,", b"Face\r\n7i,1.5,", b"2.5\r\n7i,\xc3", b"\xa9.5,1\n"):
            line.sendall(piece)
            time.sleep(0.05)
        assert stream.texts(3) == [HEAD, "7i,1.5,2.5", "7i,é.5,1"]
    line, _ = server.accept()
    with line:
        line.sendall(b"7i,3.5,4.5\n")
        assert stream.texts(4)[-1] == "7i,3.5,4.5"
    assert stream.journal.unsent[-1].head[0] == HEAD


def test_program_may_connect_to_the_bridge(listen):
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    stream = listen(f"listen://127.0.0.1:{port}")
    for n in range(2):
        deadline = time.monotonic() + 10
        while True:
            try:
                line = socket.create_connection(("127.0.0.1", port), timeout=2)
                break
            except OSError:
                assert time.monotonic() < deadline
                time.sleep(0.05)
        with line:
            line.sendall(json.dumps({"path": n, "face": 1.5}).encode() + b"\n")
    assert [json.loads(t)["path"] for t in stream.texts(2)] == [0, 1]


@pytest.fixture
def certificate(tmp_path, monkeypatch):
    """A certificate for loopback that whoever connects trusts."""
    key, sealed = tmp_path / "key.pem", tmp_path / "certificate.pem"
    subject = ["-subj", "/CN=127.0.0.1", "-addext", "subjectAltName=IP:127.0.0.1"]
    made = ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", *subject]
    subprocess.run([*made, "-keyout", key, "-out", sealed], check=True, capture_output=True)
    monkeypatch.setenv("SSL_CERT_FILE", str(sealed))
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    context.load_cert_chain(sealed, key)
    return context


@contextlib.contextmanager
def speaking(speak, **options):
    """A program that speaks by WebSocket to whoever connects; gives its port."""
    with serve(speak, "127.0.0.1", 0, **options) as running:
        threading.Thread(target=running.serve_forever, daemon=True).start()
        yield running.socket.getsockname()[1]
        running.shutdown()


def tell_five(line) -> None:
    line.send(json.dumps({"path": 1.5, "face": 2}))
    line.send(json.dumps([{"path": 2.5, "face": 2}, {"path": 3.5, "face": 2}]))
    line.send(b'{"path": 4.5, "face": 2}\n{"path": 5.5, "face": 2}')
    time.sleep(0.3)


def test_websocket_messages_are_read(listen):
    with speaking(tell_five) as port:
        stream = listen(f"ws://127.0.0.1:{port}/balls")
        assert [json.loads(t)["path"] for t in stream.texts(5)][:5] == [1.5, 2.5, 3.5, 4.5, 5.5]


def test_tls_websocket_reconnects(listen, certificate):
    result = itertools.count(1)

    def tell_one(line) -> None:
        time.sleep(0.3)  # longer than one look: a quiet line stays open
        line.send(json.dumps({"path": next(result), "face": 2}))

    with speaking(tell_one, ssl=certificate) as port:
        stream = listen(f"wss://127.0.0.1:{port}/balls")
        assert [json.loads(t)["path"] for t in stream.texts(2)][:2] == [1, 2]


def test_untrusted_certificate_is_reported(listen, certificate, monkeypatch):
    monkeypatch.delenv("SSL_CERT_FILE")
    with speaking(tell_five, ssl=certificate) as port:
        stream = listen(f"wss://127.0.0.1:{port}/balls")
        until = time.monotonic() + 10
        while not stream.problems and time.monotonic() < until:
            time.sleep(0.01)
        assert "certificate" in stream.problems["line"]
        assert not stream.journal.unsent


def test_silent_websocket_closes_at_once(listen):
    with speaking(lambda line: time.sleep(1)) as port:
        stream = listen(f"ws://127.0.0.1:{port}/balls")
        time.sleep(0.5)
        begun = time.monotonic()
        stream.stop()
        assert time.monotonic() - begun < 2


def test_garbage_on_a_serial_line_is_skipped(listen):
    ours, theirs = pty.openpty()
    try:
        stream = listen(f"serial:{os.ttyname(theirs)}:9600")
        time.sleep(0.5)
        os.write(ours, b"\x01\x02\xff\xfe\x03\x04\x05\r\n" + HEAD.encode() + b"\r\n7i,1.5,2.5\r\n")
        texts = stream.texts(2)
        assert [t for t in texts if "," in t] == [HEAD, "7i,1.5,2.5"]
        assert stream.rubbish == 1
    finally:
        stream.stop()
        os.close(ours)
        os.close(theirs)


def test_missing_source_is_reported(listen):
    stream = listen("tcp://127.0.0.1:1")
    until = time.monotonic() + 10
    while not stream.problems and time.monotonic() < until:
        time.sleep(0.01)
    assert "127.0.0.1:1" in stream.problems["line"]

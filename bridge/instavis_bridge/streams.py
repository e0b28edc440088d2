"""Lines from a TCP connection, a WebSocket or a serial line."""

from __future__ import annotations

import asyncio
import codecs
import contextlib
import socket
import threading
import time
from abc import ABC, abstractmethod
from collections.abc import Iterator
from urllib.parse import urlsplit

import serial
from websockets.asyncio.client import ClientConnection, connect
from websockets.exceptions import WebSocketException

from instavis_bridge.journal import Journal
from instavis_bridge.lines import LONGEST_LINE, clean, decoded, headed, objects_in

FIRST_WAIT, LONGEST_WAIT = 0.5, 5.0
POLL_EVERY = 0.2  # s after which a quiet stream checks whether to stop
SOUND_SHARE = 0.8  # share of printable characters below which a line is garbage
BAUD = 9600


class Stream(ABC):
    """Lines of one source, added to the journal as they arrive; reconnects when the other side disconnects."""

    def __init__(self, address: str, journal: Journal) -> None:
        self.address, self._journal = address, journal
        self.problems: dict[str, str] = {}
        self.rubbish = 0
        self._head: tuple[str, ...] = ()
        self._stop = threading.Event()
        self._thread = threading.Thread(target=self._run, daemon=True, name=f"stream {address}")

    def start(self) -> None:
        """Start listening."""
        self._thread.start()

    def stop(self) -> None:
        """Stop listening."""
        self._stop.set()
        self._thread.join(2 * LONGEST_WAIT)

    @abstractmethod
    def _texts(self) -> Iterator[str]:
        """Connect, and yield text as it arrives, empty while idle; ends with the connection."""

    def _run(self) -> None:
        pause = FIRST_WAIT
        while not self._stop.is_set():
            begun = time.monotonic()
            try:
                self._listen()
                self.problems["line"] = f"{self.address} has ended the connection; trying again."
            except (OSError, WebSocketException, serial.SerialException) as error:
                self.problems["line"] = f"{self.address}: {error}"
            pause = FIRST_WAIT if time.monotonic() - begun > LONGEST_WAIT else min(LONGEST_WAIT, 2 * pause)
            self._stop.wait(pause)

    def _listen(self) -> None:
        rest = ""
        for piece in self._texts():
            self.problems.pop("line", None)
            rest += piece.replace("\r", "\n")
            *lines, rest = rest.split("\n")
            if len(rest) > LONGEST_LINE:
                self.rubbish, rest = self.rubbish + 1, ""
            self._keep(lines)
            if self._stop.is_set():
                return
        if objects_in(rest):
            self._keep([rest])

    def _keep(self, lines: list[str]) -> None:
        good = []
        for line in map(clean, lines):
            if not line.strip():
                continue
            if sum(c.isprintable() or c == "\t" for c in line) < SOUND_SHARE * len(line):
                self.rubbish += 1
                continue
            good.append(line)
        rows = headed(good, self._head)
        self._head = rows[-1][1] if rows else self._head
        while rows:
            try:
                self._journal.take(self.address, rows)
                self.problems.pop("disk", None)
                return
            except OSError as error:  # the disk is full: hold the lines until it accepts them
                self.problems["disk"] = f"The journal cannot be written: {error.strerror}."
                if self._stop.wait(FIRST_WAIT):
                    return


class Tcp(Stream):
    """``tcp://HOST:PORT``: connect to a program that listens."""

    def _texts(self) -> Iterator[str]:
        parts = urlsplit(self.address)
        with socket.create_connection((parts.hostname or "127.0.0.1", parts.port or 0), timeout=LONGEST_WAIT) as line:
            yield from _received(line)


class Listening(Stream):
    """``listen://PORT``: accept a program that connects; one at a time."""

    def _texts(self) -> Iterator[str]:
        parts = urlsplit(self.address)
        place = (parts.hostname or "127.0.0.1", parts.port or 0)
        with socket.create_server(place) as server:
            server.settimeout(POLL_EVERY)
            while not self._stop.is_set():
                with contextlib.suppress(TimeoutError):
                    line, _ = server.accept()
                    with line:
                        yield from _received(line)
                yield ""


class WebSocket(Stream):
    """``ws://…`` or ``wss://…``.

    One thread reads and writes, because two on one TLS connection can block forever.
    """

    def _texts(self) -> Iterator[str]:
        with asyncio.Runner() as runner:
            line = runner.run(self._opened())
            try:
                while True:
                    try:
                        message = runner.run(_next(line))
                    except TimeoutError:
                        yield ""
                        continue
                    text = message if isinstance(message, str) else decoded(message)[0]
                    objects = objects_in(text)
                    yield ("\n".join(objects) if objects is not None else text) + "\n"
            finally:
                runner.run(line.close())

    async def _opened(self) -> ClientConnection:
        return await connect(self.address, open_timeout=LONGEST_WAIT, proxy=None, max_size=1_000_000)


class Serial(Stream):
    """``serial:DEVICE`` or ``serial:DEVICE:BAUD``."""

    def _texts(self) -> Iterator[str]:
        _, _, device = self.address.partition(":")
        device, _, baud = device.partition(":")
        with serial.Serial(device, int(baud or BAUD), timeout=POLL_EVERY) as line:
            letters = codecs.getincrementaldecoder("utf-8")(errors="replace")
            while True:
                yield letters.decode(line.read(max(1, line.in_waiting)))


STREAMS: dict[str, type[Stream]] = {
    "tcp": Tcp,
    "listen": Listening,
    "ws": WebSocket,
    "wss": WebSocket,
    "serial": Serial,
}


async def _next(line: ClientConnection) -> str | bytes:
    return await asyncio.wait_for(line.recv(), POLL_EVERY)


def _received(line: socket.socket) -> Iterator[str]:
    line.settimeout(POLL_EVERY)
    letters = codecs.getincrementaldecoder("utf-8")(errors="replace")
    while True:
        try:
            data = line.recv(65536)
        except TimeoutError:
            yield ""
            continue
        if not data:
            return
        yield letters.decode(data)

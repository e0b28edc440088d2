"""A stand-in monitor whose program does not speak our protocol: it writes files or streams data in its own way."""

from __future__ import annotations

import contextlib
import functools
import os
import pty
import socket
import threading
import tty
from collections.abc import Callable
from pathlib import Path
from typing import Any

from websockets.exceptions import ConnectionClosed
from websockets.sync.server import ServerConnection, serve

from instavis_standins.dialects import Dialect


class Outlet:
    """Where balls go; replaces the link to a server."""

    def __init__(self, dialect: Dialect, place: str) -> None:
        self.dialect, self.place = dialect, place
        self.balls: list[dict[str, Any]] = []

    def hello(self) -> dict[str, Any]:
        """Always answers yes: it hits with or without a listener."""
        return {"listening": True}

    def send(self, shots: list[dict[str, Any]]) -> dict[str, Any]:
        """Write balls down."""
        for shot in shots:
            self.balls.append(shot)
            self.write(self.dialect.line(shot, len(self.balls)))
        return {"stored": len(shots)}

    def write(self, line: str) -> None:
        """Write the newest ball."""
        raise NotImplementedError

    def is_heard(self) -> bool:
        """Return whether written data reaches a reader: a file stores it, a line without a listener does not."""
        return True

    def close(self) -> None:
        """Nobody hits any more."""


class GrowingFile(Outlet):
    """One file for each session, to which every ball is appended."""

    def __init__(self, dialect: Dialect, place: str) -> None:
        super().__init__(dialect, place)
        self._append([*dialect.head()])

    def write(self, line: str) -> None:
        self._append([line])

    def _append(self, lines: list[str]) -> None:
        with Path(self.place).open("ab") as out:
            out.write("".join(line + "\r\n" for line in lines).encode(self.dialect.encoding))


class RewrittenFile(Outlet):
    """One file for each session, rewritten with every ball: newest first, their average at the end."""

    def write(self, line: str) -> None:
        lines = [self.dialect.line(ball, i) for i, ball in enumerate(self.balls, 1)]
        rows = [*self.dialect.head(), *reversed(lines), *self.dialect.foot(self.balls)]
        part = Path(f"{self.place}.part")
        part.write_bytes("".join(row + "\n" for row in rows).encode(self.dialect.encoding))
        part.replace(self.place)


class FileABall(Outlet):
    """One file for each ball, in a folder."""

    def write(self, line: str) -> None:
        text = "\n".join([*self.dialect.head(), line]) + "\n"
        name = f"ball-{len(self.balls):05d}.{'json' if self.dialect.objects else 'csv'}"
        (Path(self.place) / name).write_bytes(text.encode(self.dialect.encoding))


class Lines(Outlet):
    """Sends lines to all listeners; a new listener gets the headers and everything from then on."""

    def __init__(self, dialect: Dialect, place: str) -> None:
        super().__init__(dialect, place)
        self._lock = threading.Lock()
        self._listeners: list[Callable[[str], None]] = []

    def write(self, line: str) -> None:
        with self._lock:
            for tell in list(self._listeners):
                try:
                    tell(line)
                except (OSError, ConnectionClosed):
                    self._listeners.remove(tell)

    def is_heard(self) -> bool:
        """Whether somebody listens."""
        return bool(self._listeners)

    def _welcome(self, tell: Callable[[str], None]) -> None:
        with self._lock:
            for row in self.dialect.head():
                tell(row)
            self._listeners.append(tell)


class TcpLines(Lines):
    """Lines over TCP at ``PORT``; 0 for a free one."""

    def __init__(self, dialect: Dialect, place: str) -> None:
        super().__init__(dialect, place)
        self._server = socket.create_server(("127.0.0.1", int(place)))
        self.place = f"tcp://127.0.0.1:{self._server.getsockname()[1]}"
        threading.Thread(target=self._accept, daemon=True).start()

    def _accept(self) -> None:
        with contextlib.suppress(OSError):
            while True:
                line, _ = self._server.accept()
                self._welcome(functools.partial(_say, line))

    def close(self) -> None:
        self._server.close()


class WebSocketMessages(Lines):
    """One message for each ball over a WebSocket at ``PORT``; 0 for a free one."""

    def __init__(self, dialect: Dialect, place: str) -> None:
        super().__init__(dialect, place)
        self._server = serve(self._hold, "127.0.0.1", int(place))
        self.place = f"ws://127.0.0.1:{self._server.socket.getsockname()[1]}"
        threading.Thread(target=self._server.serve_forever, daemon=True).start()

    def _hold(self, line: ServerConnection) -> None:
        self._welcome(line.send)
        with contextlib.suppress(ConnectionClosed):
            for _ in line:
                pass

    def close(self) -> None:
        self._server.shutdown()


class SerialLine(Outlet):
    """A virtual serial line; ``place`` becomes the device that others open."""

    def __init__(self, dialect: Dialect, place: str) -> None:
        super().__init__(dialect, place)
        self._ours, self._theirs = pty.openpty()
        tty.setraw(self._theirs)
        self.place = f"serial:{os.ttyname(self._theirs)}"
        self._announced = False

    def write(self, line: str) -> None:
        rows = [line] if self._announced else [*self.dialect.head(), line]
        self._announced = True
        for row in rows:
            os.write(self._ours, row.encode() + b"\r\n")

    def close(self) -> None:
        os.close(self._ours)
        os.close(self._theirs)


def _say(line: socket.socket, text: str) -> None:
    line.sendall(text.encode() + b"\r\n")


SHAPES: dict[str, type[Outlet]] = {
    "folder-grow": GrowingFile,
    "folder-rewrite": RewrittenFile,
    "file-a-ball": FileABall,
    "tcp-json": TcpLines,
    "ws-json": WebSocketMessages,
    "serial": SerialLine,
}

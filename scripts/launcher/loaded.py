"""The application loaded once, and programs of it begun as copies (`launcher.loader` is the process that has it)."""

from __future__ import annotations

import contextlib
import json
import os
import select
import signal
import socket
import subprocess
import sys
import threading
from collections.abc import Iterator, Sequence
from pathlib import Path

from launcher.mariadb import DatabaseError
from launcher.processes import Plain, spawn

TIDINGS = 32
"""Longest message of the loader, in bytes: a number."""


class Copy:
    """A program that was begun as a copy; to whoever keeps it, a process like any other."""

    def __init__(self, pid: int, handle: int, status_pipe: int) -> None:
        self.pid = pid
        self.returncode: int | None = None
        self._handle, self._status_pipe = handle, status_pipe
        self._one = threading.Lock()

    def poll(self) -> int | None:
        """Its exit status, or None while it runs."""
        with contextlib.suppress(subprocess.TimeoutExpired):
            return self.wait(0)
        return None

    def wait(self, timeout: float | None = None) -> int:
        """Wait until it has ended; gives its exit status (of a copy whose loader went first: that of the signal).

        Raises
        ------
        subprocess.TimeoutExpired
        """
        if self.returncode is None:
            ended = select.poll()
            ended.register(self._handle, select.POLLIN)
            if not ended.poll(None if timeout is None else timeout * 1000):
                raise subprocess.TimeoutExpired(f"program {self.pid}", timeout or 0)
            with self._one:
                if self.returncode is None:
                    self.returncode = int(os.read(self._status_pipe, TIDINGS) or -signal.SIGTERM)
        return self.returncode

    def terminate(self) -> None:
        """Ask it to end."""
        self._send(signal.SIGTERM)

    def kill(self) -> None:
        """End it."""
        self._send(signal.SIGKILL)

    def _send(self, number: int) -> None:
        with contextlib.suppress(ProcessLookupError):
            signal.pidfd_send_signal(self._handle, number)

    def __del__(self) -> None:
        for file in (self._handle, self._status_pipe):
            os.close(file)


class Loader:
    """Has the application loaded in a process of its own, and copies made of it."""

    def __init__(self, environment: dict[str, str], log: Path) -> None:
        self.environment, self._log = environment, log
        self._orders: socket.socket | None = None
        self._one = threading.Lock()

    def begin(self) -> Plain:
        """Start loading; orders wait until it is done. What is counted has its folder from the beginning."""
        Path(self.environment["PROMETHEUS_MULTIPROC_DIR"]).mkdir(mode=0o700, parents=True, exist_ok=True)
        ours, theirs = socket.socketpair(socket.AF_UNIX, socket.SOCK_SEQPACKET)
        with theirs:
            command = [sys.executable, "-m", "launcher.loader", str(theirs.fileno())]
            process = spawn(command, self.environment, self._log, hands_on=(theirs.fileno(),))
        with self._one:
            if self._orders:
                self._orders.close()
            self._orders = ours
        return Plain(process)

    def close(self) -> None:
        """Hang up: the loader ends, and its copies with it."""
        with self._one:
            if self._orders:
                self._orders.close()
            self._orders = None

    def copy(
        self,
        name: str,
        program: str,
        arguments: Sequence[str] = (),
        *,
        files: tuple[int, int, int],
        hands_on: Sequence[int] = (),
    ) -> Copy:
        """Begin a program (`launcher.loader` has which there are) under a name, which its log lines bear.

        Its standard input, output and error are ``files``; open files ``hands_on`` become its own.

        Raises
        ------
        DatabaseError
            When the application cannot be loaded, or its loader has just been killed.
        """
        order = {"name": name, "program": program, "arguments": list(arguments)}
        order["environment"] = {"INSTAVIS_PROCESS": name}
        with self._one:
            try:
                if self._orders is None:
                    raise BrokenPipeError
                socket.send_fds(self._orders, [json.dumps(order).encode()], [*files, *hands_on])
                text, handles, _, _ = socket.recv_fds(self._orders, TIDINGS, 2)
            except OSError:
                text = b""
        if not text:
            raise DatabaseError(f"The application could not be loaded; see {self._log}.")
        return Copy(int(text), *handles)

    def copy_into(self, log: Path, name: str, program: str, arguments: Sequence[str], *hands_on: int) -> Plain:
        """The same for a program that reads nothing and says what it has to say into a log, its owner's alone."""
        sink = os.open(log, os.O_WRONLY | os.O_CREAT | os.O_APPEND, 0o600)
        nothing = os.open(os.devnull, os.O_RDONLY)
        try:
            return Plain(self.copy(name, program, arguments, files=(nothing, sink, sink), hands_on=hands_on))
        finally:
            os.close(sink)
            os.close(nothing)


@contextlib.contextmanager
def loaded(environment: dict[str, str], log: Path) -> Iterator[Loader]:
    """The application loaded for the length of a block, for what is done once."""
    loader = Loader(environment, log)
    process = loader.begin()
    try:
        yield loader
    finally:
        loader.close()
        process.stop()

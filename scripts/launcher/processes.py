"""Child processes that end with their parent, however it ends."""

from __future__ import annotations

import ctypes
import os
import signal
import subprocess
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol

PATIENCE = 10
PR_SET_PDEATHSIG = 1
_prctl = ctypes.CDLL(None).prctl  # found before a child is made: in a child of several threads little may be done


def die_with_parent() -> None:
    """Linux sends the child a SIGTERM when the launcher is gone, even by kill -9."""
    _prctl(PR_SET_PDEATHSIG, signal.SIGTERM)


def spawn(
    command: list[str],
    environment: dict[str, str],
    log: Path | None = None,
    *,
    says: str = "",
    hands_on: Sequence[int] = (),
) -> subprocess.Popen:
    """Start a child in a session of its own, so that Ctrl-C reaches the launcher first.

    What it reads from standard input is ``says``; open files ``hands_on`` stay open in it. Its log is its owner's.
    """
    sink = os.open(log, os.O_WRONLY | os.O_CREAT | os.O_APPEND, 0o600) if log else None
    try:
        process = subprocess.Popen(
            command,
            env={**os.environ, **environment},
            stdin=subprocess.PIPE if says else subprocess.DEVNULL,
            stdout=sink,
            stderr=sink,
            start_new_session=True,
            preexec_fn=die_with_parent,
            pass_fds=hands_on,
        )
    finally:
        if sink is not None:
            os.close(sink)
    if process.stdin is not None:
        process.stdin.write(says.encode())
        process.stdin.close()
    return process


class Process(Protocol):
    """What whoever keeps a program running needs of it."""

    pid: int

    def poll(self) -> int | None:
        """Its exit status, or None while it runs."""

    def wait(self, timeout: float | None = None) -> int:
        """Wait until it has ended; gives its exit status, a signal's negative."""

    def terminate(self) -> None:
        """Ask it to end."""

    def kill(self) -> None:
        """End it."""


@dataclass
class Plain:
    """A process that is all there is to a program."""

    process: Process

    def stop(self) -> None:
        """End it politely, and hard after a while."""
        stop(self.process)


def stop(process: Process) -> None:
    """End a child politely, and hard after a while."""
    if process.poll() is not None:
        return
    process.terminate()
    try:
        process.wait(PATIENCE)
    except subprocess.TimeoutExpired:
        process.kill()
        process.wait()

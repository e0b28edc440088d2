"""Child processes that end with their parent, however it ends."""

from __future__ import annotations

import contextlib
import ctypes
import os
import signal
import subprocess
from collections.abc import Iterator
from pathlib import Path

PATIENCE = 10
PR_SET_PDEATHSIG = 1


def die_with_parent() -> None:
    """Linux sends the child a SIGTERM when the launcher is gone, even by kill -9."""
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGTERM)


def spawn(command: list[str], environment: dict[str, str], log: Path | None = None) -> subprocess.Popen:
    """Start a child in a session of its own, so that Ctrl-C reaches the launcher first."""
    sink = log.open("ab") if log else None
    try:
        return subprocess.Popen(
            command,
            env={**os.environ, **environment},
            stdin=subprocess.DEVNULL,
            stdout=sink,
            stderr=sink,
            start_new_session=True,
            preexec_fn=die_with_parent,
        )
    finally:
        if sink:
            sink.close()


def stop(process: subprocess.Popen) -> None:
    """End a child politely, and hard after a while."""
    if process.poll() is not None:
        return
    process.terminate()
    try:
        process.wait(PATIENCE)
    except subprocess.TimeoutExpired:
        process.kill()
        process.wait()


@contextlib.contextmanager
def running(command: list[str], environment: dict[str, str], log: Path | None = None) -> Iterator[subprocess.Popen]:
    """A child for the length of a block."""
    process = spawn(command, environment, log)
    try:
        yield process
    finally:
        stop(process)

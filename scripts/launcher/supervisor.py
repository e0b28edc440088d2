"""Keeps programs running: what ends by itself is started again, after a pause that grows while it keeps ending."""

from __future__ import annotations

import signal
import threading
import time
from collections.abc import Callable
from typing import Protocol

from launcher.mariadb import DatabaseError
from launcher.processes import Process

PAUSES = (0.1, 0.5, 1.0, 2.0, 4.0)
STEADY_SECONDS = 5.0
"""Who ran that long had started well: its earlier ends are forgiven, and it comes back at once."""


class Private(Protocol):
    """A running service with more to it than its process."""

    @property
    def process(self) -> Process:
        """What runs."""

    def stop(self) -> None:
        """End it cleanly."""


class Program:
    """One program under supervision; it runs already."""

    def __init__(self, name: str, running: Private, again: Callable[[], Private], tell: Callable[[str], None]) -> None:
        self.name, self.restarts = name, 0
        self._running, self._again, self._tell = running, again, tell
        self._ending = threading.Event()
        self._thread = threading.Thread(target=self._watch, name=f"keeps {name}", daemon=True)
        self._thread.start()

    @property
    def process(self) -> Process:
        """Its process as it is now."""
        return self._running.process

    def stop(self) -> None:
        """End it for good."""
        self._ending.set()
        self._running.stop()
        self._thread.join()

    def kill(self) -> None:
        """End it for good as a power cut would (tests)."""
        self._ending.set()
        self.process.kill()
        self._thread.join()

    def _watch(self) -> None:
        ends, begun = 0, time.monotonic()
        while True:
            status = self.process.wait()
            if self._ending.is_set():
                return
            # A copy that ended together with its loader did nothing wrong: only the loader pauses before a restart.
            blameless = status == -signal.SIGTERM or time.monotonic() - begun > STEADY_SECONDS
            ends = 0 if blameless else ends
            while True:
                pause = PAUSES[min(ends, len(PAUSES) - 1)]
                ends += 1
                self._tell(f"{self.name} ended ({_status_text(status)}); it is started again in {pause:g} s")
                if self._ending.wait(pause):
                    return
                begun = time.monotonic()
                try:
                    self._running.stop()  # whatever it left
                    self._running = self._again()
                except (OSError, DatabaseError) as error:
                    self._tell(f"{self.name} could not be started: {error}")
                else:
                    break
            self.restarts += 1
            if self._ending.is_set():  # told to end meanwhile
                self._running.stop()
                return


class Supervisor:
    """Several programs, ended in the opposite order of their beginning."""

    def __init__(self, tell: Callable[[str], None]) -> None:
        self._tell = tell
        self.programs: list[Program] = []

    def keep(self, name: str, begin: Callable[[], Private], again: Callable[[], Private] | None = None) -> Private:
        """Start a program and keep it running; ``again`` starts it anew where that differs."""
        running = begin()
        self.programs.append(Program(name, running, again or begin, self._tell))
        return running

    def stop(self) -> None:
        """End everything: of one kind all at once, then what they rest on."""
        while self.programs:
            kind = _kind(self.programs[-1].name)
            same = [self.programs.pop() for _ in range(sum(_kind(k.name) == kind for k in self.programs))]
            ends = [threading.Thread(target=program.stop) for program in same]
            for end in ends:
                end.start()
            for end in ends:
                end.join()

    def kill(self) -> None:
        """End everything as a power cut would (tests)."""
        for program in reversed(self.programs):
            program.kill()
        self.programs.clear()


def _kind(name: str) -> str:
    return name.split()[0]


def _status_text(status: int) -> str:
    return signal.Signals(-status).name if status < 0 else f"status {status}"

"""Supervised programs: how long the supervisor waits before it restarts one."""

from __future__ import annotations

import re
import signal
import threading

import pytest

from launcher.supervisor import Supervisor


class Ending:
    """A program that ends again and again, as told; then it stays."""

    def __init__(self, *statuses: int) -> None:
        self.statuses, self.stays, self.over = list(statuses), threading.Event(), threading.Event()

    @property
    def process(self) -> Ending:
        return self

    def wait(self) -> int:
        if self.statuses:
            return self.statuses.pop(0)
        self.stays.set()
        self.over.wait()
        return 0

    def stop(self) -> None:
        self.over.set()


@pytest.mark.parametrize(
    ("status", "pauses"), [(-signal.SIGKILL, ["0.1", "0.5", "1"]), (-signal.SIGTERM, ["0.1", "0.1", "0.1"])]
)
def test_restart_pauses_grow_except_after_a_loader_crash(status, pauses):
    text: list[str] = []
    supervisor, first = Supervisor(text.append), Ending(status)
    later = [Ending(status), Ending(status), Ending()]
    programs = iter(later)
    supervisor.keep("web 1", lambda: first, lambda: next(programs))
    assert later[-1].stays.wait(10)
    supervisor.stop()
    assert [re.findall(r"again in ([\d.]+) s", line)[0] for line in text] == pauses

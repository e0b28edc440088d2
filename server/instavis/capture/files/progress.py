"""How far the storing of files has come: kept in the one server process (docs/decisions/3-one-process.md)."""

from __future__ import annotations

import threading
from dataclasses import dataclass, field

from instavis.platform.errors import Problem


class Cancelled(Exception):
    """The coach called it off; nothing of the file is kept."""


@dataclass(kw_only=True)
class Progress:
    """One file's way in; ``state`` is reading, done, cancelled or failed."""

    total: int
    done: int = 0
    state: str = "reading"
    stored: int = 0
    known: int = 0
    left_out: int = 0
    problems: list[Problem] = field(default_factory=list)
    _cancel: threading.Event = field(default_factory=threading.Event)

    def step(self, balls: int) -> None:
        """Count balls; raises Cancelled when somebody called it off."""
        self.done += balls
        if self._cancel.is_set():
            raise Cancelled

    def cancel(self) -> None:
        """Ask for the end; it comes with the next step."""
        self._cancel.set()


_running: dict[int, Progress] = {}
_lock = threading.Lock()
MOST_REMEMBERED = 200


def begin(draft_id: int, total: int) -> Progress | None:
    """A new way in; None when this file is being read already."""
    with _lock:
        current = _running.get(draft_id)
        if current is not None and current.state == "reading":
            return None
        while len(_running) >= MOST_REMEMBERED:
            _running.pop(next(iter(_running)))
        _running[draft_id] = Progress(total=total)
        return _running[draft_id]


def progress_of(draft_id: int) -> Progress | None:
    """How far a file has come; None when it was never begun."""
    return _running.get(draft_id)

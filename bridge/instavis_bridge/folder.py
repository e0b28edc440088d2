"""Files in a folder: growing, rewritten, or one for each ball; old ones are left alone."""

from __future__ import annotations

import contextlib
import fnmatch
import os
import re
import time
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from instavis_bridge.journal import Journal, digest
from instavis_bridge.lines import (
    clean,
    decoded,
    headed,
    is_document,
    names_columns,
    objects_in,
    oldest_first,
    runs_backwards,
    spread,
)

PATTERNS = ("*.csv", "*.txt", "*.tsv", "*.json", "*.ndjson", "*.jsonl")
DEEPEST = 3  # folders within the folder
AN_END = 4096  # bytes before the old end that show whether a file only grew
SETTLED, SETTLED_LONG = 0.3, 2.0  # s without a change after which a last line without an end counts
LARGEST = 200_000_000
_TWO_NUMBERS = re.compile(r"\d.*\D\d")
UNFINISHED = 2.0  # s after which an incomplete document is reported as broken
UNREADABLE = (".xlsx", ".xls", ".ods", ".xml", ".html", ".pdf", ".db", ".sqlite", ".mdb", ".dat", ".log", ".zip")
"""Kinds of files that a monitor's program may write its balls to, but that cannot be read as tables."""
HOT, ALL_EVERY = 1800.0, 2.0  # s: recently changed files are checked every time, all others at this interval
SHOWN = 40  # old rows shown as examples

Row = tuple[str, tuple[str, ...]]
"""A row and the lines that explain it."""


@dataclass(kw_only=True)
class _FileState:
    """A file as it was last read.

    ``whole`` is False while part of it is left for later. ``read`` is how many of its bytes were read, ``end`` the last
    of them, and ``head`` what explains the next row.
    """

    size: int
    changed_ns: int
    is_complete: bool
    read: int = 0
    end: bytes = b""
    encoding: str = ""
    head: tuple[str, ...] = ()


class Folder:
    """Watch a folder or a file by sizes and times; also works on network shares and USB sticks.

    Parameters
    ----------
    path : Path
    journal : Journal
    patterns : sequence of str
        Names of files that count.
    """

    def __init__(self, path: Path, journal: Journal, patterns: Sequence[str] = PATTERNS) -> None:
        self.path, self._journal = path, journal
        self._counts = re.compile("|".join(fnmatch.translate(p.lower()) for p in patterns))
        self._states: dict[str, _FileState] = {}
        self._hot: dict[str, Path] = {}
        self._folders: dict[Path, int] = {}
        self._all_at = float("-inf")
        self._begun_at = time.time()
        self.problems: dict[str, str] = {}

    def know_what_is_there(self) -> list[tuple[str, list[str], list[str]]]:
        """Ignore existing rows; return name, rows and head of the newest file as examples.

        This happens only the first time: later, new rows were written while the bridge was off.
        """
        newest: tuple[float, str, list[Row]] | None = None
        for path, state in self._files():
            name = self._name(path)
            try:
                rows, state_before = self._rewritten(name, path, state, settled=True)
            except OSError as error:
                self.problems[name] = f"{name} cannot be read: {error.strerror}."
                continue
            self._journal.know(name, [text for text, _ in rows])
            self._states[name] = state_before
            balls = [text for text, _ in rows if not names_columns(text)]
            if balls and (newest is None or state.st_mtime > newest[0]):
                newest = (state.st_mtime, name, rows)
        if newest is None:
            return []
        _, name, rows = newest
        return [(name, [text for text, _ in rows[-SHOWN:]], list(rows[-1][1]))]

    def poll(self) -> int:
        """Add every new row to the journal; return how many.

        Recently changed files are read every time, all others when the folder's files changed, and every few seconds.
        """
        found = 0
        for path, state in self._files() if self._is_time_for_all() else list(self._still_hot()):
            name = self._name(path)
            if time.time() - state.st_mtime < HOT:
                self._hot[name] = path
            else:
                self._hot.pop(name, None)
            state_before = self._states.get(name)
            same = state_before and (state_before.size, state_before.changed_ns) == (state.st_size, state.st_mtime_ns)
            if state_before and same and state_before.is_complete:
                continue
            found += self._take(name, path, state)
        return found

    def _is_time_for_all(self) -> bool:
        now = time.monotonic()
        changed = any(_changed_ns(folder) != known for folder, known in self._folders.items())
        if not changed and now - self._all_at < ALL_EVERY:
            return False
        self._all_at = now
        self._folders.clear()
        return True

    def _still_hot(self) -> Iterator[tuple[Path, os.stat_result]]:
        for path in list(self._hot.values()):
            with contextlib.suppress(OSError):  # deleted: the next scan handles it
                yield path, path.stat()

    def _take(self, name: str, path: Path, state: os.stat_result) -> int:
        if state.st_size > LARGEST:
            self.problems[name] = f"{name} is too large to be read ({state.st_size // 1_000_000} MB)."
            return 0
        self.problems.pop(name, None)
        try:
            found = self._grown(name, path, state)
            if found is None:
                found = self._rewritten(name, path, state)
        except OSError as error:
            self.problems[name] = f"{name} cannot be read: {error.strerror}."
            self._states.pop(name, None)
            return 0
        rows, state_before = found
        taken = self._journal.take(name, rows) if rows else 0
        self._states[name] = state_before  # only now: what could not be written to disk is found again
        return taken

    def _grown(self, name: str, path: Path, state: os.stat_result) -> tuple[list[Row], _FileState] | None:
        """Return what was appended to a file whose old part is unchanged; None for any other file."""
        state_before = self._states.get(name)
        if state_before is None or not state_before.read or state.st_size < state_before.read:
            return None
        with path.open("rb") as file:
            file.seek(state_before.read - len(state_before.end))
            if file.read(len(state_before.end)) != state_before.end:
                return None
            data = file.read()
        complete, is_complete = _complete(
            data.decode(state_before.encoding, errors="replace"), state_before.head, state
        )
        rows = headed(spread(complete), state_before.head)
        length = data.rfind(b"\n") + 1 if not is_complete or data.endswith(b"\n") else len(data)
        end = (state_before.end + data[:length])[-AN_END:]
        after = replace(
            state_before,
            size=state.st_size,
            changed_ns=state.st_mtime_ns,
            is_complete=is_complete,
            read=state_before.read + length,
        )
        return rows, replace(after, end=end, head=rows[-1][1] if rows else state_before.head)

    def _rewritten(
        self, name: str, path: Path, state: os.stat_result, settled: bool = False
    ) -> tuple[list[Row], _FileState]:
        """Return the new rows of a file read from its start: those that occur more often than already sent."""
        data = path.read_bytes()
        text, encoding = decoded(data)
        state_before = _FileState(size=state.st_size, changed_ns=state.st_mtime_ns, is_complete=True)
        if is_document(text):
            objects = objects_in(text)
            lines, state_before.is_complete = objects or [], objects is not None
            self._say_of_document(name, objects, state)
        else:
            lines, state_before.is_complete = _complete(text, [], state, settled)
            lines = spread(lines)
            if lines and all(line.lstrip().startswith("{") for line in lines):
                self._say_of_document(name, [line for line in lines if _TWO_NUMBERS.search(line)], state)
            if state_before.is_complete and data.endswith(b"\n") and encoding != "utf-16":
                state_before.read, state_before.end, state_before.encoding = len(data), data[-AN_END:], encoding
        place = self._journal.places.get(name)
        taken: Counter[int] = place.taken if place else Counter()
        met: Counter[int] = Counter()
        rows: list[Row] = []
        new: list[bool] = []  # of every row below the headers, in the file's order
        below = not any(map(names_columns, lines))
        for line, head in headed(lines):
            key = digest(line)
            met[key] += 1
            fresh = met[key] > taken[key]
            if fresh:
                rows.append((line, head))
            if names_columns(line):
                below = True
            elif below:
                new.append(fresh)
            state_before.head = head
        # New rows are on top if they are above all earlier ones, or, without earlier ones, if numbers or
        # times decrease.
        if new[0] if not all(new) else runs_backwards([line for line, _ in rows]):
            rows = oldest_first(rows)
        return rows, state_before

    def _say_of_document(self, name: str, objects: list[str] | None, state: os.stat_result) -> None:
        if objects:
            self.problems.pop(name, None)
        elif objects is not None:
            self.problems[name] = f"{name} holds no balls: a list of objects with numbers was expected."
        elif time.time() - state.st_mtime > UNFINISHED:
            self.problems[name] = f"{name} cannot be read: it is no complete JSON."

    def _say_of_others(self, entry: os.DirEntry[str]) -> None:
        """Report a changing file of an unknown kind, which the monitor may be writing."""
        name = self._name(Path(entry.path))
        if entry.name.startswith((".", "~")) or not entry.name.lower().endswith(UNREADABLE):
            return
        if entry.stat().st_mtime > self._begun_at:
            kinds = ", ".join(kind.removeprefix("*.") for kind in PATTERNS)
            self.problems[name] = f"{name} changes but cannot be read. Let the monitor's program write {kinds}."

    def _files(self) -> Iterator[tuple[Path, os.stat_result]]:
        if self.path.is_file():
            yield self.path, self.path.stat()
            return
        yield from self._below(self.path, 0)

    def _below(self, folder: Path, depth: int) -> Iterator[tuple[Path, os.stat_result]]:
        try:
            self._folders[folder] = _changed_ns(folder)
            entries = sorted(os.scandir(folder), key=lambda e: e.name)
        except OSError as error:
            self.problems[str(folder)] = f"The folder {folder} cannot be read: {error.strerror}."
            return
        self.problems.pop(str(folder), None)
        for entry in entries:
            try:
                if entry.is_dir(follow_symlinks=False):
                    if depth < DEEPEST:
                        yield from self._below(Path(entry.path), depth + 1)
                elif self._counts.match(entry.name.lower()):
                    yield Path(entry.path), entry.stat()
                else:
                    self._say_of_others(entry)
            except OSError:
                continue  # deleted while scanning

    def _name(self, path: Path) -> str:
        return path.name if path == self.path else path.relative_to(self.path).as_posix()


def _changed_ns(folder: Path) -> int:
    try:
        return folder.stat().st_mtime_ns
    except OSError:
        return 0


def _complete(text: str, before: Sequence[str], state: os.stat_result, settled: bool = False) -> tuple[list[str], bool]:
    """Return the complete lines, and whether those are all."""
    *complete, last = text.split("\n")
    lines = [line for line in map(clean, complete) if line.strip()]
    if not last.strip():
        return lines, True
    patience = SETTLED if _as_wide(last, [*before, *lines]) else SETTLED_LONG
    if settled or time.time() - state.st_mtime >= patience:
        return [*lines, clean(last)], True
    return lines, False


def _as_wide(line: str, lines: Sequence[str]) -> bool:
    """Return True if a line without an end has as many cells as the one before, or is an object."""
    if objects_in(line):
        return True
    return bool(lines) and all(line.count(c) >= lines[-1].count(c) for c in ",;\t|")

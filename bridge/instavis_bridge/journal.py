"""Found and confirmed rows, in one append-only file: nothing is lost or sent twice."""

from __future__ import annotations

import base64
import hashlib
import json
import os
import struct
import threading
import time
from collections import Counter, deque
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, BinaryIO


@dataclass(frozen=True, kw_only=True)
class Entry:
    """A row to send: its number, place, content, and the head that explains it."""

    number: int
    name: str
    text: str
    head: tuple[str, ...]


@dataclass(kw_only=True)
class Place:
    """The state of one file or stream: how often each of its rows was sent."""

    taken: Counter[int] = field(default_factory=Counter)


def digest(text: str) -> int:
    """Hash a row to eight bytes."""
    return int.from_bytes(hashlib.blake2b(text.encode("utf-8", "replace"), digest_size=8).digest(), "big")


class Journal:
    """Found rows by file, and which of them were confirmed.

    Every change is written to disk before anything else happens. A last line torn by a power cut is ignored; its rows
    are found again.
    """

    def __init__(self, file: Path, clock: float | None = None) -> None:
        self._file = file
        self._out: BinaryIO
        self._lock = threading.RLock()
        self._heads: dict[str, tuple[str, ...]] = {}
        self.places: dict[str, Place] = {}
        self.unsent: deque[Entry] = deque()
        # Numbers continue from here; after a lost journal they start above any that could have been used.
        self._next = int((time.time() if clock is None else clock) * 1000)
        self._read()
        self._begin_anew()

    def take(self, name: str, rows: Sequence[tuple[str, Sequence[str]]]) -> int:
        """Add new rows of a file or stream, each with its head; return how many.

        Raises
        ------
        OSError
            When the disk takes nothing: the rows count as not found then.
        """
        with self._lock:
            lines: list[dict[str, Any]] = []
            entries: list[Entry] = []
            for text, head in rows:
                head_key = self._head(head, lines)
                entry = Entry(number=self._next + len(entries), name=name, text=text, head=tuple(head))
                entries.append(entry)
                lines.append({"k": "row", "n": entry.number, "f": name, "t": text, "h": head_key})
            self._append(lines)
            place = self.places.setdefault(name, Place())
            for entry in entries:
                place.taken[digest(entry.text)] += 1
                self.unsent.append(entry)
            self._next += len(entries)
            return len(entries)

    def know(self, name: str, texts: Iterable[str]) -> None:
        """Remember rows that existed before and must not be sent."""
        with self._lock:
            taken = Counter(map(digest, texts))
            self._append([_known(name, taken)])
            self.places[name] = Place(taken=taken)

    def batch(self, most: int) -> list[Entry]:
        """Return the next rows to send, all with one head."""
        with self._lock:
            batch: list[Entry] = []
            for entry in self.unsent:
                if len(batch) >= most or (batch and (entry.head, entry.name) != (batch[0].head, batch[0].name)):
                    break
                batch.append(entry)
            return batch

    def confirmed(self, batch: Sequence[Entry]) -> None:
        """Mark the first unsent rows as stored."""
        with self._lock:
            self._append([{"k": "ack", "n": batch[-1].number}])
            for _ in batch:
                self.unsent.popleft()

    def _head(self, head: Sequence[str], lines: list[dict[str, Any]]) -> str:
        key = hashlib.blake2b("\n".join(head).encode("utf-8", "replace"), digest_size=8).hexdigest()
        if key not in self._heads:
            self._heads[key] = tuple(head)
            lines.append({"k": "head", "h": key, "l": list(head)})
        return key

    def _append(self, records: Sequence[dict[str, Any]]) -> None:
        if not records:
            return
        data = "".join(json.dumps(r, ensure_ascii=True) + "\n" for r in records).encode()
        size = self._out.tell()
        try:
            self._out.write(data)
            self._out.flush()
            os.fsync(self._out.fileno())
        except OSError:
            # A half-written line is removed, so that the next one starts cleanly.
            for record in records:
                self._heads.pop(record["h"], None) if record["k"] == "head" else None
            self._out = self._file.open("r+b", buffering=0)
            self._out.truncate(size)
            self._out.seek(size)
            raise

    def _read(self) -> None:
        if not self._file.exists():
            return
        rows: dict[int, Entry] = {}
        with self._file.open("rb") as lines:
            for line in lines:
                try:
                    record = json.loads(line)
                    self._replay(record, rows)
                except (ValueError, KeyError, TypeError):
                    continue  # torn by a power cut
        self.unsent.extend(rows[number] for number in sorted(rows))

    def _replay(self, record: dict[str, Any], rows: dict[int, Entry]) -> None:
        match record["k"]:
            case "next":
                self._next = record["n"]
            case "head":
                self._heads[record["h"]] = tuple(record["l"])
            case "row":
                head = self._heads.get(record["h"], ())
                rows[record["n"]] = Entry(number=record["n"], name=record["f"], text=record["t"], head=head)
                if not record.get("c"):  # counted with its file when the journal was rewritten
                    self.places.setdefault(record["f"], Place()).taken[digest(record["t"])] += 1
                self._next = max(self._next, record["n"] + 1)
            case "ack":
                for number in [n for n in rows if n <= record["n"]]:
                    del rows[number]
            case "known":
                self.places[record["f"]] = Place(taken=_counted(record["d"]))

    def _begin_anew(self) -> None:
        """Write what still matters to a new file that replaces the old one."""
        lines: list[dict[str, Any]] = [{"k": "next", "n": self._next}]
        used = {entry.head for entry in self.unsent}
        self._heads = {key: head for key, head in self._heads.items() if head in used}
        lines += [{"k": "head", "h": key, "l": list(head)} for key, head in self._heads.items()]
        lines += [_known(name, place.taken) for name, place in self.places.items()]
        keys = {head: key for key, head in self._heads.items()}
        lines += [
            {"k": "row", "n": e.number, "f": e.name, "t": e.text, "h": keys.get(e.head, ""), "c": 1}
            for e in self.unsent
        ]
        part = self._file.with_suffix(".part")
        with part.open("wb") as out:
            out.write("".join(json.dumps(line, ensure_ascii=True) + "\n" for line in lines).encode())
            out.flush()
            os.fsync(out.fileno())
        part.replace(self._file)
        self._out = self._file.open("r+b", buffering=0)
        self._out.seek(0, os.SEEK_END)

    def close(self) -> None:
        """Close the file."""
        self._out.close()


def _known(name: str, taken: Counter[int]) -> dict[str, Any]:
    packed = struct.pack(f">{len(taken) * 2}Q", *(n for pair in taken.items() for n in pair))
    return {"k": "known", "f": name, "d": base64.b64encode(packed).decode()}


def _counted(packed: str) -> Counter[int]:
    data = base64.b64decode(packed)
    numbers = struct.unpack(f">{len(data) // 8}Q", data)
    return Counter(dict(zip(numbers[::2], numbers[1::2], strict=True)))

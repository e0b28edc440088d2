"""From bytes to lines, and which lines form the head of a table."""

from __future__ import annotations

import codecs
import json
import re
from collections.abc import Sequence
from itertools import pairwise
from typing import Any

MAX_HEAD, LONGEST_HEAD = 30, 2000
LONGEST_LINE = 20_000
DEEPEST = 4  # objects within objects
MIN_CUTS = 2  # separators of a line that may name columns
ABOVE = 3  # lines above a row of headers that may belong to it: units, a title
MIN_COUNTED = 3  # two carries may differ by one as well; two numbers that end with 1 are a count
_CUTS = re.compile(r"[,;\t|]")
_CLOCK = re.compile(r"\d\d:\d\d")
_NUMBER = re.compile(r"\s*\"?[-+−]?\d")


def decoded(data: bytes) -> tuple[str, str]:
    """Decode a text and return its encoding; unknown bytes are read as Western letters."""
    if data.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        return data.decode("utf-16", errors="replace"), "utf-16"
    try:
        return data.decode("utf-8-sig"), "utf-8"
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace"), "cp1252"


def clean(line: str) -> str:
    """Remove control characters from a line, and cut it if it is too long."""
    return line.replace("\0", "").strip("\r\n")[:LONGEST_LINE]


def names_columns(line: str) -> bool:
    """Return True if a line may be a header row: several cells, none of them a number."""
    if line[:1].isdigit() or line.lstrip().startswith(("{", "[")):
        return False
    cells = _CUTS.split(line)
    filled = sum(bool(cell.strip(' "')) for cell in cells)
    return filled > MIN_CUTS and 2 * filled > len(cells) and not any(_NUMBER.match(cell) for cell in cells)


def is_heading(line: str) -> bool:
    """Return whether a row is a heading of the rows below it: one filled cell among empty ones, as in ``Driver,,,``."""
    cells = _CUTS.split(line)
    return len(cells) > MIN_CUTS and sum(bool(cell.strip(' "')) for cell in cells) == 1


def headed(lines: Sequence[str], before: Sequence[str] = ()) -> list[tuple[str, tuple[str, ...]]]:
    """Return every line with the lines that explain it: the newest header row at or above it, a few lines above that,
    the first lines below, and the heading.

    Lines under the same headers and heading share them; ``before`` explained the line before these.
    """
    out: list[tuple[str, tuple[str, ...]]] = []
    head = [line for line in before if not is_heading(line)]
    heading = [line for line in before if is_heading(line)][-1:]
    under: list[tuple[str, list[str]]] = []
    for line in lines:
        if names_columns(line):
            out += [(one, (*head, *over)) for one, over in under]
            head, under = head[-ABOVE:], []
        if is_heading(line):
            heading = [line[:LONGEST_HEAD]]
        elif len(head) < MAX_HEAD:
            head.append(line[:LONGEST_HEAD])
        under.append((line, heading))
    return out + [(one, (*head, *over)) for one, over in under]


def runs_backwards(lines: Sequence[str]) -> bool:
    """Return True if a table has the newest row first: a column counts down, or times run backward."""
    rows = [_CUTS.split(line) for line in lines if _CUTS.search(line) and not names_columns(line)]
    for column in zip(*rows, strict=False):
        counts = [int(cell.strip(' "')) for cell in column if cell.strip(' "').isdecimal()]
        result = len(counts) >= MIN_COUNTED or (len(counts) > 1 and counts[-1] == 1)
        if result and all(a - b == 1 for a, b in pairwise(counts)):
            return True
        times = [cell for cell in column if _CLOCK.search(cell)]
        if len(times) > 1 and all(a > b for a, b in pairwise(times)):
            return True
    return False


def oldest_first(rows: Sequence[tuple[str, tuple[str, ...]]]) -> list[tuple[str, tuple[str, ...]]]:
    """Return rows with the newest first in reverse order; their heads stay in front."""
    head = [row for row in rows if names_columns(row[0])]
    return head + [row for row in reversed(rows) if not names_columns(row[0])]


def objects_in(text: str) -> list[str] | None:
    """Return the objects of a JSON text that may be balls, one line each; None for a text that is no JSON (yet).

    A list gives its objects, and so does an object that holds a list of them, such as a whole session. An object that
    says more than the objects in its lists (a ball with the points of its flight) is one itself.

    >>> objects_in('{"session": "x", "shots": [{"a": 1, "b": 2}, {"a": 3, "b": 4}]}')
    ['{"a": 1, "b": 2}', '{"a": 3, "b": 4}']
    """
    try:
        value = json.loads(text)
    except (ValueError, RecursionError):
        return None
    return [json.dumps(one, ensure_ascii=False) for one in _balls_of(value)]


def _balls_of(value: Any, depth: int = 0) -> list[dict[str, Any]]:
    if isinstance(value, list):
        return [ball for one in value for ball in _balls_of(one, depth + 1)]
    if not isinstance(value, dict):
        return []
    lists = _lists_of_objects(value) if depth < DEEPEST else []
    fullest = max(lists, key=lambda found: max(map(_numbers_in, found)), default=[])
    if not fullest or max(map(_numbers_in, fullest)) <= _numbers_in(value):
        return [value]
    return [ball for one in fullest for ball in _balls_of(one, depth + 1)]


def _lists_of_objects(value: dict[str, Any], depth: int = 0) -> list[list[dict[str, Any]]]:
    """Yield lists of objects in an object and its nested objects."""
    found = []
    for inner in value.values():
        if isinstance(inner, dict) and depth < DEEPEST:
            found += _lists_of_objects(inner, depth + 1)
        elif isinstance(inner, list) and any(isinstance(one, dict) for one in inner):
            found.append([one for one in inner if isinstance(one, dict)])
    return found


def _numbers_in(value: dict[str, Any], depth: int = 0) -> int:
    """Count the numbers in an object and its nested objects; lists are not counted."""
    count = 0
    for inner in value.values():
        if isinstance(inner, dict):
            count += _numbers_in(inner, depth + 1) if depth < DEEPEST else 0
        elif isinstance(inner, str):
            count += bool(_NUMBER.match(inner))
        else:
            count += isinstance(inner, int | float) and not isinstance(inner, bool)
    return count


def spread(lines: Sequence[str]) -> list[str]:
    """Return the lines with every line that is a whole session in JSON replaced by its balls."""
    out: list[str] = []
    for line in lines:
        found = objects_in(line) if line.lstrip().startswith(("{", "[")) else None
        itself = not found or (len(found) == 1 and json.loads(found[0]) == json.loads(line))
        out += [line] if itself or not found else found
    return out


def is_document(text: str) -> bool:
    """Return True if a text starts as one JSON document over several lines, not as one object per line."""
    text = text.lstrip("\ufeff \t\r\n")
    if text.startswith("["):
        return True
    first = text.partition("\n")[0]
    return text.startswith("{") and objects_in(first) is None

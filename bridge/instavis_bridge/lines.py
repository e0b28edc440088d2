"""From bytes to lines, and which lines stand at the head of a table."""

from __future__ import annotations

import codecs
import json
import re
from collections.abc import Sequence
from itertools import pairwise

MOST_HEAD, LONGEST_HEAD = 30, 2000
LONGEST_LINE = 20_000
LEAST_CUTS = 2  # separators of a line that may name columns
ABOVE = 3  # lines above a row of headers that may belong to it: units, a title
LEAST_COUNTED = 3  # two carries may differ by one as well; two numbers that end with 1 are a count
_CUTS = re.compile(r"[,;\t|]")
_CLOCK = re.compile(r"\d\d:\d\d")
_NUMBER = re.compile(r"\s*\"?[-+−]?\d")


def decoded(data: bytes) -> tuple[str, str]:
    """A text and which of the usual encodings it is in; what is none of them is read as Western letters."""
    if data.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        return data.decode("utf-16", errors="replace"), "utf-16"
    try:
        return data.decode("utf-8-sig"), "utf-8"
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace"), "cp1252"


def clean(line: str) -> str:
    """A line without what no text holds, cut where it never ends."""
    return line.replace("\0", "").strip("\r\n")[:LONGEST_LINE]


def names_columns(line: str) -> bool:
    """Whether a line may be a row of headers: several cells and none of them a number."""
    if line[:1].isdigit() or line.lstrip().startswith(("{", "[")):
        return False
    cells = _CUTS.split(line)
    return len(cells) > LEAST_CUTS and not any(_NUMBER.match(cell) for cell in cells)


def headed(lines: Sequence[str], before: Sequence[str] = ()) -> list[tuple[str, tuple[str, ...]]]:
    """Every line with the lines that explain it: the newest row of headers at or above it, a little of what stood
    above that, and the first lines below. Lines under one row of headers have the same; ``before`` explained the line
    before these.
    """
    out: list[tuple[str, tuple[str, ...]]] = []
    head = list(before)
    under: list[str] = []
    for line in lines:
        if names_columns(line):
            out += [(one, tuple(head)) for one in under]
            head, under = head[-ABOVE:], []
        if len(head) < MOST_HEAD:
            head.append(line[:LONGEST_HEAD])
        under.append(line)
    return out + [(one, tuple(head)) for one in under]


def runs_backwards(lines: Sequence[str]) -> bool:
    """Whether the rows of a table stand newest first: a column of theirs counts down, or its times run back."""
    rows = [_CUTS.split(line) for line in lines if _CUTS.search(line) and not names_columns(line)]
    for column in zip(*rows, strict=False):
        counts = [int(cell.strip(' "')) for cell in column if cell.strip(' "').isdecimal()]
        told = len(counts) >= LEAST_COUNTED or (len(counts) > 1 and counts[-1] == 1)
        if told and all(a - b == 1 for a, b in pairwise(counts)):
            return True
        times = [cell for cell in column if _CLOCK.search(cell)]
        if len(times) > 1 and all(a > b for a, b in pairwise(times)):
            return True
    return False


def oldest_first(rows: Sequence[tuple[str, tuple[str, ...]]]) -> list[tuple[str, tuple[str, ...]]]:
    """Rows that stand newest first turned round; what explains them stays in front."""
    head = [row for row in rows if names_columns(row[0])]
    return head + [row for row in reversed(rows) if not names_columns(row[0])]


def objects_in(text: str) -> list[str] | None:
    """The objects of a JSON document, one line each; None for a text that is none (yet)."""
    try:
        value = json.loads(text)
    except (ValueError, RecursionError):
        return None
    found = value if isinstance(value, list) else [value]
    return [json.dumps(one, ensure_ascii=False) for one in found if isinstance(one, dict)]


def is_document(text: str) -> bool:
    """Whether a text begins as one JSON document over several lines, not as an object a line."""
    text = text.lstrip("\ufeff \t\r\n")
    if text.startswith("["):
        return True
    first = text.partition("\n")[0]
    return text.startswith("{") and objects_in(first) is None

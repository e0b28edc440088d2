"""Rows that arrive one by one from a growing file or a stream: how to split them, and how to recognize a known ball."""

from __future__ import annotations

import csv
import hashlib
import io
import json
import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, BinaryIO

from instavis_core.errors import InputError
from instavis_core.message import Message
from instavis_core.shots import Shot
from instavis_io.tables.clubs import read_club_name
from instavis_io.tables.header_row import HEADER_WITHIN, is_units_row, match_header
from instavis_io.tables.mapping import Mapping as ColumnMapping
from instavis_io.tables.mapping import kind_of
from instavis_io.tables.text import LONGEST_CELL, MAX_COLUMNS, sniff_delimiter

TABLE, OBJECTS = "table", "objects"
MIN_NAMED = 2  # cells of a header row that name a known field
MIN_NUMBERS = 2  # cells of a row that may be a ball
KNOWN_BY = 8  # points a ball needs to be recognized: 1 for a whole number, 2 for one with a fraction
SAME_VALUE = 1e-4  # two values that differ by less are printed alike
DEEPEST = 4  # objects within objects
_FRACTION, _ZERO = re.compile(r"\d[.,]0*[1-9]"), re.compile(r"\d[.,]0+(\D|$)")


@dataclass(frozen=True, kw_only=True)
class Cut:
    """How rows of a source are split into cells.

    ``shape`` is ``table`` (cells between ``delimiter``) or ``objects`` (one JSON object in each row). ``header_line``
    is the line of the head that names the columns, from 1; 0 if there is none and ``headers`` are generated.
    """

    shape: str
    delimiter: str
    header_line: int
    headers: tuple[str, ...]

    @property
    def key(self) -> str:
        """Return a key that is equal for rows of the same kind."""
        text = "\x1f".join([self.shape, *(h.strip().lower() for h in self.headers)])
        return hashlib.sha256(text.encode()).hexdigest()[:32]


def find_cut(head: Sequence[str]) -> Cut:
    """Find out from the first lines how a source is split, and the names of its columns.

    Parameters
    ----------
    head : sequence of str
        Its first lines; the row of headers is looked for among the first thirty.

    Raises
    ------
    InputError
        For nothing but blank lines, or too many columns.
    """
    lines = [line for line in head[:HEADER_WITHIN] if line.strip()]
    if not lines:
        raise InputError("head", Message("found-nothing"), Message("files-first-lines-source"))
    if any(line.lstrip().startswith("{") for line in lines):
        objects = [found for line in lines if (found := _object_or_none(line)) is not None]
        if objects:
            return _cut_of_object(objects[0])
    delimiter = sniff_delimiter(lines)
    rows = [_cells(line, delimiter) for line in head[:HEADER_WITHIN]]
    named = [sum(match_header(cell)[0] is not None for cell in cells) for cells in rows]
    best = max(range(len(rows)), key=lambda i: named[i])
    if named[best] < MIN_NAMED:
        best = next((i for i, cells in enumerate(rows) if len(cells) > MIN_NAMED and not _numbers(cells)), -1)
    if best < 0:
        width = max(len(cells) for cells in rows)
        made_up = tuple(f"Column {i + 1}" for i in range(width))
        return Cut(shape=TABLE, delimiter=delimiter, header_line=0, headers=_bounded(made_up))
    headers, below = rows[best], rows[best + 1] if best + 1 < len(rows) else []
    if is_units_row(below):  # they are column names from now on: the row itself is not a ball
        units = [*below, *[""] * len(headers)]
        headers = [
            f"{name} [{unit.strip('[]()')}]" if unit else name for name, unit in zip(headers, units, strict=False)
        ]
    return Cut(shape=TABLE, delimiter=delimiter, header_line=best + 1, headers=_bounded(tuple(headers)))


def object_cut(text: str) -> Cut | None:
    """Return the split of a row that is a JSON object; None for other rows.

    Each kind of object is its own source.
    """
    found = _object_or_none(text)
    return _cut_of_object(found) if found else None


def cells_of(cut: Cut, text: str) -> list[str]:
    """Split one row; of an object, the values in the order of the headers.

    Raises
    ------
    InputError
        For a row that is not what the source's rows are, or says more than its headers name.
    """
    if cut.shape == OBJECTS:
        values = _flat(_object(text))
        more = [name for name, value in values.items() if name not in cut.headers and value]
        cells = [values.get(name, "") for name in cut.headers]
    else:
        cells = _cells(text, cut.delimiter)
        more = [cell for cell in cells[len(cut.headers) :] if cell]
    if more:
        raise InputError("row", more[0], Message("files-no-more-columns-header", n=len(cut.headers)))
    return cells


def may_be_ball(cells: Iterable[str]) -> bool:
    """Return True if a row contains numbers."""
    return _numbers(cells) >= MIN_NUMBERS


def may_hold_ball(text: str) -> bool:
    """Return the same for a row that cannot be split."""
    return len(re.findall(r"\d+", text)) >= MIN_NUMBERS


def as_file(cut: Cut, texts: Iterable[str]) -> BinaryIO:
    """Return headers and rows as a table file for a mapping proposal and preview; irregular rows are left out."""
    out = io.StringIO()
    writer = csv.writer(out, delimiter=cut.delimiter)
    writer.writerow(cut.headers)
    for cells in _readable(cut, texts):
        writer.writerow(cells)
    return io.BytesIO(out.getvalue().encode())


def identity(shot: Shot, mapping: ColumnMapping, cells: Sequence[str]) -> str | None:
    """Return what identifies a ball in another file; None if there is too little.

    A time and a value are enough; without a time, enough digits are needed that no two balls share them by chance.
    """
    measured = [cell for use, cell in zip(mapping.columns, cells, strict=False) if kind_of(use.field)]
    weight = _weight([cell for cell in measured if cell])
    if not shot.values or (shot.at is None and weight < KNOWN_BY):
        return None
    result = [shot.club or "", shot.at.isoformat() if shot.at else ""]
    result += [f"{name}={shot.values[name]:.4f}" for name in sorted(shot.values)]
    return hashlib.sha256("\x1f".join(result).encode()).hexdigest()


def heading_club(head: Sequence[str], cut: Cut) -> str:
    """Return the club named by the last heading of a source, as in ``Driver,,,,``; empty if none."""
    for line in reversed(head):
        filled = [cell for cell in _cells(line, cut.delimiter) if cell] if cut.shape == TABLE else []
        if len(filled) == 1 and line.count(cut.delimiter) >= MIN_NAMED:
            return read_club_name(filled[0]) or ""
    return ""


def fills(shot: Shot, known: Mapping[str, float], mapping: ColumnMapping, cells: Sequence[str]) -> bool:
    """Return whether a row is a known ball with more values: all values known before are the same.

    Parameters
    ----------
    shot : Shot
        What the row says.
    known : mapping of str to float
        What was known of the earlier ball, by metric.
    mapping, cells
        Of the row: they tell how many digits the two share.
    """
    if not known or any(metric not in shot.values for metric in known):
        return False
    if any(abs(shot.values[metric] - value) > SAME_VALUE for metric, value in known.items()):
        return False
    shared = [cell for use, cell in zip(mapping.columns, cells, strict=False) if use.field in known and cell]
    return _weight(shared) >= KNOWN_BY


def _weight(cells: Sequence[str]) -> int:
    """Return the weight of cells: 1 for a whole number, 2 for a fraction.

    A ``104.0`` counts as a fraction only if at least half of the cells are fractions, because some programs print whole
    numbers that way.
    """
    fractions = sum(bool(_FRACTION.search(cell)) for cell in cells)
    zeros = sum(bool(_ZERO.search(cell)) for cell in cells)
    return len(cells) + fractions + (zeros if 2 * fractions >= len(cells) else 0)


def _readable(cut: Cut, texts: Iterable[str]) -> Iterator[list[str]]:
    for text in texts:
        try:
            cells = cells_of(cut, text)
        except InputError:
            continue
        if may_be_ball(cells):
            yield cells + [""] * (len(cut.headers) - len(cells))


def _cells(text: str, delimiter: str) -> list[str]:
    try:
        rows = list(csv.reader([text], delimiter=delimiter))
    except csv.Error as error:
        raise InputError("row", str(error), Message("files-row-cells")) from None
    cells = [cell.strip() for cell in rows[0]] if rows else []
    if any(len(cell) > LONGEST_CELL for cell in cells):
        raise InputError("row", Message("found-longer-cell"), Message("files-most-characters", longest=LONGEST_CELL))
    return cells


def _numbers(cells: Iterable[str]) -> int:
    return sum(any(c.isdigit() for c in cell) for cell in cells)


def _object(text: str) -> dict[str, Any]:
    value = _object_or_none(text)
    if value is None:
        raise InputError("row", text, Message("files-one-json-object"))
    return value


def _object_or_none(text: str) -> dict[str, Any] | None:
    try:
        value = json.loads(text)
    except (ValueError, RecursionError):
        return None
    return value if isinstance(value, dict) and value else None


def _cut_of_object(found: dict[str, Any]) -> Cut:
    return Cut(shape=OBJECTS, delimiter=",", header_line=0, headers=_bounded(tuple(_flat(found))))


def _flat(value: dict[str, Any], name: str = "", depth: int = 0) -> dict[str, str]:
    """Return values by name; names of nested objects are joined."""
    flat: dict[str, str] = {}
    for key, inner in value.items():
        own = f"{name} {key}".strip()
        if isinstance(inner, dict) and depth < DEEPEST:
            flat.update(_flat(inner, own, depth + 1))
        elif inner is None or isinstance(inner, (dict, list)):
            flat[own] = ""
        else:
            flat[own] = str(inner)
    return flat


def _bounded(headers: tuple[str, ...]) -> tuple[str, ...]:
    if len(headers) > MAX_COLUMNS:
        raise InputError("head", Message("found-columns", n=len(headers)), Message("common-most", most=MAX_COLUMNS))
    return headers

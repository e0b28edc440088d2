"""Shot tables as CSV in our own format: metric names as headers, other units by suffix."""

from __future__ import annotations

import csv
import functools
import io
import re
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

from instavis_core.errors import InputError
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message
from instavis_core.shots import LONGEST_TEXT, MAX_SHOTS, PIVOT, SHARES, Shot, read_shot
from instavis_core.units import SUFFIXES
from instavis_io.tables.problems import MAX_ERRORS, TableErrors

TEXT_COLUMNS = ("shot_id", "at", "club", "hand", "turf", "movement", "mark_basis", "stage", "intent", "note")
VERBATIM = ("shot_id", "intent", "note")
EXTRA = "extra."
FORMULA_STARTS = ("=", "+", "-", "@", "＝", "＋", "－", "＠")
ESCAPE = "'"


@dataclass(frozen=True, kw_only=True)
class Column:
    """The field of a header and how its cells become values; ``verbatim`` keeps blanks around a text."""

    header: str
    field: str
    read: Callable[[str], Any]
    verbatim: bool = False


def read_table(data: bytes) -> list[Shot]:
    """Read the shots of a CSV file.

    Parameters
    ----------
    data : bytes
        UTF-8 with or without a mark; comma, semicolon or tab between cells.

    Raises
    ------
    TableErrors
        Naming line, column, value and what was expected; no shot is returned then.
    """
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise TableErrors(
            [InputError("file", Message("found-byte", at=error.start), Message("files-text-utf-8"), 1)]
        ) from None
    if "\0" in text:
        raise TableErrors(
            [InputError("file", Message("found-zero-byte"), Message("files-text-table-not-binary-file"), 1)]
        )
    if not text.strip():
        raise TableErrors(
            [InputError("file", Message("found-nothing"), Message("files-header-line-least-one-ball"), 1)]
        )
    rows = csv.reader(io.StringIO(text), delimiter=_delimiter(text))
    errors: list[InputError] = []
    shots: list[Shot] = []
    try:
        columns = _columns(next(rows))
        for row in rows:
            if not any(cell.strip() for cell in row):
                continue
            if len(shots) >= MAX_SHOTS:
                raise TableErrors(
                    [
                        InputError(
                            "file",
                            Message("found-more-than", n=MAX_SHOTS),
                            Message("common-most", most=MAX_SHOTS),
                        )
                    ]
                )
            try:
                shots.append(_shot(columns, row))
            except InputError as error:
                errors.append(error.at(rows.line_num))
            if len(errors) >= MAX_ERRORS:
                break
    except csv.Error as error:
        raise TableErrors(
            [InputError("file", str(error), Message("common-well-formed-csv-table"), rows.line_num)]
        ) from None
    if errors:
        raise TableErrors(errors)
    if not shots:
        raise TableErrors([InputError("file", Message("found-only-header"), Message("files-least-one-ball"), 2)])
    return shots


def write_table(records: Iterable[dict[str, Any]]) -> str:
    """Write records as CSV; text that a spreadsheet would run as a formula gets a leading apostrophe."""
    records = list(records)
    known = [*TEXT_COLUMNS[:4], *vocabulary().metrics, *SHARES, *PIVOT, *TEXT_COLUMNS[4:]]
    # Unknown fields are exported under a prefix, so that the same file restores them.
    further = sorted({name for record in records for name in record if name not in known})
    out = io.StringIO()
    # Cells are quoted where they contain CR or LF, or a CR would start a new row.
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow([*known, *(EXTRA + name for name in further)])
    for record in records:
        cells = [harmless(record.get(name)) for name in known]
        writer.writerow([*cells, *(_further(record.get(name)) for name in further)])
    return out.getvalue()


def harmless(value: Any) -> Any:
    """Return a cell that no spreadsheet runs: possible formulas get a leading apostrophe.

    Spreadsheets ignore leading blanks and line breaks, and some start a new row of cells at a line break. A text that
    begins with our own apostrophe must be read back with it.
    """
    if isinstance(value, str) and _runs(value):
        return ESCAPE + value
    return "" if value is None else value


def _further(value: Any) -> Any:
    """Return the cell of an unknown field; a text that would come back as a number is escaped too."""
    if isinstance(value, str) and not _runs(value) and _extra(value) != value:
        return ESCAPE + value
    return harmless(value)


def _runs(text: str) -> bool:
    """Return True if a line of a text could be a formula, or is escaped already."""
    return text.startswith(ESCAPE) or any(line.strip().startswith(FORMULA_STARTS) for line in text.splitlines())


def _delimiter(text: str) -> str:
    head = text.lstrip().splitlines()[0]
    return max(",;\t", key=head.count)


def _columns(header: list[str]) -> list[Column]:
    columns, seen, errors = [], set(), []
    for name in (cell if cell.startswith(EXTRA) else cell.strip() for cell in header):
        try:
            column = _column(name)
            if column.field in seen:
                raise InputError(name, Message("found-given-twice"), Message("files-one-column", named=column.field))
            seen.add(column.field)
            columns.append(column)
        except InputError as error:
            errors.append(error.at(1))
    if errors:
        raise TableErrors(errors[:MAX_ERRORS])
    return columns


def _column(name: str) -> Column:
    metrics = vocabulary().metrics
    if name in metrics or name in SHARES or name in PIVOT:
        return Column(header=name, field=name, read=lambda cell: _number(name, cell))
    if name in TEXT_COLUMNS or name in LONGEST_TEXT:
        return Column(header=name, field=name, read=_plain_text, verbatim=name in VERBATIM)
    if name.startswith(EXTRA) and len(name) > len(EXTRA):
        return Column(header=name, field=name.removeprefix(EXTRA), read=_extra, verbatim=True)
    stem, _, suffix = name.rpartition("_")
    for metric in metrics.values():
        if metric.id.rpartition("_")[0] == stem and suffix in SUFFIXES and SUFFIXES[suffix][0] == metric.kind:
            return Column(header=name, field=metric.id, read=functools.partial(_scaled, name, SUFFIXES[suffix][1]))
    raise InputError(
        name or "column without a name", None, Message("files-column-shot-format", known=", ".join(metrics))
    )


def _extra(cell: str) -> Any:
    """Return a value of an unknown field: numbers and booleans as such, everything else as text."""
    if cell in ("True", "False"):
        return cell == "True"
    if cell.startswith(ESCAPE) and not _runs(cell[1:]):
        return cell[1:] if _extra(cell[1:]) != cell[1:] else cell
    try:
        number = float(cell)
    except ValueError:
        return _plain_text(cell)
    return int(cell) if re.fullmatch(r"-?[0-9]{1,18}", cell) else number


def _plain_text(cell: str) -> str:
    """Remove the apostrophe that keeps a spreadsheet from running a text."""
    bare = cell.removeprefix(ESCAPE)
    return bare if bare != cell and _runs(bare) else cell


def _scaled(name: str, factor: float, cell: str) -> float:
    return _number(name, cell) * factor


def _number(name: str, cell: str) -> float:
    try:
        return float(cell)
    except ValueError:
        raise InputError(name, cell, Message("files-number-decimal-point")) from None


def _shot(columns: list[Column], row: list[str]) -> Shot:
    if len(row) != len(columns):
        raise InputError("row", Message("found-cells", n=len(row)), Message("files-cells-header", columns=len(columns)))
    record: dict[str, Any] = {}
    for column, cell in zip(columns, row, strict=True):
        text = cell if column.verbatim else cell.strip()
        if text:
            record[column.field] = column.read(text)
    try:
        return read_shot(record)
    except InputError as error:
        # Name the column as in the file, not the field it became.
        header = next((c.header for c in columns if c.field == error.field), error.field)
        raise InputError(header, error.value, error.expected) from None

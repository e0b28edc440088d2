"""Rows of a mapped table as shot records; rows that are not balls are skipped with the reason."""

from __future__ import annotations

import hashlib
import math
import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from datetime import UTC, tzinfo
from typing import Any, BinaryIO

from instavis_core.errors import InputError
from instavis_core.golfer import Golfer
from instavis_core.message import Message
from instavis_core.shots import LONGEST_TEXT, Shot, read_shot
from instavis_core.units import SUFFIXES
from instavis_io.tables.cells import EMPTY, UNIT_WORDS, bare_number, read_cell, side_of, signed_by
from instavis_io.tables.clubs import read_club_name
from instavis_io.tables.mapping import ColumnUse, Mapping, is_mirrored, is_sided, kind_of
from instavis_io.tables.moments import CLOCK, DAY, read_moment
from instavis_io.tables.text import rows_of

SUMMARY = re.compile(
    r"^(average|avg|averages|mean|median|std|std\.? ?dev.*|standard deviation|deviation|sd|min|max|minimum|maximum"
    r"|total|sum|consistency|count|promedio|media|gemiddelde|medel|medelvärde|durchschnitt|mittelwert|mittel|standardabweichung|moyenne|écart.?type|best)\.?:?$",
    re.IGNORECASE,
)


@dataclass(frozen=True, kw_only=True)
class MappedRow:
    """A row below the headers: a shot, the reason to skip it (``skipped``), or what is wrong with it."""

    line: int
    shot: Shot | None = None
    skipped: str = ""
    error: InputError | None = None


class RowReader:
    """Read the rows of one mapped table for one golfer.

    Parameters
    ----------
    mapping : Mapping
    golfer : Golfer
        Whose hand tells what in-to-out is, where a column counts that way.
    zone : tzinfo
        Of times that name none.
    """

    def __init__(self, mapping: Mapping, golfer: Golfer, zone: tzinfo = UTC) -> None:
        self._zone, self._club = zone, ""
        self._headers = [c.header.strip().lower() for c in mapping.columns]
        self._columns = [
            (i, use, _reader(use, mapping.decimal, golfer, zone)) for i, use in enumerate(mapping.columns) if use.field
        ]

    def read(self, line: int, cells: list[str], key: str = "") -> MappedRow:
        """Read one row below the headers.

        Parameters
        ----------
        line : int
            Its line, for error messages.
        cells : list of str
            Stripped.
        key : str
            What an id is made of for a ball that has none, beside its cells: without it, its line.
        """
        if reason := _no_ball(cells, self._headers):
            return MappedRow(line=line, skipped=reason)
        if club := _heading(cells):
            self._club = club
            return MappedRow(line=line, skipped="a title row")
        try:
            return MappedRow(
                line=line, shot=self._under_heading(_shot(key or str(line), cells, self._columns, self._zone))
            )
        except InputError as error:
            return MappedRow(line=line, error=error.at(line))

    def _under_heading(self, shot: Shot) -> Shot:
        return shot if shot.club or not self._club else replace(shot, club=self._club)

    def readable(self, cells: list[str]) -> dict[str, Any]:
        """Return a row by fields despite errors: values where readable, otherwise text."""
        record: dict[str, Any] = {}
        for place, use, read in self._columns:
            if place < len(cells):
                try:
                    value = read(cells[place])
                except InputError:
                    value = cells[place]
                if value is not None:
                    record[use.field] = value
        return record


def mapped_rows(file: BinaryIO, mapping: Mapping, golfer: Golfer, zone: tzinfo = UTC) -> Iterator[MappedRow]:
    """Yield every row below the headers.

    Raises
    ------
    TableErrors
        When the file itself cannot be read.
    """
    reader = RowReader(mapping, golfer, zone)
    for line, cells in rows_of(file, mapping.encoding, mapping.delimiter):
        if line > mapping.header_line:
            yield reader.read(line, cells)


def _heading(cells: list[str]) -> str:
    """Return the club of a heading row; it applies to the rows below."""
    filled = [cell for cell in cells if cell.lower() not in EMPTY]
    return (read_club_name(filled[0]) or "") if len(filled) == 1 and len(cells) > 2 else ""


def _no_ball(cells: list[str], headers: list[str]) -> str:
    """Return why a row is not a ball; empty if it may be one."""
    if any(c[:1].isalpha() and SUMMARY.match(c) for c in cells[:3]):
        return "a summary row"
    if sum(c[:1].isdigit() for c in cells) >= 3:
        return ""  # nearly every row
    filled = [c for c in cells if c.lower() not in EMPTY]
    if [c.lower() for c in cells[: len(headers)]] == headers:
        return "the headers again"
    if any(SUMMARY.match(c) for c in filled[:3]):
        return "a summary row"
    if filled and all(c.lower().strip("[]()") in UNIT_WORDS for c in filled):
        return "a row of units"
    if len(filled) <= 1 and not _heading(cells) and not any(ch.isdigit() for c in filled for ch in c):
        return "a title row"
    return ""


def _reader(use: ColumnUse, decimal: str, golfer: Golfer, zone: tzinfo) -> Callable[[str], Any]:
    """Return the function that turns a cell of a column into a value; an InputError names the column."""
    if not kind_of(use.field):
        return lambda cell: None if cell.lower() in EMPTY else _text(use, cell, zone)
    number = number_reader(use, decimal, golfer)

    def read(cell: str) -> float | None:
        try:
            return number(cell)
        except SideUnknown:
            raise InputError(use.header or use.field, cell, Message("files-number-side-known")) from None
        except ValueError:
            raise InputError(
                use.header or use.field,
                cell,
                Message("files-number-decimal", value="comma" if decimal == "," else "point"),
            ) from None

    return read


def _shot(key: str, cells: list[str], columns: list[tuple[int, ColumnUse, Callable[[str], Any]]], zone: tzinfo) -> Shot:
    # A ball without an id gets one from its row's content and position, so importing a file twice adds it once.
    row = hashlib.blake2b(f"{key}\x1f{cells}".encode(), digest_size=20)
    record: dict[str, Any] = {"shot_id": f"row-{row.hexdigest()}"}
    for place, use, read in columns:
        if place < len(cells):
            value = read(cells[place])
            if value is not None:
                record[use.field] = value
    _work_out(record, zone)
    try:
        return read_shot(record)
    except InputError as error:
        header = next((use.header for _, use, _ in columns if use.field == error.field), error.field)
        raise InputError(header or error.field, error.value, error.expected) from None


class SideUnknown(ValueError):
    """An unknown word next to a sided number."""


def number_reader(use: ColumnUse, decimal: str, golfer: Golfer) -> Callable[[str], float | None]:
    """Return the function that turns a cell into a number in the shot format's unit and frame; None for an empty cell.

    It raises ValueError if a cell holds no number, and SideUnknown if a word beside the number is unknown.
    """
    kind, factor, sided = kind_of(use.field), SUFFIXES[use.unit][1], is_sided(use.field)
    mine = golfer.side if is_mirrored(use.field) else 1
    sign = signed_by(use.sign, mine)
    scale = sign * factor if sided else factor

    def number(cell: str) -> float | None:
        value = bare_number(cell, decimal)
        if value is not None:
            return value * scale
        read = read_cell(cell, decimal)
        if read is None:
            return None
        own = SUFFIXES[read.unit][1] if read.unit in SUFFIXES and SUFFIXES[read.unit][0] == kind else factor
        if not sided:
            return read.value * own
        if not read.letters or read.value == 0:
            return read.value * own * sign
        side = side_of(read.letters, use.field)
        if side is None:  # it may name the side, and a wrong one reverses the diagnosis
            raise SideUnknown(cell)
        return abs(read.value * own) * signed_by(side, mine)

    return number


def _text(use: ColumnUse, cell: str, zone: tzinfo) -> str | None:
    if use.field == "club":
        club = read_club_name(cell)
        if club is None:
            raise InputError(use.header or "club", cell, Message("files-club-such-7-iron-driver"))
        return club
    if use.field == "at":
        return read_moment(cell, zone)
    if use.field in (DAY, CLOCK):
        return cell[:40]
    if use.field == "hand":
        return {"r": "right", "rh": "right", "l": "left", "lh": "left"}.get(cell.lower(), cell.lower())
    return cell[: LONGEST_TEXT.get(use.field, 500)]


def _work_out(record: dict[str, Any], zone: tzinfo) -> None:
    """Convert alternative fields into those of the shot format."""
    day, clock = record.pop(DAY, None), record.pop(CLOCK, None)
    if day and clock and "at" not in record and (moment := read_moment(f"{day} {clock}", zone)):
        record["at"] = moment
    gap = record.pop("face_to_path_deg", None)
    if gap is not None and "face_deg" not in record and "path_deg" in record:
        record["face_deg"] = record["path_deg"] + gap
    back, side = record.pop("back_spin_rpm", None), record.pop("side_spin_rpm", None)
    if back is not None and side is not None:
        record.setdefault("spin_rpm", math.hypot(back, side))
        record.setdefault("spin_axis_deg", math.degrees(math.atan2(side, max(back, 1e-9))))
    elif back is not None:  # total spin if the axis is known; otherwise the tilt is assumed small
        tilt = math.radians(record.get("spin_axis_deg", 0.0))
        record.setdefault("spin_rpm", back / max(math.cos(tilt), 0.1))

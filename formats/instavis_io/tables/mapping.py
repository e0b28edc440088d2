"""How a table's columns become shot fields: guessed, confirmed by a coach, remembered for each source."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from instavis_core.errors import InputError
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message
from instavis_core.shots import CHOICES, LONGEST_TEXT
from instavis_core.units import SUFFIXES
from instavis_io.tables.moments import CLOCK, DAY
from instavis_io.tables.text import DELIMITERS, ENCODINGS, MAX_COLUMNS

# values that are converted into other fields: field -> (unit kind, resulting field)
WORKED_OUT = {"face_to_path_deg": "angle", "back_spin_rpm": "spin", "side_spin_rpm": "spin"}
TEXT_FIELDS = ("club", "at", DAY, CLOCK, *CHOICES, *(n for n in LONGEST_TEXT if n != "format"))
SIGNS = ("plus", "minus", "golfer", "against")


@dataclass(frozen=True, kw_only=True)
class ColumnUse:
    """The use of one column: ``field`` (empty: left out), ``unit``, and the direction of positive numbers.

    ``sign`` is ``plus`` if positive numbers mean the shot format's plus side (right of the target, toe, high, up),
    ``minus`` if they mean the other, ``golfer`` if they mean in-to-out, open, push for everyone, ``against`` if they
    mean out-to-in, closed, pull. Letters in the cells override it.
    """

    header: str
    field: str
    unit: str = ""
    sign: str = "plus"


@dataclass(frozen=True, kw_only=True)
class Mapping:
    """A whole table: how to split it, and the use of every column, in order."""

    encoding: str
    delimiter: str
    decimal: str
    header_line: int
    columns: tuple[ColumnUse, ...]

    @property
    def source(self) -> str:
        """Return a key of the table's headers, equal for files of the same kind."""
        text = "\x1f".join(c.header.strip().lower() for c in self.columns)
        return hashlib.sha256(text.encode()).hexdigest()[:32]


def kind_of(field: str) -> str:
    """Return the kind of unit of a field: speed, distance, angle, strike, spin, or empty for text."""
    metrics = vocabulary().metrics
    return metrics[field].kind if field in metrics else WORKED_OUT.get(field, "")


def units_of(field: str) -> list[str]:
    """Return the units that a column of this field may have, the shot format's own first."""
    own = field.rpartition("_")[2]
    return sorted((u for u, (kind, _) in SUFFIXES.items() if kind == kind_of(field)), key=lambda u: u != own)


def is_sided(field: str) -> bool:
    """Return True if the sign of a field has a direction."""
    metrics = vocabulary().metrics
    return field in ("face_to_path_deg", "side_spin_rpm") or (field in metrics and bool(metrics[field].plus))


def is_mirrored(field: str) -> bool:
    """Return True if a field is sideways: right of the target positive in the shot format."""
    metrics = vocabulary().metrics
    return field in ("face_to_path_deg", "side_spin_rpm") or (field in metrics and metrics[field].mirrored)


def read_mapping(raw: Any) -> Mapping:
    """Check a mapping document.

    Raises
    ------
    InputError
        Naming the column and what was expected.
    """
    if not isinstance(raw, dict):
        raise InputError("mapping", raw, Message("files-object-encoding-delimiter-decimal-header"))
    _one_of("mapping.encoding", raw.get("encoding"), ENCODINGS)
    _one_of("mapping.delimiter", raw.get("delimiter"), DELIMITERS)
    _one_of("mapping.decimal", raw.get("decimal"), (".", ","))
    line = raw.get("header_line")
    if isinstance(line, bool) or not isinstance(line, int) or not 1 <= line <= 200:
        raise InputError("mapping.header_line", line, Message("files-line-headers-1-200"))
    columns = raw.get("columns")
    if not isinstance(columns, list) or not 1 <= len(columns) <= MAX_COLUMNS:
        raise InputError("mapping.columns", columns, Message("files-list-1-columns", most=MAX_COLUMNS))
    uses = tuple(_column(i, column) for i, column in enumerate(columns))
    fields = [use.field for use in uses if use.field]
    for field in fields:
        if fields.count(field) > 1:
            raise InputError("mapping.columns", field, Message("files-every-field-once"))
    if not set(fields) & (set(vocabulary().metrics) | set(WORKED_OUT)):
        raise InputError(
            "mapping.columns", Message("found-no-measured-value"), Message("files-least-one-column-measures-something")
        )
    return Mapping(
        encoding=raw["encoding"], delimiter=raw["delimiter"], decimal=raw["decimal"], header_line=line, columns=uses
    )


def _column(place: int, raw: Any) -> ColumnUse:
    name = f"mapping.columns[{place}]"
    if not isinstance(raw, dict):
        raise InputError(name, raw, Message("files-object-header-field-unit-sign"))
    header, field = str(raw.get("header", ""))[:200], raw.get("field") or ""
    _one_of(f"{name}.field", field, ("", *vocabulary().metrics, *WORKED_OUT, *TEXT_FIELDS))
    unit = raw.get("unit") or (units_of(field)[0] if kind_of(field) else "")
    if kind_of(field):
        _one_of(f"{name}.unit", unit, units_of(field))
    sign = raw.get("sign") or "plus"
    _one_of(f"{name}.sign", sign, SIGNS)
    return ColumnUse(header=header, field=field, unit=unit if kind_of(field) else "", sign=sign)


def _one_of(name: str, value: Any, allowed: Iterable[Any]) -> None:
    if value not in allowed:
        raise InputError(
            name,
            value,
            Message("common-one", known=", ".join(repr(a) if not str(a).strip() else str(a) for a in allowed)),
        )

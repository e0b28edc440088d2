"""How a table is read, as a screen sends it."""

from __future__ import annotations

from ninja import Schema
from pydantic import ConfigDict


class ColumnUseIn(Schema):
    """The use of one column: its field (empty: left out), unit, and positive direction."""

    model_config = ConfigDict(extra="forbid")
    header: str
    field: str = ""
    unit: str = ""
    sign: str = "plus"


class MappingIn(Schema):
    """How to read a table."""

    model_config = ConfigDict(extra="forbid")
    encoding: str
    delimiter: str
    decimal: str
    header_line: int
    columns: list[ColumnUseIn]

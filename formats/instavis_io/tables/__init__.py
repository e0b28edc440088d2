"""Tables of balls as CSV: our own format, and any other through a mapping that a coach confirms."""

from instavis_io.tables.doubts import table_doubts
from instavis_io.tables.guess import Proposal
from instavis_io.tables.lines import (
    OBJECTS,
    Cut,
    as_file,
    cells_of,
    fills,
    find_cut,
    heading_club,
    identity,
    may_be_ball,
    may_hold_ball,
    object_cut,
)
from instavis_io.tables.mapping import ColumnUse, Mapping, read_mapping
from instavis_io.tables.own import TEXT_COLUMNS, read_table, write_table
from instavis_io.tables.problems import TableErrors
from instavis_io.tables.proposal import propose
from instavis_io.tables.rows import MappedRow, RowReader, mapped_rows

__all__ = [
    "OBJECTS",
    "TEXT_COLUMNS",
    "ColumnUse",
    "Cut",
    "MappedRow",
    "Mapping",
    "Proposal",
    "RowReader",
    "TableErrors",
    "as_file",
    "cells_of",
    "find_cut",
    "fills",
    "heading_club",
    "identity",
    "mapped_rows",
    "may_be_ball",
    "may_hold_ball",
    "object_cut",
    "propose",
    "read_mapping",
    "read_table",
    "table_doubts",
    "write_table",
]

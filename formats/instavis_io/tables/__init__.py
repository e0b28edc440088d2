"""Tables of balls as CSV: our own format exactly, and anybody's by a mapping that a coach confirms."""

from instavis_io.tables.doubts import table_doubts
from instavis_io.tables.mapping import ColumnUse, Mapping, read_mapping
from instavis_io.tables.own import TEXT_COLUMNS, read_table, write_table
from instavis_io.tables.problems import TableErrors
from instavis_io.tables.proposal import Proposal, propose
from instavis_io.tables.rows import MappedRow, mapped_rows

__all__ = [
    "TEXT_COLUMNS",
    "ColumnUse",
    "MappedRow",
    "Mapping",
    "Proposal",
    "TableErrors",
    "mapped_rows",
    "propose",
    "read_mapping",
    "read_table",
    "table_doubts",
    "write_table",
]

"""Proposals for a table, for a person to confirm."""

from __future__ import annotations

from dataclasses import dataclass

from instavis_core.message import Message
from instavis_io.tables.mapping import ColumnUse, Mapping


@dataclass(frozen=True, kw_only=True)
class ColumnGuess:
    """The proposal for a column and its reasons; ``sure`` is False if a person should check."""

    use: ColumnUse
    reasons: tuple[Message, ...]
    sure: bool
    samples: tuple[str, ...]
    units: tuple[str, ...]
    sided: bool
    letters: bool


@dataclass(frozen=True, kw_only=True)
class Proposal:
    """A mapping to confirm, with reasons for every column and notes on the file."""

    mapping: Mapping
    columns: tuple[ColumnGuess, ...]
    notes: tuple[Message, ...]
    own_format: bool


def notes_on(mapping: Mapping, units_row: bool, place: int) -> tuple[Message, ...]:
    """Return how the file is read: delimiter, decimal sign, encoding, and the header line, counted from 0."""
    cut = {",": "commas", ";": "semicolons", "\t": "tabs", "|": "bars"}[mapping.delimiter]
    notes = [
        Message(
            "Cells are separated by {cut}; numbers use a decimal {sign}.",
            cut=cut,
            sign=Message("comma") if mapping.decimal == "," else Message("point"),
        )
    ]
    if mapping.encoding != "utf-8-sig":
        notes.append(Message("The text is encoded as {encoding}.", encoding=mapping.encoding))
    if place:
        notes.append(
            Message(
                "The headers are in line {header_line}; everything above is ignored.", header_line=mapping.header_line
            )
        )
    if units_row:
        notes.append(Message("The line below the headers contains units."))
    return tuple(notes)

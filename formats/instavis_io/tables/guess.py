"""Proposals for a table, for a person to confirm."""

from __future__ import annotations

from dataclasses import dataclass

from instavis_core.message import Message
from instavis_io.tables.mapping import ColumnUse, Mapping


@dataclass(frozen=True, kw_only=True)
class ColumnGuess:
    """The proposal for a column and its reasons; ``sure`` is False if a person should check it."""

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
            "files-cells-separated-numbers-use-decimal",
            cut=cut,
            sign=Message("files-comma") if mapping.decimal == "," else Message("files-point"),
        )
    ]
    if mapping.encoding != "utf-8-sig":
        notes.append(Message("files-text-encoded", encoding=mapping.encoding))
    if place:
        notes.append(Message("files-headers-line-everything-above-ignored", header_line=mapping.header_line))
    if units_row:
        notes.append(Message("files-line-below-headers-contains-units"))
    return tuple(notes)

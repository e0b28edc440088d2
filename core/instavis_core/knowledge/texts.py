"""Texts of the knowledge tables: English from the table, with the id that translations have."""

from __future__ import annotations

import re
from typing import Any

from instavis_core.message import Message


def entry_key(row: dict[str, Any]) -> str:
    """Return the key of an entry: its id, with its variant if it has one."""
    return f"{row.get('id')}/{row['variant']}" if row.get("variant") else str(row.get("id"))


def entry_text(*path: str, english: str) -> Message:
    """Return a text of the knowledge with its id: table, entry and field.

    Examples
    --------
    >>> entry_text("fault", "hip-stall", "label", english="Hip stall").code
    'fault-hip-stall-label'
    """
    return Message.entry("-".join(re.sub(r"[^a-zA-Z0-9_-]", "-", part) for part in path if part), english)


def word_texts(tables: dict[str, dict[str, str]]) -> dict[str, dict[str, Message]]:
    """Return the texts of the word tables, by table and key."""
    return {
        name: {key: entry_text("word", name, key, english=word) for key, word in table.items()}
        for name, table in tables.items()
    }

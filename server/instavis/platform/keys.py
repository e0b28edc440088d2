"""Lists of keys in addresses."""

from __future__ import annotations

from instavis_core.errors import InputError
from instavis_core.message import Message

MOST_KEYS = 5000


def read_keys(text: str, name: str = "balls") -> frozenset[int]:
    """Keys with commas between.

    Raises
    ------
    InputError
        For anything else.
    """
    parts = text.split(",")
    if len(parts) > MOST_KEYS or not all(p.isascii() and p.isdigit() and len(p) < 19 for p in parts):
        raise InputError(name, text, Message("at most {most} keys with commas between", most=MOST_KEYS))
    return frozenset(int(p) for p in parts)

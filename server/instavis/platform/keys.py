"""Lists of keys in addresses."""

from __future__ import annotations

from instavis_core.errors import InputError

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
        raise InputError(name, text, f"at most {MOST_KEYS} keys with commas between")
    return frozenset(int(p) for p in parts)

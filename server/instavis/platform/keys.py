"""Lists of keys in addresses, and the storage of secret keys."""

from __future__ import annotations

import hashlib

from instavis_core.errors import InputError
from instavis_core.message import Message

MAX_KEYS = 5000


def read_keys(text: str, name: str = "balls") -> frozenset[int]:
    """Keys with commas between.

    Raises
    ------
    InputError
        For anything else.
    """
    parts = text.split(",")
    if len(parts) > MAX_KEYS or not all(p.isascii() and p.isdigit() and len(p) < 19 for p in parts):
        raise InputError(name, text, Message("server-most-keys-commas-between", most=MAX_KEYS))
    return frozenset(int(p) for p in parts)


def hash_token(token: str) -> str:
    """Return the stored form of a token: it has 256 random bits, so a plain hash cannot be reversed."""
    return hashlib.sha256(token.encode()).hexdigest()

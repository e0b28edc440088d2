"""Files of balls in our own format, JSON or CSV."""

from __future__ import annotations

import json

from instavis_core.errors import InputError
from instavis_core.message import Message
from instavis_core.shots import Shot, read_shots
from instavis_io.tables import read_table


def read_balls(data: bytes, name: str) -> list[Shot]:
    """Read the balls of a file, JSON or CSV by its name.

    Raises
    ------
    InputError, TableErrors
        Naming line or ball and field.
    """
    return _read_json(data) if name.lower().endswith((".json", ".ndjson")) else read_table(data)


def _read_json(data: bytes) -> list[Shot]:
    try:
        text = data.decode("utf-8-sig")
        is_list = text.lstrip().startswith("[")
        raw = json.loads(text) if is_list else [json.loads(line) for line in text.splitlines() if line.strip()]
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError) as error:
        raise InputError("file", str(error), Message("files-json-list-shot-records-one")) from None
    if not raw:
        raise InputError("file", Message("found-nothing"), Message("files-least-one-ball"))
    return read_shots(raw, "ball")

"""Database fields for messages: the id and the values are stored, and the sentence is rendered for each reader."""

from __future__ import annotations

import json
from typing import Any

from django.db import models

from instavis_core.message import Message, plain, restored, stored


class MessageField(models.TextField):  # type: ignore[type-arg]
    """A column for one message; plain text of any origin is read as a person's own words."""

    def from_db_value(self, value: str | None, expression: object, connection: object) -> Message | None:
        """Return the message of a row."""
        return None if value is None else _read(value)

    def to_python(self, value: Any) -> Any:
        """Return the message of a fixture or a form."""
        return _read(value) if isinstance(value, str) and not isinstance(value, Message) else value

    def get_prep_value(self, value: Any) -> Any:
        """Return the text that is stored; half a surrogate pair, which UTF-8 cannot hold, becomes a question mark."""
        if not isinstance(value, Message):
            return value
        return json.dumps(stored(value), ensure_ascii=False).encode("utf-8", "replace").decode()


def _read(text: str) -> Message:
    if text.startswith('{"'):
        try:
            return restored(json.loads(text))
        except json.JSONDecodeError:
            pass
    return plain(text)

"""One error type for all invalid input."""

from __future__ import annotations

from collections.abc import Container
from typing import Any

from instavis_core.message import Message


class InputError(ValueError):
    """A value the core cannot accept.

    Parameters
    ----------
    field : str
        Where it stands, as the sender wrote it (``shots[3].path_deg``).
    value : Any
        What was found there.
    expected : str or Message
        What would have been accepted.
    line : int, optional
        1-based line of the input it came from.
    """

    def __init__(self, field: str, value: Any, expected: str, line: int | None = None) -> None:
        self.field = field
        self.value = value
        self.expected = expected
        self.line = line
        super().__init__(self.message)

    @property
    def message(self) -> Message:
        """The sentence shown to a person."""
        found = shorten(self.value)
        return Message("common-expected", field=self.field, found=found, expected=self.expected)

    def at(self, line: int) -> InputError:
        """Return the same error with its line number."""
        return InputError(self.field, self.value, self.expected, line)

    def inside(self, outer: str) -> InputError:
        """Return the same error with an outer field name: ``outer.field``."""
        return InputError(f"{outer}.{self.field}", self.value, self.expected, self.line)


def is_one_of(value: Any, words: Container[str]) -> bool:
    """Return True if a value is one of some words; accepts any type."""
    return isinstance(value, str) and value in words


def shorten(value: Any, limit: int = 60) -> str:
    """Return a value as text that fits in a sentence."""
    try:
        text = "missing" if value is None else repr(value)
    except ValueError:  # Python refuses to print integers of thousands of digits
        text = "a number of thousands of digits"
    return text if len(text) <= limit else text[: limit - 1] + "…"

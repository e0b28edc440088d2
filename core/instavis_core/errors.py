"""One error type for all invalid input."""

from __future__ import annotations

from collections.abc import Container
from typing import Any

from instavis_core.message import Message, plain


class InputError(ValueError):
    """A value the core cannot accept.

    Parameters
    ----------
    field : str
        Where it stands, as the sender wrote it (``shots[3].path_deg``).
    value : Any
        What was found there; a message where it is described, not quoted.
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
        super().__init__(field, value, expected, line)

    def __str__(self) -> str:
        """Return the error for a log or a traceback; people read `message`, rendered by the catalog."""
        return f"{self.field}={self.quoted!r}: {self.expected!r}"

    @property
    def message(self) -> Message:
        """The sentence shown to a person."""
        return Message("common-expected", field=self.field, found=self.quoted, expected=self.expected)

    @property
    def quoted(self) -> Message:
        """What was found, short enough for a sentence."""
        return shorten(self.value)

    def at(self, line: int) -> InputError:
        """Return the same error with its line number."""
        return InputError(self.field, self.value, self.expected, line)

    def inside(self, outer: str) -> InputError:
        """Return the same error with an outer field name: ``outer.field``."""
        return InputError(f"{outer}.{self.field}", self.value, self.expected, self.line)


def is_one_of(value: Any, words: Container[str]) -> bool:
    """Return True if a value is one of some words; accepts any type."""
    return isinstance(value, str) and value in words


def shorten(value: Any, limit: int = 60) -> Message:
    """Return a value as text that fits in a sentence; a message is returned unchanged.

    Examples
    --------
    >>> shorten([1, 2])
    [1, 2]
    """
    if isinstance(value, Message):
        return value
    if value is None:
        return Message("found-missing")
    try:
        text = repr(value)
    except ValueError:  # Python refuses to print integers of thousands of digits
        return Message("found-huge-number")
    return plain(text if len(text) <= limit else text[: limit - 1] + "…")

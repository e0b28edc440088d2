"""The core's closed sets of words as choices of a database column."""

from __future__ import annotations

from enum import StrEnum


def choices_of(words: type[StrEnum]) -> list[tuple[str, str]]:
    """Return value and label of every word."""
    return [(word.value, word.name.replace("_", " ").title()) for word in words]

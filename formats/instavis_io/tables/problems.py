"""Errors of a table, several at once."""

from __future__ import annotations

from instavis_core.errors import InputError

MAX_ERRORS = 20


class TableErrors(ValueError):
    """Everything that is wrong with a table, at most twenty entries."""

    def __init__(self, errors: list[InputError]) -> None:
        self.errors = errors[:MAX_ERRORS]
        super().__init__("; ".join(str(e) for e in errors[:3]))

"""A table of a validation, and how it is printed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Table:
    """A titled table of texts and numbers."""

    title: str
    header: Sequence[str]
    rows: Sequence[Sequence[object]]

    def text(self) -> str:
        """Return Markdown, with numbers of three figures."""
        lines = [f"### {self.title}", "", "| " + " | ".join(self.header) + " |", "|" + "---|" * len(self.header)]
        lines += ["| " + " | ".join(_cell(v) for v in row) + " |" for row in self.rows]
        return "\n".join(lines) + "\n"


def _cell(value: object) -> str:
    return f"{value:.3g}" if isinstance(value, float) else str(value)

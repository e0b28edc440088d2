"""How a camera distorts a body, by view: gains, landmark bias and remaining error."""

from __future__ import annotations

import functools
from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from instavis_core.knowledge.loader import KnowledgeError, shipped_text, tables_of


@dataclass(frozen=True, kw_only=True)
class Habit:
    """A quantity of a view: true ≈ ``gain`` × shown + Σ ``about`` × habit.

    ``error`` is one SD of the remaining error from the top to impact; ``error_at`` is the same at each moment.
    """

    view: str
    quantity: str
    gain: float
    error: float
    about: dict[str, float]
    error_at: dict[str, float]

    def corrected(self, shown: np.ndarray, habits: Mapping[str, np.ndarray]) -> np.ndarray:
        """Return the corrected quantity (k,) from what the view shows (k,) and its habits, each (k,)."""
        return self.gain * shown + sum(
            (much * habits[name] for name, much in self.about.items() if name in habits), np.zeros(shown.size)
        )


@functools.lru_cache(maxsize=1)
def load_camera() -> dict[str, dict[str, Habit]]:
    """Return the shipped table by view and quantity, loaded once."""
    return load_camera_from(shipped_text)


def load_camera_from(read: Callable[[str], str]) -> dict[str, dict[str, Habit]]:
    """Build the table from the text of ``camera.toml``.

    Raises
    ------
    KnowledgeError
        Naming the entry, the field and what was expected.
    """
    found: dict[str, dict[str, Habit]] = {}
    for row in tables_of(read, "camera.toml").get("habit", ()):
        where = f"camera.toml: habit {row.get('view')} {row.get('quantity')}"
        if set(row) != {"view", "quantity", "gain", "error", "about", "error_at"}:
            raise KnowledgeError(f"{where}: expected view, quantity, gain, error, about and error_at")
        for error in (row["error"], *row["error_at"].values()):
            if not error > 0:
                raise KnowledgeError(f"{where}: an error is {error!r}, expected more than 0")
        found.setdefault(row["view"], {})[row["quantity"]] = Habit(**row)
    return found

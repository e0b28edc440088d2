"""How the body moves: the sound motion by series and moment, and what each fault adds."""

from __future__ import annotations

import functools
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from instavis_core.knowledge.loader import KnowledgeError, shipped_knowledge, shipped_text, tables_of
from instavis_core.knowledge.texts import entry_text
from instavis_core.message import Message


@dataclass(frozen=True, kw_only=True)
class Series:
    """One measured series.

    ``noise`` is one SD of a sample; ``sound`` (moments,) is the sound motion. ``axis`` says what a positive value
    means, for example "toward the target". Series in ``carried`` (head, hands) follow from the others and are not part
    of a pose.
    """

    id: str
    label: Message
    axis: Message
    unit: str
    noise: float
    sound: np.ndarray
    carried: bool


@dataclass(frozen=True, kw_only=True)
class Motion:
    """The table: ``seconds`` (moments,) since the first move; ``adds[fault][series]`` (moments,)."""

    moments: tuple[str, ...]
    seconds: np.ndarray
    series: dict[str, Series]
    adds: dict[str, dict[str, np.ndarray]]

    def place(self, moment: str) -> int:
        """Return the column of a moment."""
        return self.moments.index(moment)


@functools.lru_cache(maxsize=1)
def load_motion() -> Motion:
    """Return the shipped table, loaded once."""
    return load_motion_from(shipped_text)


def load_motion_from(read: Callable[[str], str]) -> Motion:
    """Build the table from the text of ``motion.toml``.

    Raises
    ------
    KnowledgeError
        Naming the entry, the field and what was expected.
    """
    raw = tables_of(read, "motion.toml")
    moments = tuple(raw.get("moments", ()))
    count = len(moments)
    seconds = _row("seconds", raw.get("seconds"), count)
    if not (np.diff(seconds) > 0).all():
        raise KnowledgeError("motion.toml: seconds: expected rising times")
    series = {}
    for row in raw.get("series", ()):
        name = row.get("id")
        if set(row) - {"carried"} != {"id", "label", "axis", "unit", "noise", "sound"}:
            raise KnowledgeError(f"motion.toml: series {name}: expected id, label, axis, unit, noise and sound")
        sound = _row(f"series {name}.sound", row["sound"], count)
        series[name] = Series(
            id=name,
            label=entry_text("series", str(name), "label", english=row["label"]),
            axis=entry_text("series", str(name), "axis", english=row["axis"]),
            unit=row["unit"],
            noise=float(row["noise"]),
            sound=sound,
            carried=bool(row.get("carried", False)),
        )
    faults = {c.id for c in shipped_knowledge().of_kind("fault")}
    adds: dict[str, dict[str, np.ndarray]] = {}
    for row in raw.get("motion", ()):
        fault = row.get("fault")
        if fault not in faults:
            raise KnowledgeError(f"motion.toml: motion.fault is {fault!r}, expected the id of a fault")
        for name in row.get("adds", {}):
            if name not in series:
                raise KnowledgeError(f"motion.toml: {fault}.adds.{name}: expected one of {', '.join(series)}")
        adds[fault] = {name: _row(f"{fault}.adds.{name}", values, count) for name, values in row["adds"].items()}
    return Motion(moments=moments, seconds=seconds, series=series, adds=adds)


def _row(name: str, values: Any, count: int) -> np.ndarray:
    good = isinstance(values, list) and len(values) == count and all(isinstance(v, int | float) for v in values)
    if not good:
        raise KnowledgeError(f"motion.toml: {name} is {values!r}, expected {count} numbers")
    return np.array(values, float)

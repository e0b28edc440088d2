"""What is measured on pictures: landmarks, quantities and the answers they propose."""

from __future__ import annotations

import functools
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from instavis_core.knowledge.figure import load_figure
from instavis_core.knowledge.loader import KnowledgeError, shipped_knowledge, shipped_text, tables_of
from instavis_core.knowledge.model import OneSided
from instavis_core.knowledge.texts import entry_text
from instavis_core.message import Message

POINTS = {"travel": (1, 4), "gap": (2, 3), "tilt": (2, 2), "slope": (2, 2), "steepness": (2, 2)}
ANGLES = ("tilt", "slope", "steepness")
TOWARD = {"target": "face-on", "ball": "down-the-line", "up": ""}


@dataclass(frozen=True)
class Bound(OneSided):
    """The value from which an answer is proposed."""

    grade: str
    above: float | None = None
    below: float | None = None


@dataclass(frozen=True, kw_only=True)
class StillMeasure:
    """How a check is measured on a picture; see ``stills.toml``."""

    check: str
    label: Message
    points: tuple[str, ...]
    quantity: str
    toward: str
    since_address: bool
    view: str
    moment: str
    grades: tuple[Bound, ...]

    @property
    def unit(self) -> str:
        """Unit of the value."""
        return "°" if self.quantity in ANGLES else "cm"


@dataclass(frozen=True)
class StillTable:
    """The table of pictures: ``landmarks[id]`` is the word for it, in clicking order; ``measures`` by check."""

    landmarks: dict[str, Message]
    measures: dict[str, StillMeasure]


@functools.lru_cache(maxsize=1)
def load_stills() -> StillTable:
    """Return the shipped table, loaded once."""
    return load_stills_from(shipped_text)


def load_stills_from(read: Callable[[str], str]) -> StillTable:
    """Build the table from the text of ``stills.toml``.

    Raises
    ------
    KnowledgeError
        Naming the entry, the field and what was expected.
    """
    raw = tables_of(read, "stills.toml")
    landmarks = {
        row["id"]: entry_text("landmark", str(row["id"]), english=row["label"]) for row in raw.get("landmark", ())
    }
    measures = {}
    for row in raw.get("measure", ()):
        measure = _measure(row, landmarks)
        measures[measure.check] = measure
    return StillTable(landmarks, measures)


def _measure(row: dict[str, Any], landmarks: dict[str, Message]) -> StillMeasure:
    check, checks = row.get("check"), shipped_knowledge().checks

    def refuse(field: str, expected: Any) -> KnowledgeError:
        return KnowledgeError(f"stills.toml: {check}.{field} is {row.get(field)!r}, expected {expected}")

    if check not in checks:
        raise refuse("check", "the id of a check")
    if row.get("quantity") not in POINTS:
        raise refuse("quantity", f"one of {', '.join(POINTS)}")
    points = tuple(row.get("points", ()))
    least, most = POINTS[row["quantity"]]
    if not least <= len(points) <= most or not set(points) <= set(landmarks):
        raise refuse("points", f"{least} to {most} of {', '.join(landmarks)}")
    if row.get("toward") not in TOWARD:
        raise refuse("toward", f"one of {', '.join(TOWARD)}")
    bounds = tuple(Bound(**bound) for bound in row.get("grades", ()))
    if (
        any(b.grade not in checks[check].grades[1:] or (b.above is None) == (b.below is None) for b in bounds)
        or not bounds
    ):
        raise refuse("grades", f"bounds for {', '.join(checks[check].grades[1:])}, each above or below")
    picture = load_figure().checks[check]
    view = TOWARD[row["toward"]] or picture.view
    since = bool(row.get("since_address", False))
    return StillMeasure(
        check=check,
        label=entry_text("measure", str(check), english=row["label"]),
        points=points,
        quantity=row["quantity"],
        toward=row["toward"],
        since_address=since,
        view=view,
        moment=picture.at,
        grades=bounds,
    )

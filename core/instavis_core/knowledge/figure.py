"""The pose of the figure at the eight moments, and what each answer adds to it."""

from __future__ import annotations

import functools
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from instavis_core.knowledge.loader import KnowledgeError, shipped_knowledge, shipped_text, tables_of
from instavis_core.knowledge.motion import load_motion

LINES = (
    "none",
    "middle",
    "level",
    "ball",
    "pressure",
    "seat",
    "feet",
    "hold",
    "lead-hip",
    "lead-foot",
    "head",
    "wrist",
    "shaft",
    "buckle",
    "toes",
    "hands",
)
SHAPES = ("wall", "post", "chair", "low-bag", "rail", "chest-rod", "breast-rod", "shaft", "stand")
VIEWS = ("face-on", "down-the-line")
# What an answer may add besides the series of motion.toml and the rows of [pose].
SINGLE = (
    "arm_out_deg",
    "across_deg",
    "ball_cm",
    "ball_far_cm",
    "stance_cm",
    "flare_deg",
    "hold_deg",
    "wrist_deg",
    "head_cm",
    "trail_ahead_cm",
)


@dataclass(frozen=True, kw_only=True)
class Picture:
    """How a check is drawn.

    Moment, view, line, and what is added to the pose always and by each answer that is not OK.
    """

    id: str
    at: str
    view: str
    line: str
    pose: dict[str, float]
    grades: dict[str, dict[str, float]]


@dataclass(frozen=True, kw_only=True)
class Prop:
    """An object of a drill: its shape at a joint of the address pose or, with ``now``, of the drill's own pose."""

    shape: str
    joint: str
    now: bool = False
    dx: float = 0.0


@dataclass(frozen=True, kw_only=True)
class DrillPose:
    """How a drill is drawn: moment, view, additions to the sound pose, its object, and whether a club is held."""

    id: str
    at: str
    view: str
    pose: dict[str, float]
    prop: Prop | None
    club: bool


@dataclass(frozen=True)
class FigureTable:
    """The figure's table.

    ``pose[name]`` (moments,) are angles beyond those in motion.toml; ``checks`` and ``drills`` by id.
    """

    pose: dict[str, np.ndarray]
    checks: dict[str, Picture]
    drills: dict[str, DrillPose]


@functools.lru_cache(maxsize=1)
def load_figure() -> FigureTable:
    """Return the shipped table, loaded once."""
    return load_figure_from(shipped_text)


def load_figure_from(read: Callable[[str], str]) -> FigureTable:
    """Build the table from the text of ``figure.toml``.

    Raises
    ------
    KnowledgeError
        Naming the entry, the field and what was expected; every check and every unsound grade must be drawn.
    """
    raw = tables_of(read, "figure.toml")
    motion, checks = load_motion(), shipped_knowledge().checks
    pose = {}
    for name, row in raw.get("pose", {}).items():
        if not isinstance(row, list) or len(row) != len(motion.moments):
            raise KnowledgeError(f"figure.toml: pose.{name} is {row!r}, expected {len(motion.moments)} numbers")
        pose[name] = np.array(row, float)
    known = {*pose, *(name for name, series in motion.series.items() if not series.carried), *SINGLE}
    pictures = {}
    for row in raw.get("check", ()):
        check = row.get("id")
        if check not in checks:
            raise KnowledgeError(f"figure.toml: check.id is {check!r}, expected the id of a check")
        for field, allowed in (("at", motion.moments), ("view", VIEWS), ("line", LINES)):
            if row.get(field) not in allowed:
                raise KnowledgeError(f"figure.toml: {check}.{field} is {row.get(field)!r}, expected {allowed}")
        grades = row.get("grades", {})
        always = row.get("pose", {})
        for grade, adds in ({"pose": always} | grades).items():
            for name in adds:
                if name not in known:
                    raise KnowledgeError(f"figure.toml: {check}.{grade}.{name}: expected one of {sorted(known)}")
        if set(grades) != set(checks[check].grades[1:]):
            raise KnowledgeError(f"figure.toml: {check}.grades: expected {checks[check].grades[1:]}")
        pictures[check] = Picture(
            id=check, at=row["at"], view=row["view"], line=row["line"], pose=always, grades=grades
        )
    if missing := set(checks) - set(pictures):
        raise KnowledgeError(f"figure.toml: no check for {sorted(missing)}")
    drills = {row.get("id"): _drill(row, known, motion.moments) for row in raw.get("drill", ())}
    if missing := set(shipped_knowledge().drills) - set(drills):
        raise KnowledgeError(f"figure.toml: no drill for {sorted(missing)}")
    return FigureTable(pose, pictures, drills)


def _drill(row: dict[str, Any], known: set[str], moments: tuple[str, ...]) -> DrillPose:
    drill, prop = row.get("id"), row.get("object")
    if drill not in shipped_knowledge().drills:
        raise KnowledgeError(f"figure.toml: drill.id is {drill!r}, expected the id of a drill")
    for field, allowed in (("at", moments), ("view", VIEWS)):
        if row.get(field) not in allowed:
            raise KnowledgeError(f"figure.toml: {drill}.{field} is {row.get(field)!r}, expected {allowed}")
    if unknown := set(row.get("pose", {})) - known:
        raise KnowledgeError(f"figure.toml: {drill}.pose: {sorted(unknown)[0]}, expected one of {sorted(known)}")
    if prop is not None and prop.get("shape") not in SHAPES:
        raise KnowledgeError(f"figure.toml: {drill}.object.shape is {prop.get('shape')!r}, expected one of {SHAPES}")
    made = Prop(**prop) if prop is not None else None
    return DrillPose(
        id=drill, at=row["at"], view=row["view"], pose=row.get("pose", {}), prop=made, club=row.get("club", True)
    )

"""The pictures of a check: the figure without a fault and one for each answer, with the line that matters."""

from __future__ import annotations

import functools
from collections.abc import Mapping
from dataclasses import dataclass

from instavis_core.errors import InputError
from instavis_core.figure.pose import pose_at
from instavis_core.figure.skeleton import Skeleton, stand
from instavis_core.figure.strokes import SHEET, Ink, Segment, Sheet, Stroke, ball, body, ground, shaft, stroke
from instavis_core.figure.views import Point, View, project
from instavis_core.knowledge.figure import load_figure
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.message import NOTHING, Message

GROUNDED = ("address", "impact")
HIGH, LOW = 1.85, -0.02  # ends of upright lines [m]


@dataclass(frozen=True, kw_only=True)
class GradePicture:
    """One answer drawn on its sheet; an answer that is not OK has a different body color."""

    grade: str
    sound: bool
    sheet: Sheet
    strokes: tuple[Stroke, ...]


@dataclass(frozen=True, kw_only=True)
class CheckPicture:
    """A drawn check: view, moment, its line or mark with ink, and every answer."""

    check: str
    view: str
    moment: str
    line_ink: Ink
    line_label: Message
    grades: tuple[GradePicture, ...]


LABELS = {
    "middle": Message("figures-middle-stance"),
    "level": Message("figures-level"),
    "ball": Message("figures-ball"),
    "pressure": Message("figures-pressure-under-feet"),
    "seat": Message("figures-seat-address"),
    "feet": Message("figures-feet"),
    "hold": Message("figures-hold-direction"),
    "lead-hip": Message("figures-lead-hip-address"),
    "lead-foot": Message("figures-lead-foot"),
    "head": Message("figures-head-address"),
    "wrist": Message("figures-back-wrist"),
    "shaft": Message("figures-shaft-address"),
    "buckle": Message("figures-belt-buckle-direction"),
    "toes": Message("figures-trail-toes"),
    "hands": Message("figures-over-ball"),
    "none": NOTHING,
}


@functools.lru_cache(maxsize=256)
def check_picture(check: str, hand: str = "right", view: str = "") -> CheckPicture:
    """Draw a check.

    Parameters
    ----------
    look : str
        Id of the look.
    hand : {"right", "left"}
    view : str, optional
        Another view than the look's own.

    Raises
    ------
    InputError
        For an unknown look, hand or view.
    """
    table = load_figure().checks
    if check not in table:
        raise InputError("check", check, Message("common-one-checks", known=", ".join(table)))
    if hand not in ("right", "left"):
        raise InputError("hand", hand, Message("common-right-left"))
    picture = table[check]
    viewpoint = View(view or picture.view, hand)
    address = stand(pose_at("address"), grounded=True)
    line = _line(picture.line, address, viewpoint)
    grades = []
    for i, grade in enumerate(shipped_knowledge().checks[check].grades):
        pose = pose_at(picture.at, None, picture.pose, picture.grades.get(grade))
        figure = stand(pose, picture.at in GROUNDED)
        strokes = _strokes(project(figure, viewpoint), Ink.FAULT if i else Ink.BODY, line, picture.line)
        grades.append(GradePicture(grade=grade, sound=i == 0, sheet=SHEET, strokes=strokes))
    return CheckPicture(
        check=check,
        view=viewpoint.name,
        moment=picture.at,
        line_ink=Ink.LINE if line else Ink.MARK,
        line_label=LABELS[picture.line],
        grades=tuple(grades),
    )


def _strokes(at: Mapping[str, Point], ink: Ink, line: list[Segment], name: str) -> tuple[Stroke, ...]:
    return (
        ground(),
        stroke(Ink.LINE, line),
        shaft(at),
        *body(at, ink),
        *ball(at),
        stroke(Ink.MARK, _mark(name, at)),
    )


def _line(line: str, address: Skeleton, view: View) -> list[Segment]:
    """Return the line of the check as drawn at address."""
    at = project(address, view)
    if line in ("seat", "lead-hip", "lead-foot", "head", "middle", "toes", "hands"):
        x = {
            "seat": at["seat"][0],
            "lead-hip": at["lead-hip"][0],
            "lead-foot": at["lead-ankle"][0],
            "head": at["head"][0],
            "middle": (at["lead-ankle"][0] + at["trail-ankle"][0]) / 2,
            "toes": at["trail-toe"][0],
            "hands": at["ball"][0],
        }[line]
        lines = [((x, LOW), (x, HIGH))]
        if line == "head":
            top = at["head"][1] + 0.11
            lines.append(((at["head"][0] - 0.25, top), (at["head"][0] + 0.25, top)))
        return lines
    if line == "level":
        y = at["trail-shoulder"][1]
        return [((-0.5, y), (0.5, y))]
    if line == "shaft":
        (hx, hy), (cx, cy) = at["hands"], at["club-head"]
        return [((cx, cy), (cx + 1.75 * (hx - cx), cy + 1.75 * (hy - cy)))]
    return []


def _mark(line: str, at: Mapping[str, Point]) -> list[Segment]:
    """Return what the line is compared with on this figure."""
    pairs = {"buckle": ("pelvis", "buckle"), "hold": ("hands", "hold"), "wrist": ("wrist", "hands")}
    if line in pairs:
        a, b = (at[name] for name in pairs[line])
        far = 2.2 if line == "buckle" else 1.0
        return [(a, (a[0] + far * (b[0] - a[0]), a[1] + far * (b[1] - a[1])))]
    if line == "pressure":
        x, y = at["pressure"]
        return [((x, y), (x, y + 0.12))]
    if line == "feet":
        return [(at[f"{side}-heel"], at[f"{side}-toe"]) for side in ("lead", "trail")]
    return []

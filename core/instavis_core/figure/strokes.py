"""The strokes of a figure in drawing order, for any renderer."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from enum import StrEnum

from instavis_core.figure.skeleton import BONES
from instavis_core.figure.views import Point

Segment = tuple[Point, Point]

Sheet = tuple[float, float, float, float]
SHEET: Sheet = (-0.88, -0.08, 0.88, 1.96)
"""Left, bottom, right and top of the sheet that every figure is drawn on [m]."""


class Ink(StrEnum):
    """What a stroke shows; the renderer chooses color and dashes."""

    GROUND = "ground"
    LINE = "line"
    SHAFT = "shaft"
    BODY = "body"
    FAULT = "fault"
    RIM = "rim"
    BALL = "ball"
    MARK = "mark"


WIDTHS = {
    Ink.GROUND: 1.5,
    Ink.LINE: 1.6,
    Ink.SHAFT: 2.0,
    Ink.BODY: 6.5,
    Ink.FAULT: 6.5,
    Ink.RIM: 7.0,
    Ink.BALL: 5.0,
    Ink.MARK: 4.5,
}
HEAD, PROP = 21.0, 6.0


@dataclass(frozen=True, kw_only=True)
class Stroke:
    """Round-ended lines of one ink and width [cm] between points right and up [m]; a dot is a line of zero length."""

    ink: Ink
    width: float
    lines: tuple[Segment, ...]


def stroke(ink: Ink, lines: Iterable[Segment], width: float = 0) -> Stroke:
    """Make a stroke; a width of 0 uses the ink's default [cm]."""
    return Stroke(ink=ink, width=width or WIDTHS[ink], lines=tuple(lines))


def ground() -> Stroke:
    """The turf under the figure."""
    left, _, right, _ = SHEET
    return stroke(Ink.GROUND, [((left, -0.02), (right, -0.02))])


def body(at: Mapping[str, Point], ink: Ink) -> list[Stroke]:
    """Bones and head of a figure on the sheet."""
    return [stroke(ink, [(at[a], at[b]) for a, b in BONES]), stroke(ink, [dot(at["head"])], HEAD)]


def shaft(at: Mapping[str, Point]) -> Stroke:
    """The club from the hands to its head."""
    return stroke(Ink.SHAFT, [(at["hands"], at["club-head"])])


def ball(at: Mapping[str, Point]) -> list[Stroke]:
    """The ball with its rim."""
    return [stroke(ink, [dot(at["ball"])]) for ink in (Ink.RIM, Ink.BALL)]


def dot(place: Point) -> Segment:
    """A line of zero length."""
    return place, place

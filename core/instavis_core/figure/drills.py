"""The picture of a drill: the movement with its object."""

from __future__ import annotations

import functools
from dataclasses import dataclass

import numpy as np

from instavis_core.errors import InputError
from instavis_core.figure.pictures import GROUNDED
from instavis_core.figure.pose import pose_at
from instavis_core.figure.skeleton import Skeleton, stand
from instavis_core.figure.strokes import PROP, SHEET, Ink, Segment, Sheet, Stroke, body, ground, shaft, stroke
from instavis_core.figure.views import View, project
from instavis_core.knowledge.figure import Prop, load_figure
from instavis_core.message import Message

POST_HIGH, BACK_HIGH, SEAT_HIGH, BAG = 1.15, 0.95, 0.48, (0.26, 0.34)  # m


@dataclass(frozen=True, kw_only=True)
class DrillPicture:
    """A drawn drill: view, moment and object; the object uses the ink of a mark."""

    drill: str
    view: str
    moment: str
    sheet: Sheet
    strokes: tuple[Stroke, ...]


@functools.lru_cache(maxsize=128)
def drill_picture(drill: str, hand: str = "right") -> DrillPicture:
    """Draw a drill.

    Parameters
    ----------
    drill : str
        Id of a drill that ships.
    hand : {"right", "left"}

    Raises
    ------
    InputError
        For a drill that is not drawn, or an unknown hand.
    """
    table = load_figure().drills
    if drill not in table:
        raise InputError("drill", drill, Message("figures-one-drills", known=", ".join(table)))
    if hand not in ("right", "left"):
        raise InputError("hand", hand, Message("common-right-left"))
    row = table[drill]
    view = View(row.view, hand)
    figure = stand(pose_at(row.at, None, row.pose), row.at in GROUNDED and row.club)
    at = project(figure, view)
    prop = _prop(row.prop, figure, view) if row.prop else []
    return DrillPicture(
        drill=drill,
        view=row.view,
        moment=row.at,
        sheet=SHEET,
        strokes=(
            ground(),
            stroke(Ink.MARK, prop, PROP),
            *([shaft(at)] if row.club else []),
            *body(at, Ink.BODY),
        ),
    )


def _prop(prop: Prop, figure: Skeleton, view: View) -> list[Segment]:
    """The object as lines, at its joint at address or at the current pose."""
    base = figure if prop.now else stand(pose_at("address"), grounded=True)
    along = np.array([1.0, 0, 0]) if view.name == "face-on" else np.array([0, 1.0, 0])
    place = base[prop.joint] + prop.dx * along
    if prop.shape in ("chest-rod", "breast-rod", "shaft"):
        return [_rod(prop.shape, figure, view)]

    def line(*ends: tuple[float, float]) -> Segment:
        first, second = (view.point(place * [1, 1, 0] + x * along + np.array([0, 0, z])) for x, z in ends)
        return first, second

    if prop.shape == "chair":
        deep = -0.36
        return [
            line((0, SEAT_HIGH), (0, BACK_HIGH)),
            line((deep, SEAT_HIGH), (0, SEAT_HIGH)),
            line((0, 0), (0, SEAT_HIGH)),
            line((deep, 0), (deep, SEAT_HIGH)),
        ]
    if prop.shape == "low-bag":
        wide, high = BAG
        corners = [(0, 0), (0, high), (wide, high), (wide, 0), (0, 0)]
        return [line(a, b) for a, b in zip(corners, corners[1:], strict=False)]
    if prop.shape == "stand":
        return [line((0, 0), (0, 0.7)), line((-0.05, 0.7), (0.05, 0.7)), line((-0.12, 0), (0.12, 0))]
    return [line((0, 0), (0, POST_HIGH if prop.shape == "post" else 1.8))]


def _rod(shape: str, figure: Skeleton, view: View) -> Segment:
    """A rod that moves with the body: across the shoulders, down the breastbone, or upright in the hands."""
    if shape == "shaft":
        hands = figure["hands"]
        return view.point(hands + [0, 0, 0.15]), view.point(hands * [1, 1, 0])
    if shape == "breast-rod":
        along = figure["pelvis"] - figure["neck"]
        return view.point(figure["neck"] + [0, 0.1, 0]), view.point(figure["neck"] + [0, 0.1, 0] + 1.7 * along)
    middle = (figure["lead-shoulder"] + figure["trail-shoulder"]) / 2
    half = 2.2 * (figure["lead-shoulder"] - middle)
    return view.point(middle - half), view.point(middle + half)

"""The figure seen from one side: points on a sheet, right-handers and left-handers."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.errors import InputError
from instavis_core.figure.skeleton import Skeleton
from instavis_core.knowledge.figure import VIEWS
from instavis_core.message import Message

Point = tuple[float, float]


@dataclass(frozen=True)
class View:
    """The viewpoint of a figure: ``face-on`` or ``down-the-line``, of a right- or left-hander."""

    name: str
    hand: str = "right"

    def __post_init__(self) -> None:
        if self.name not in VIEWS:
            raise InputError("view", self.name, Message("common-one", known=", ".join(VIEWS)))

    def point(self, place: np.ndarray) -> Point:
        """A place (3,) [m] on the sheet: right and up [m], rounded to millimetres."""
        across = place[0] if self.name == "face-on" else place[1]
        side = -1.0 if self.hand == "left" else 1.0
        return round(float(side * across), 3), round(float(place[2]), 3)


def project(skeleton: Skeleton, view: View) -> dict[str, Point]:
    """All joints on the sheet."""
    return {name: view.point(place) for name, place in skeleton.joints.items()}

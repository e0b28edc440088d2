"""Pictures of the sample academy: the simulated golfer as a camera in the barn would see it."""

from __future__ import annotations

import io

from PIL import Image, ImageDraw

from instavis_core.figure.skeleton import BONES
from instavis_core.simulate.still import SimulatedStill

WALL, FLOOR, PLANK = (214, 208, 194), (128, 141, 118), (196, 188, 172)
SHIRT, TROUSERS, SKIN, SHOE, SHAFT = (86, 110, 128), (72, 66, 60), (208, 168, 138), (46, 42, 40), (60, 60, 64)
LEGS = ("ankle", "knee", "hip")
Point = tuple[float, float]
Colour = tuple[int, int, int]
SMOOTH = 2  # drawn larger and scaled down


def draw_still(still: SimulatedStill) -> bytes:
    """Draw the picture as PNG: barn wall, mat, a rod of known length, and the golfer."""
    size = (SMOOTH * still.width, SMOOTH * still.height)
    picture = Image.new("RGB", size, WALL)
    pen = ImageDraw.Draw(picture)
    for x in range(0, size[0], 90 * SMOOTH):
        pen.line([(x, 0), (x, size[1])], PLANK, 3)
    ground = max(y for name, (_, y) in still.points.items() if name.endswith("toe")) - 6
    pen.rectangle([0, SMOOTH * ground, *size], FLOOR)
    _line(pen, still.rod[0], still.rod[1], (196, 92, 44), 7)
    points = still.points
    _line(pen, points["hands"], points["club-head"], SHAFT, 5)
    for a, b in BONES:
        leg = any(part in a for part in LEGS)
        colour = SHOE if "heel" in a else TROUSERS if leg else SKIN if "elbow" in a else SHIRT
        width = 46 if {a, b} == {"pelvis", "neck"} else 34 if leg or a.endswith("shoulder") else 20
        _line(pen, points[a], points[b], colour, width)
    _dot(pen, points["head"], 44, SKIN)
    _dot(pen, points["ball"], 8, (250, 250, 246))
    _dot(pen, points["club-head"], 9, SHAFT)
    out = io.BytesIO()
    picture.resize((still.width, still.height), Image.Resampling.LANCZOS).save(out, "PNG")
    return out.getvalue()


def _line(pen: ImageDraw.ImageDraw, a: Point, b: Point, colour: Colour, width: int) -> None:
    ends = [(SMOOTH * x, SMOOTH * y) for x, y in (a, b)]
    pen.line(ends, colour, SMOOTH * width)
    for x, y in ends:
        r = SMOOTH * width / 2
        pen.ellipse([x - r, y - r, x + r, y + r], colour)


def _dot(pen: ImageDraw.ImageDraw, at: Point, radius: int, colour: Colour) -> None:
    x, y = (SMOOTH * v for v in at)
    r = SMOOTH * radius
    pen.ellipse([x - r, y - r, x + r, y + r], colour)

"""Turn clicked landmarks into sway, thrust, lift, tilt and gaps, with errors and a proposed answer.

A still shows the plane across the camera. A point nearer or farther than the known length is measured too large or too
small in proportion; that share is ``DEPTH_SHARE`` (a camera four meters away, a body a quarter of a meter off the plane
of the known length). Clicks miss by ``CLICK_SHARE`` of the picture's height.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from instavis_core.errors import InputError
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.knowledge.stills import StillMeasure, load_stills
from instavis_core.message import Message

DEPTH_SHARE = 0.06
CLICK_SHARE = 0.004
CLOSE = 2.0  # standard errors from a bound within which an answer is close
LENGTHS = (2.0, 400.0)  # cm, range of a known length
SHORTEST_SCALE = 20.0  # pixels
Point = tuple[float, float]


@dataclass(frozen=True)
class Scale:
    """A known length: its two ends [px, from the upper left corner] and its length [cm]."""

    a: Point
    b: Point
    length_cm: float

    @property
    def px_per_cm(self) -> float:
        """Return pixels per centimeter."""
        return math.dist(self.a, self.b) / self.length_cm


@dataclass(frozen=True, kw_only=True)
class Clicked:
    """A picture with its clicks: ``points`` [px] by landmark, size [px] and known length."""

    points: dict[str, Point]
    width: int
    height: int
    scale: Scale | None = None


@dataclass(frozen=True, kw_only=True)
class Measured:
    """A value with its error (one SD); ``grade`` is proposed, ``close`` if a bound is within two errors.

    ``missing`` names what must be clicked before there is a value: landmarks, ``scale``, ``address`` or
    ``address:landmark``.
    """

    check: str
    label: Message
    unit: str
    value: float | None
    error: float | None
    grade: str | None
    close: bool
    missing: list[str]


def read_clicks(raw: Any, width: int, height: int) -> dict[str, Point]:
    """Check clicked landmarks.

    Raises
    ------
    InputError
        For unknown landmarks or points outside the picture.
    """
    if not isinstance(raw, Mapping):
        raise InputError("points", raw, Message("stills-landmark-x-y"))
    return {name: _point(f"points.{name}"[:60], name, value, width, height) for name, value in raw.items()}


def _point(field: str, name: str | None, value: Any, width: int, height: int) -> Point:
    landmarks = load_stills().landmarks
    if name is not None and name not in landmarks:
        raise InputError(field, value, Message("common-one", known=", ".join(landmarks)))
    numbers = isinstance(value, list | tuple) and len(value) == 2 and all(type(v) in (int, float) for v in value)
    if not numbers or not (0 <= value[0] <= width and 0 <= value[1] <= height):
        raise InputError(field, value, Message("stills-point-within-pixels", width=width, height=height))
    return float(value[0]), float(value[1])


def read_scale(raw: Any, width: int, height: int) -> Scale | None:
    """Check a known length: ``{"a": [x, y], "b": [x, y], "length_cm": 110}``.

    Raises
    ------
    InputError
        For points outside, ends too near one another, or a length out of range.
    """
    if raw is None:
        return None
    if not isinstance(raw, Mapping) or set(raw) != {"a", "b", "length_cm"}:
        raise InputError("scale", raw, Message("stills-b-length-cm"))
    a, b = (_point(f"scale.{end}", None, raw[end], width, height) for end in ("a", "b"))
    length = raw["length_cm"]
    if type(length) not in (int, float) or not LENGTHS[0] <= length <= LENGTHS[1]:
        raise InputError(
            "scale.length_cm",
            length,
            Message("stills-cm", least=LENGTHS[0], most=LENGTHS[1]),
        )
    if math.dist(a, b) < SHORTEST_SCALE:
        raise InputError(
            "scale.b",
            raw["b"],
            Message("stills-end-least-pixels-other", shortest=SHORTEST_SCALE),
        )
    return Scale(a, b, float(length))


def measure_still(check: str, still: Clicked, hand: str, address: Clicked | None = None) -> Measured:
    """Measure a check on a picture.

    Parameters
    ----------
    look : str
        A look of ``stills.toml``.
    still : Clicked
        At the look's moment, from the look's view.
    hand : {"right", "left"}
        The golfer's: from the front a right-hander's target is on the right, down the line the ball is.
    address : Clicked, optional
        The address still of the same camera, not moved since.

    Raises
    ------
    InputError
        For a look that is not measured on stills, or an address still of another size.
    """
    table = load_stills()
    if check not in table.measures:
        raise InputError("check", check, Message("common-one", known=", ".join(table.measures)))
    measure = table.measures[check]
    missing = _missing(measure, still, address)
    if missing:
        return Measured(
            check=check,
            label=measure.label,
            unit=measure.unit,
            value=None,
            error=None,
            grade=None,
            close=False,
            missing=missing,
        )
    before = address if measure.since_address else None
    if before and (before.width, before.height) != (still.width, still.height):
        raise InputError(
            "address",
            f"{before.width} × {before.height}",
            Message(
                "stills-still-pixels-same-camera",
                width=still.width,
                height=still.height,
            ),
        )
    scale = still.scale or (address.scale if address else None)
    value, error = _value(measure, still, hand, scale)
    if before:
        earlier, other = _value(measure, before, hand, scale)
        value, error = value - earlier, math.hypot(error, other)
    if measure.unit == "cm":
        error = math.hypot(error, DEPTH_SHARE * abs(value), _scale_share(scale, still.height) * abs(value))
    grade = next((b.grade for b in measure.grades if b.holds(value)), shipped_knowledge().checks[check].grades[0])
    close = any(abs(value - b.bound) < CLOSE * error for b in measure.grades)
    return Measured(
        check=check,
        label=measure.label,
        unit=measure.unit,
        value=round(value, 2),
        error=round(error, 2),
        grade=grade,
        close=close,
        missing=[],
    )


def _missing(measure: StillMeasure, still: Clicked, address: Clicked | None) -> list[str]:
    missing = [p for p in measure.points if p not in still.points]
    if measure.unit == "cm" and still.scale is None and (address is None or address.scale is None):
        missing.append("scale")
    if not measure.since_address:
        return missing
    if address is None:
        missing.append("address")
    else:
        missing += [f"address:{p}" for p in measure.points if p not in address.points]
    return missing


def _scale_share(scale: Scale | None, height: int) -> float:
    return math.sqrt(2) * CLICK_SHARE * height / math.dist(scale.a, scale.b) if scale else 0.0


def _value(measure: StillMeasure, still: Clicked, hand: str, scale: Scale | None) -> tuple[float, float]:
    """Return value and click error on one picture; lengths in cm."""
    across = np.array([1.0 if hand == "right" else -1.0, 0.0])
    axis = np.array([0.0, -1.0]) if measure.toward == "up" else across
    points = np.array([still.points[p] for p in measure.points])
    click = CLICK_SHARE * still.height
    if measure.unit == "°":
        along = points[1] - points[0]
        length = float(np.hypot(*along))
        return _angle(measure.quantity, along, across), math.degrees(math.sqrt(2) * click / max(length, 1.0))
    if measure.quantity == "travel":
        pixels, clicks = float(points.mean(0) @ axis), click / math.sqrt(len(points))
    else:
        pixels = float((points[0] - points[1:].mean(0)) @ axis)
        clicks = click * math.sqrt(1 + 1 / (len(points) - 1))
    if scale is None:
        raise InputError("scale", None, Message("stills-length-picture"))
    return pixels / scale.px_per_cm, clicks / scale.px_per_cm


def _angle(quantity: str, along: np.ndarray, across: np.ndarray) -> float:
    """Return the angle of a line from its first to its second point [°]; picture y points down."""
    toward, down = float(along @ across), float(along[1])
    if quantity == "tilt":  # the upper point comes first: how far it is behind the lower one
        return math.degrees(math.atan2(toward, down))
    if quantity == "slope":
        return math.degrees(math.atan2(-down, toward))
    return math.degrees(math.atan2(abs(down), abs(toward)))

"""`fly`: one ball in the air."""

from __future__ import annotations

import dataclasses
from typing import Any

import numpy as np

from instavis_core.errors import InputError
from instavis_core.flight import Air, fly, fly_traced, roll_after
from instavis_core.golfer import HANDS, Golfer, mirror
from instavis_core.impact import Delivery, Launch, contact_of, curve_budget, launch_of, start_budget
from instavis_core.impact.inverse import DELIVERY_NAMES, LAUNCH_NAMES
from instavis_core.message import Message
from instavis_core.shots import read_club, read_number
from instavis_io.documents.fields import lie_of, numbers, only, plain

AIR_RANGES = {
    "temperature_c": (-40, 55),
    "pressure_hpa": (500, 1100),
    "humidity": (0, 1),
    "wind_mps": (0, 40),
    "wind_from_deg": (-360, 360),
}
FLOWN = ("carry_m", "side_m", "curve_m", "apex_m", "descent_deg", "time_s")
REQUIRED_LAUNCH = ("ball_speed_mps", "launch_angle_deg", "spin_rpm")
REQUIRED_DELIVERY = ("club_speed_mps", "path_deg", "face_deg")


def answer(raw: dict[str, Any]) -> dict[str, Any]:
    """Compute the flight of one ball from a launch or a delivery, device frame."""
    only(raw, ("launch", "delivery", "air", "trace", "detail"))
    if ("launch" in raw) == ("delivery" in raw):
        raise InputError("launch", None, Message("files-either-launch-delivery"))
    budget: dict[str, float] | None = None
    detail: dict[str, Any] = {}
    if "launch" in raw:
        values = numbers(raw["launch"], "launch", LAUNCH_NAMES, REQUIRED_LAUNCH)
        launch = Launch(*(np.array([values.get(name, 0.0)]) for name in LAUNCH_NAMES))
    else:
        launch, budget, detail = _launched(raw["delivery"])
    air = _air(raw.get("air"))
    flight = fly(*launch.columns(), air)
    out: dict[str, Any] = {
        "launch": {name: float(c[0]) for name, c in zip(LAUNCH_NAMES, launch.columns(), strict=True)},
        **{name: _first(flight)[name] for name in FLOWN},
        "curve_budget": budget,
    }
    if raw.get("detail"):
        roll = roll_after(flight.landing_mps, flight.descent_deg, flight.landing_rpm)
        out |= detail | _first(flight) | {"roll_m": float(roll[0])}
    if raw.get("trace"):
        _, points = fly_traced(*launch.first(), air)
        names = ("time_s", "forward_m", "up_m", "right_m")
        out["trace"] = [dict(zip(names, row, strict=True)) for row in points.tolist()]
    return plain(out)


def _first(columns: Any, sign: float = 1.0) -> dict[str, float]:
    """Return each field of a column record with its first value."""
    return {f.name: sign * float(getattr(columns, f.name)[0]) for f in dataclasses.fields(columns)}


def _launched(raw: Any) -> tuple[Launch, dict[str, float], dict[str, Any]]:
    """Compute the launch of a delivery document, its curve budget and details; device frame."""
    if not isinstance(raw, dict):
        raise InputError("delivery", raw, Message("files-object-club-club-speed-mps"))
    rest = dict(raw)
    try:
        club = read_club(rest.pop("club", None)).on(lie_of(rest))
    except InputError as error:
        raise error.inside("delivery") from None
    rest.pop("lie", None)
    hand = rest.pop("hand", "right")
    if hand not in HANDS:
        raise InputError("delivery.hand", hand, Message("common-right-left"))
    golfer = Golfer(hand)
    values = numbers(rest, "delivery", DELIVERY_NAMES, REQUIRED_DELIVERY)
    usual = {"attack_deg": club.attack, "dynamic_loft_deg": club.usual_dynamic_loft}
    row = (mirror(name, values.get(name, usual.get(name, 0.0)), golfer) for name in DELIVERY_NAMES)
    delivery = Delivery(*row)
    launch = launch_of(delivery, club)
    mirrored = [mirror(name, c, golfer) for name, c in zip(LAUNCH_NAMES, launch.columns(), strict=True)]
    detail = {
        "start_budget": _first(start_budget(delivery, club), golfer.side),
        "contact": str(contact_of(delivery.toe, delivery.high, club).part[0]),
    }
    return Launch(*mirrored), _first(curve_budget(delivery, club), golfer.side), detail


def _air(raw: Any) -> Air:
    if raw is None:
        return Air()
    if not isinstance(raw, dict):
        raise InputError("air", raw, Message("files-object", known=", ".join(AIR_RANGES)))
    values = {}
    for name, value in raw.items():
        if name not in AIR_RANGES:
            raise InputError(f"air.{name}"[:80], value, Message("common-one", known=", ".join(AIR_RANGES)))
        values[name] = read_number(f"air.{name}", value, AIR_RANGES[name])
    return Air(**values)

"""What if the club had come in differently: change one delivery, simulate it again, and explain it in one sentence."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.flight import Air, fly, fly_traced, roll_after
from instavis_core.golfer import Golfer
from instavis_core.impact import Delivery, contact_of, launch_of
from instavis_core.impact.edges import FACE, PARTS
from instavis_core.impact.inverse import DELIVERY_NAMES, LAUNCH_NAMES
from instavis_core.knowledge import Club, vocabulary
from instavis_core.message import Message, joined
from instavis_core.reading.words import say

POINTS = 40  # of a drawn flight
TILT_WORTH, SPEED_WORTH, LAUNCH_WORTH = 0.7, 0.01, 0.4  # °, share, °; a smaller difference needs no reason
ON_LINE_M = 1.0


@dataclass(frozen=True, kw_only=True)
class FlownBall:
    """A ball as delivered and flown, golfer frame.

    ``forward_m``, ``up_m`` and ``side_trace_m`` are its path.
    """

    delivery: dict[str, float]
    launch: dict[str, float]
    contact: str
    carry_m: float
    side_m: float
    curve_m: float
    apex_m: float
    roll_m: float | None
    forward_m: list[float]
    up_m: list[float]
    side_trace_m: list[float]


@dataclass(frozen=True)
class WhatIf:
    """Before and after a change of delivery, and why they differ."""

    before: FlownBall
    after: FlownBall
    reason: Message


def what_if(
    delivery: dict[str, float], changes: dict[str, float], golfer: Golfer, club: Club, air: Air | None = None
) -> WhatIf:
    """Simulate a delivery as it was and as it would be.

    Parameters
    ----------
    delivery : dict of float
        Golfer frame, names of the impact model; what is missing is taken as usual for the club.
    changes : dict of float
        The values to put in their place.
    golfer, club : Golfer, Club
    air : Air, optional
    """
    usual = {"attack_deg": club.attack, "dynamic_loft_deg": club.usual_dynamic_loft, "club_speed_mps": 36.0}
    start = {name: delivery.get(name, usual.get(name, 0.0)) for name in DELIVERY_NAMES}
    changed = start | changes
    before, after = _flown(start, club, air), _flown(changed, club, air)
    return WhatIf(before, after, _reason(before, after, changes))


def _flown(delivery: dict[str, float], club: Club, air: Air | None) -> FlownBall:
    row = Delivery(*(np.array([delivery[name]]) for name in DELIVERY_NAMES))
    launch = launch_of(row, club)
    flight = fly(*launch.columns(), air)
    _, points = fly_traced(*launch.first(), air)
    roll = float(roll_after(flight.landing_mps, flight.descent_deg, flight.landing_rpm)[0])
    times = np.linspace(0, points[-1, 0], POINTS)
    forward, up, side = (np.interp(times, points[:, 0], points[:, k]) for k in (1, 2, 3))
    return FlownBall(
        delivery=delivery,
        launch={name: float(c[0]) for name, c in zip(LAUNCH_NAMES, launch.columns(), strict=True)},
        contact=str(contact_of(row.toe, row.high, club).part[0]),
        carry_m=float(flight.carry_m[0]),
        side_m=float(flight.side_m[0]),
        curve_m=float(flight.curve_m[0]),
        apex_m=float(flight.apex_m[0]),
        roll_m=None if np.isnan(roll) else roll,
        forward_m=forward.round(2).tolist(),
        up_m=up.round(2).tolist(),
        side_trace_m=side.round(2).tolist(),
    )


def _reason(before: FlownBall, after: FlownBall, changes: dict[str, float]) -> Message:
    """Explain in one sentence what was changed, what that does at impact, and what the ball does."""
    changed = [m for m in changes if abs(after.delivery[m] - before.delivery[m]) > 1e-6]
    if not changed:
        return Message("correct-nothing-changed")
    if after.contact != FACE:
        return Message("correct-ball-would-struck-not-face", replace=PARTS[after.contact])
    if before.contact != FACE:
        return Message("correct-ball-struck-now-struck-face", replace=PARTS[before.contact])
    metrics = vocabulary().metrics
    set_to = [
        Message("correct-changed", metric=metrics[m].label.lower(), value=say(m, after.delivery[m])) for m in changed
    ]
    gaps = [b.delivery["face_deg"] - b.delivery["path_deg"] for b in (before, after)]
    causes = []
    if abs(gaps[1] - gaps[0]) > 0.1:
        causes.append(Message("correct-face-path-goes", before=_gap(gaps[0]), after=_gap(gaps[1])))
    tilt = [b.launch["spin_axis_deg"] for b in (before, after)]
    if abs(tilt[1] - tilt[0]) > TILT_WORTH:
        causes.append(
            Message(
                "correct-spin-axis-tilts-instead",
                after=say("spin_axis_deg", tilt[1]),
                before=say("spin_axis_deg", tilt[0]),
            )
        )
    start = [b.launch["launch_direction_deg"] for b in (before, after)]
    if abs(start[1] - start[0]) > LAUNCH_WORTH:
        causes.append(Message("correct-ball-starts", say=say("launch_direction_deg", start[1])))
    speed = after.launch["ball_speed_mps"] / before.launch["ball_speed_mps"] - 1
    if abs(speed) > SPEED_WORTH:
        causes.append(
            Message(
                "correct-ball-speed",
                way=Message("correct-rises") if speed > 0 else Message("correct-falls"),
                speed=100 * abs(speed),
            )
        )
    launch = after.launch["launch_angle_deg"] - before.launch["launch_angle_deg"]
    if abs(launch) > LAUNCH_WORTH:
        causes.append(
            Message(
                "correct-launches",
                launch=abs(launch),
                way=Message("correct-higher") if launch > 0 else Message("correct-lower"),
            )
        )
    why = joined(causes) if causes else Message("correct-almost-nothing-changes-impact")
    return Message(
        "correct-lands",
        changed=joined(set_to, "and"),
        why=why,
        landing=_landing(before.side_m, after.side_m),
    )


def _landing(before: float, after: float) -> Message:
    """Return in words where the ball lands after the change."""
    if abs(after) < ON_LINE_M:
        return Message("correct-on-line")
    side = Message("correct-trail") if after > 0 else Message("correct-lead")
    nearer = abs(before) - abs(after)
    if before * after < 0:
        return Message("correct-other-side-line-side", side=side)
    if abs(nearer) < ON_LINE_M:
        return Message("correct-far-side-before", side=side)
    return Message(
        "correct-line-side",
        nearness=Message("correct-closer") if nearer > 0 else Message("correct-farther"),
        side=side,
    )


def _gap(value: float) -> Message:
    return (
        Message(
            "correct-degrees", value=abs(value), way=Message("common-open") if value > 0 else Message("common-closed")
        )
        if abs(value) >= 0.05
        else Message("correct-square")
    )

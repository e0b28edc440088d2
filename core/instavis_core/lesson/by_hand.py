"""A ball entered by hand in a bay without a monitor: start, curve and contact.

A person sees only roughly from behind. Each word becomes the middle value of what it covers, marked as entered by hand;
calculations use the width of the word as its error.
"""

from __future__ import annotations

from typing import Any

from instavis_core.errors import InputError
from instavis_core.message import Message

ENTERED = "entered"
HAND = "hand"
#: word -> middle of what it covers, device frame [°]
STARTS = {"far-left": -8.0, "left": -4.0, "straight": 0.0, "right": 4.0, "far-right": 8.0}
CURVES = {"hard-left": -18.0, "left": -8.0, "straight": 0.0, "right": 8.0, "hard-right": 18.0}
CONTACTS = ("clean", "thin", "fat", "topped", "shank", "sky", "toe", "heel")
STRIKE_TOE = {"toe": 14.0, "heel": -14.0}


def ball_by_hand(start: str, curve: str, contact: str) -> dict[str, Any]:
    """Convert the words of a ball to a shot record.

    Raises
    ------
    InputError
        For an unknown word.
    """
    for name, value, allowed in (("start", start, STARTS), ("curve", curve, CURVES), ("contact", contact, CONTACTS)):
        if value not in allowed:
            raise InputError(name, value, Message("common-one", known=", ".join(allowed)))
    record: dict[str, Any] = {
        "launch_direction_deg": STARTS[start],
        "spin_axis_deg": CURVES[curve],
        "strike_toe_mm": STRIKE_TOE.get(contact, 0.0),
        ENTERED: HAND,
    }
    if contact not in STRIKE_TOE:
        record["turf"] = contact
    return record

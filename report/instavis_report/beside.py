"""Two swings side by side, one sentence for each quantity."""

from __future__ import annotations

from collections.abc import Sequence

from instavis_core.message import Message, Quantity
from instavis_core.recordings import Difference

NO_DIFFERENCE = Message("record-moment-two-swings-differ-less")


def beside_lines(found: Sequence[Difference]) -> list[Message]:
    """Return what clearly differs between two swings at one moment, or that nothing does.

    Parameters
    ----------
    found : sequence of Difference
        Of one moment.
    """
    lines = [
        Message(
            "record-before-now-change-between-90",
            what=one.label,
            before=Quantity(one.before, one.unit),
            now=Quantity(one.now, one.unit),
            low=Quantity(one.range[0], one.unit),
            high=Quantity(one.range[1], one.unit),
        )
        for one in found
        if one.clear
    ]
    return lines or [NO_DIFFERENCE]

"""Setup as measured at the start, and whether it has moved; a moved ball hides a fault."""

from __future__ import annotations

from dataclasses import dataclass

from instavis_core.message import Message

#: what may be off before it is worth a word (assumption: a coach's tape measure and alignment rod)
WORTH = {"ball_cm": 2.0, "stance_cm": 4.0, "aim_deg": 2.0}
RANGES = {"ball_cm": (-20, 60), "stance_cm": (5, 110), "aim_deg": (-30, 30)}


@dataclass(frozen=True)
class Setup:
    """Ball position inside the lead heel [cm], stance between the heels [cm], aim right of the target [°]."""

    ball_cm: float | None = None
    stance_cm: float | None = None
    aim_deg: float | None = None


def setup_changes(first: Setup, now: Setup) -> list[Message]:
    """Return sentences on what moved since the first note; empty if nothing did."""
    text = []
    for name, moved in _moved(first, now).items():
        if name == "ball_cm":
            text.append(
                Message(
                    "The ball is {moved:.0f} cm farther {way} than at the start.",
                    moved=abs(moved),
                    way=Message("back") if moved > 0 else Message("forward"),
                )
            )
        elif name == "stance_cm":
            text.append(
                Message(
                    "The stance is {moved:.0f} cm {way} than at the start.",
                    moved=abs(moved),
                    way=Message("wider") if moved > 0 else Message("narrower"),
                )
            )
        else:
            text.append(
                Message(
                    "The aim is {moved:.0f}° farther {side} than at the start.",
                    moved=abs(moved),
                    side=Message("right") if moved > 0 else Message("left"),
                )
            )
    return text


def _moved(first: Setup, now: Setup) -> dict[str, float]:
    moved = {}
    for name, worth in WORTH.items():
        before, after = getattr(first, name), getattr(now, name)
        if before is not None and after is not None and abs(after - before) >= worth:
            moved[name] = after - before
    return moved

"""Setup as measured at the start, and whether it has changed; a moved ball hides a fault."""

from __future__ import annotations

from dataclasses import dataclass

from instavis_core.message import Message

#: deviation that is worth a sentence (assumption: a coach's tape measure and alignment rod)
WORTH = {"ball_cm": 2.0, "stance_cm": 4.0, "aim_deg": 2.0}
RANGES = {"ball_cm": (-20, 60), "stance_cm": (5, 110), "aim_deg": (-30, 30)}


@dataclass(frozen=True)
class Setup:
    """Ball position inside the lead heel [cm], stance between the heels [cm], aim right of the target [°]."""

    ball_cm: float | None = None
    stance_cm: float | None = None
    aim_deg: float | None = None


def setup_changes(first: Setup, now: Setup) -> list[Message]:
    """Return sentences on what changed since the first note; empty if nothing did."""
    text = []
    for name, moved in _moved(first, now).items():
        if name == "ball_cm":
            text.append(
                Message(
                    "lesson-ball-cm-farther-start",
                    moved=abs(moved),
                    way=Message("lesson-back") if moved > 0 else Message("lesson-forward"),
                )
            )
        elif name == "stance_cm":
            text.append(
                Message(
                    "lesson-stance-cm-start",
                    moved=abs(moved),
                    way=Message("lesson-wider") if moved > 0 else Message("lesson-narrower"),
                )
            )
        else:
            text.append(
                Message(
                    "lesson-aim-farther-start",
                    moved=abs(moved),
                    side=Message("common-right") if moved > 0 else Message("common-left"),
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

"""How many balls are enough for one lesson: fewer for juniors, seniors and after an injury."""

from __future__ import annotations

from dataclasses import dataclass

from instavis_core.message import Message
from instavis_core.proof.alarms import Alarm
from instavis_core.terms import StageName

FULL_STAGES = (StageName.THREE_QUARTER, StageName.FULL, StageName.MIXED)
NEAR = 0.9
# Upper age, balls in all, balls near full speed (assumptions; general advice for youth and older athletes).
BY_AGE = ((13, 60, 25), (18, 90, 40), (60, 120, 60), (200, 80, 35))
RETURNING = (60, 20)


@dataclass(frozen=True)
class BallLimit:
    """Limits of balls in total and near full speed, and the group they are for."""

    total: int
    full: int
    reason: Message


def ball_limit(age: int | None, limits: dict[str, str]) -> BallLimit:
    """Return the limit of a lesson.

    Parameters
    ----------
    age : int or None
        Years; None counts as an adult.
    limits : dict of str
        By body region pain, injury or stiff, as the intake says.
    """
    years = 30 if age is None else age
    total, full = next((t, f) for upper, t, f in BY_AGE if years < upper)
    reason = (
        Message("prove-junior") if years < 18 else Message("prove-senior") if years >= 60 else Message("prove-adult")
    )
    if any(kind in ("pain", "injury") for kind in limits.values()):
        total, full, reason = (
            min(total, RETURNING[0]),
            min(full, RETURNING[1]),
            Message("prove-someone-pain-injury"),
        )
    return BallLimit(total, full, reason)


def limit_alarms(limit: BallLimit, total: int, full: int) -> list[Alarm]:
    """Return warnings near a limit and past it."""
    found = []
    for count, most, what in (
        (total, limit.total, Message("prove-balls")),
        (full, limit.full, Message("prove-balls-near-full-speed")),
    ):
        if count >= most:
            text = Message(
                ("prove-today-limit-stop-continue-without"),
                count=count,
                what=what,
                reason=limit.reason,
                most=most,
            )
            found.append(Alarm("ball-limit", text))
        elif count >= NEAR * most:
            found.append(
                Alarm(
                    "ball-limit-near",
                    Message("prove-left-today", most=most - count, what=what, reason=limit.reason),
                )
            )
    return found[:1]

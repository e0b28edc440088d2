"""Reads of bays and devices."""

from __future__ import annotations

from dataclasses import dataclass

from django.db.models import Count, OuterRef, Prefetch, Q, QuerySet, Subquery
from django.db.models.functions import Coalesce

from instavis.accounts.models import Coach
from instavis.capture.devices.models import Bay, Device, RefusedBall
from instavis.lessons.models import Lesson
from instavis.platform.errors import not_found
from instavis.platform.keys import hash_token
from instavis_core.message import Message

MAX_REFUSED_SHOWN = 500
MAX_RECENT = 20  # newest balls whose keys are sent to a device of the bay


def bays_of(coach: Coach) -> QuerySet[Bay]:
    """Return the bays of the academy with their devices, unassigned balls and refused records."""
    waiting = RefusedBall.objects.filter(bay=OuterRef("pk"), settled_at__isnull=True).order_by()
    counted = waiting.values("bay").annotate(n=Count("pk")).values("n")
    heard = Device.objects.filter(bay=OuterRef("pk"), seen_at__isnull=False).order_by("-seen_at").values("seen_at")[:1]
    own = Prefetch("devices", Device.objects.filter(bridge__isnull=True))  # bridges have a list of their own
    return (
        coach.academy.bays.select_related("lesson__student")
        .prefetch_related(own)
        .annotate(
            tray=Count("shots", filter=Q(shots__lesson__isnull=True)),
            refused_count=Coalesce(Subquery(counted), 0),
            last_at=Subquery(heard),
        )
    )


def bay_of(coach: Coach, bay_id: int) -> Bay:
    """Return one bay of the academy."""
    bay = bays_of(coach).filter(pk=bay_id).first()
    if bay is None:
        raise not_found("bay")
    return bay


def bay_of_lesson(lesson: Lesson) -> Bay | None:
    """Return the bay in which the lesson hits or takes turns."""
    return lesson.bays.first() or lesson.turn_bays.first()


@dataclass(frozen=True, kw_only=True)
class RefusedGroup:
    """Refused records of a bay with the same reason: their number, keys in order, and one line of text."""

    reason: str
    count: int
    ids: list[int]
    text: Message


def refused_in(bay: Bay) -> QuerySet[RefusedBall]:
    """Return refused records of a bay's devices that wait, in order."""
    return bay.refused.filter(settled_at__isnull=True).select_related("device")


def refused_groups(bay: Bay, lesson: Lesson) -> list[RefusedGroup]:
    """Return the same grouped by reason, as a lesson's screen shows it."""
    rows = list(refused_in(bay).order_by("received_at", "device_sequence", "id")[:MAX_REFUSED_SHOWN])
    by_reason: dict[str, list[RefusedBall]] = {}
    for row in rows:
        by_reason.setdefault(row.reason, []).append(row)
    return [
        RefusedGroup(reason=reason, count=len(group), ids=[r.pk for r in group], text=_line(reason, group, lesson))
        for reason, group in by_reason.items()
    ]


def _line(reason: str, rows: list[RefusedBall], lesson: Lesson) -> Message:
    one = len(rows) == 1
    balls = Message("bays-1-ball") if one else Message("bays-balls", rows=len(rows))
    stored = Message("bays-stored") if one else Message("bays-they-stored")
    if reason == RefusedBall.Reason.OTHER_HAND:
        other = "left" if lesson.hand == "right" else "right"
        return Message(
            "bays-came-marked-handed-but-plays",
            balls=balls,
            other=Message(f"common-{other}"),
            name=lesson.student.name,
            hand=Message(f"common-{lesson.hand}"),
            stored=stored,
        )
    if reason == RefusedBall.Reason.NUMBER_TAKEN:
        what = Message("bays-has-a-number") if one else Message("bays-have-numbers")
        return Message(
            ("bays-monitor-already-used-another-ball"),
            balls=balls,
            what=what,
            stored=stored,
        )
    if reason == RefusedBall.Reason.UNSTORABLE:
        return Message("bays-could-not-stored", balls=balls, stored=stored)
    return Message("bays-could-not-read", balls=balls, message=rows[0].message, stored=stored)


def device_of(coach: Coach, device_id: int) -> Device:
    """Return one device of the academy."""
    device = Device.objects.filter(pk=device_id, bay__academy=coach.academy).first()
    if device is None:
        raise not_found("device")
    return device


def device_by_token(token: str) -> Device | None:
    """Return the device of a token that is not revoked."""
    return Device.objects.filter(token_hash=hash_token(token), revoked_at__isnull=True).first()


def balls_in(bay: Bay) -> tuple[int, list[str]]:
    """Return how many balls the lesson in a bay has, and the keys of the newest, newest last."""
    rows = bay.lesson.shots.order_by("-number").values_list("number", "shot_id")[:MAX_RECENT] if bay.lesson else ()
    newest = list(rows)
    return (newest[0][0] if newest else 0), [key for _, key in reversed(newest)]

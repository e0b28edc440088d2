"""Reads of balls."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from django.db.models import Count, QuerySet

from instavis.accounts.models import Coach
from instavis.capture.devices.models import Bay
from instavis.capture.shots.models import METRICS, Shot
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import open_to
from instavis.platform.errors import not_found
from instavis_core.golfer import Golfer
from instavis_core.shots import PIVOT, SHARES, block_of
from instavis_core.shots import Block as CoreBlock
from instavis_core.shots import Shot as CoreShot
from instavis_core.terms import Purpose


@dataclass(frozen=True)
class Balls:
    """Balls for the core with the way back: ``ids[i]`` is ball i's key, ``aside`` the places set apart."""

    block: CoreBlock
    ids: list[int]
    aside: frozenset[int]

    @property
    def kept(self) -> CoreBlock:
        """The balls without those the coach set apart."""
        return self.block.keep(~np.isin(np.arange(len(self.block)), list(self.aside)))


def shots_of(lesson: Lesson) -> QuerySet[Shot]:
    """Balls of a lesson in the order they came."""
    return lesson.shots.order_by("number")


def shot_of(coach: Coach, shot_id: int) -> Shot:
    """One ball of the academy's lessons."""
    shot = Shot.objects.filter(open_to(coach, "lesson"), pk=shot_id).select_related("block").first()
    if shot is None:
        raise not_found("ball")
    return shot


def baseline_balls(lesson: Lesson, club: str = "") -> Balls:
    """The lesson's baseline with its club, or with another."""
    return balls_of(shots_of(lesson).filter(block__purpose=Purpose.BASELINE), lesson, club)


def baseline_clubs(lesson: Lesson) -> dict[str, int]:
    """How many baseline balls there are with each club."""
    shots = lesson.shots.filter(block__purpose=Purpose.BASELINE)
    rows = shots.order_by().values_list("club").annotate(n=Count("pk"))
    return {club or lesson.club: n for club, n in rows}


def other_clubs(lesson: Lesson) -> list[CoreBlock]:
    """What the baseline holds of other clubs than the lesson's, a block each, without what was set apart."""
    return [baseline_balls(lesson, club).kept for club in baseline_clubs(lesson) if club != lesson.club]


def tray_of(bay: Bay) -> QuerySet[Shot]:
    """Balls that came while no lesson was open in the bay, in the order they came."""
    return bay.shots.filter(lesson__isnull=True).order_by("pk")


def balls_of(shots: QuerySet[Shot], lesson: Lesson, club_id: str = "") -> Balls:
    """Balls of the lesson's club, or of another, as a block of the core."""
    return balls_among([s for s in shots if s.club in ("", club_id or lesson.club)], lesson, club_id)


def balls_among(shots: Sequence[Shot], lesson: Lesson, club_id: str = "") -> Balls:
    """Balls that were all hit with the lesson's club, or all with another, as a block of the core."""
    golfer: Golfer = lesson.golfer
    club = lesson.club_row(club_id)
    aside = frozenset(i for i, s in enumerate(shots) if s.set_aside)
    return Balls(block_of([s.to_record() for s in shots], golfer, club), [s.pk for s in shots], aside)


def record_of(shot: CoreShot) -> dict[str, Any]:
    """A checked record of the core as the document it came from."""
    texts = ("shot_id", "club", "hand", "turf", "movement", "mark_basis", "stage", "intent", "note")
    record = {name: getattr(shot, name) for name in (*texts, *SHARES, *PIVOT)} | {
        "at": shot.at.isoformat() if shot.at else None
    }
    return {k: v for k, v in {**shot.extra, **shot.values, **record}.items() if v not in (None, "")}


def as_record(shot: Shot) -> dict[str, Any]:
    """A ball in the open format, ready for a file."""
    record = {"shot_id": shot.shot_id, "at": shot.at.isoformat().replace("+00:00", "Z") if shot.at else None}
    for name in ("club", "hand", *METRICS, *SHARES, "turf", "movement", "mark_basis", "stage", "intent", "note"):
        record[name] = getattr(shot, name)
    return {k: v for k, v in {**shot.extra, **record}.items() if v not in (None, "")}

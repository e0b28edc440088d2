"""Reads of balls."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from django.db.models import QuerySet

from instavis.accounts.models import Coach
from instavis.capture.devices.models import Bay
from instavis.capture.shots.models import METRICS, Shot
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import open_to
from instavis.platform.errors import not_found
from instavis_core.knowledge import vocabulary
from instavis_core.shots import OF_A_BALL, PIVOT, SHARES, block_from, block_of
from instavis_core.shots import Block as CoreBlock
from instavis_core.shots import Shot as CoreShot
from instavis_core.terms import Purpose

TEXTS = ("hand", "turf", "movement", "mark_basis", "stage", "intent")
COLUMNS = ("pk", "club", "set_aside", "extra", *METRICS, *(name for name in OF_A_BALL if name not in PIVOT))
"""Fields that are read of balls for the core; instrument values of the body are stored separately."""
CLUB = COLUMNS.index("club")


@dataclass(frozen=True)
class Balls:
    """Balls for the core and their keys: ``ids[i]`` is ball i's key, ``aside`` the positions of excluded ones."""

    block: CoreBlock
    ids: list[int]
    aside: frozenset[int]

    @property
    def counted(self) -> CoreBlock:
        """Return the balls that the coach did not exclude."""
        return self.block.keep(~np.isin(np.arange(len(self.block)), list(self.aside)))


@dataclass(frozen=True)
class Baseline:
    """A lesson's baseline: the balls of its own club, and of each other club by id."""

    lesson: Lesson
    own: Balls
    others: dict[str, Balls]

    def hit_with(self, club: str) -> Balls:
        """Return the balls of a club, the lesson's by default; empty for a club that was not hit."""
        if club in ("", self.lesson.club):
            return self.own
        return self.others.get(club) or _balls([], self.lesson, club)

    @property
    def counts(self) -> dict[str, int]:
        """Return the number of balls per club."""
        hit = {self.lesson.club: self.own, **self.others}
        return {club: len(balls.ids) for club, balls in hit.items() if balls.ids}

    @property
    def other_blocks(self) -> list[CoreBlock]:
        """Return the blocks of other clubs, without excluded balls."""
        return [balls.counted for balls in self.others.values()]


def shots_of(lesson: Lesson) -> QuerySet[Shot]:
    """Return the balls of a lesson in order."""
    return lesson.shots.order_by("number")


def shot_of(coach: Coach, shot_id: int) -> Shot:
    """Return one ball of the academy's lessons."""
    shot = Shot.objects.filter(open_to(coach, "lesson"), pk=shot_id).select_related("block").first()
    if shot is None:
        raise not_found("ball")
    return shot


def baseline_balls(lesson: Lesson, club: str = "") -> Balls:
    """Return the lesson's baseline with its club, or with another."""
    return balls_of(_baseline_shots(lesson), lesson, club)


def baseline_of(lesson: Lesson) -> Baseline:
    """Return the lesson's baseline with every club."""
    rows = list(_baseline_shots(lesson).values_list(*COLUMNS))
    others = sorted({club for row in rows if (club := row[CLUB])} - {lesson.club}, key=list(vocabulary().clubs).index)
    return Baseline(
        lesson=lesson,
        own=_balls([row for row in rows if row[CLUB] in ("", lesson.club)], lesson),
        others={club: _balls([row for row in rows if row[CLUB] == club], lesson, club) for club in others},
    )


def _baseline_shots(lesson: Lesson) -> QuerySet[Shot]:
    return shots_of(lesson).filter(block__purpose=Purpose.BASELINE)


def unassigned_in(bay: Bay) -> QuerySet[Shot]:
    """Return the unassigned balls of a bay, in order."""
    return bay.shots.filter(lesson__isnull=True).order_by("pk")


def balls_of(shots: QuerySet[Shot], lesson: Lesson, club_id: str = "") -> Balls:
    """Return balls of the lesson's club, or of another, as a block of the core."""
    rows = shots.filter(club__in=("", club_id or lesson.club)).values_list(*COLUMNS)
    return _balls(list(rows), lesson, club_id)


def _balls(rows: Sequence[tuple[Any, ...]], lesson: Lesson, club_id: str = "") -> Balls:
    """Build the block from columns; ball by ball would take longer than judging it."""
    result = {name: tuple(row[i] for row in rows) for i, name in enumerate(COLUMNS)}
    nothing = (None,) * len(rows)
    columns = {name: result.get(name, nothing) for name in (*METRICS, *OF_A_BALL)}
    columns |= {name: tuple(text or None for text in columns[name]) for name in TEXTS}
    columns["by_hand"] = tuple(further.get("entered") == "hand" for further in result["extra"])
    block = block_from(columns, lesson.golfer, lesson.club_row(club_id))
    return Balls(block, list(result["pk"]), _places(result["set_aside"]))


def balls_among(shots: Sequence[Shot], lesson: Lesson, club_id: str = "") -> Balls:
    """Return balls of one club as a block of the core."""
    block = block_of([s.to_record() for s in shots], lesson.golfer, lesson.club_row(club_id))
    return Balls(block, [s.pk for s in shots], _places([s.set_aside for s in shots]))


def _places(set_aside: Sequence[str]) -> frozenset[int]:
    return frozenset(i for i, why in enumerate(set_aside) if why)


def record_of(shot: CoreShot) -> dict[str, Any]:
    """Return a checked record of the core as its document."""
    texts = ("shot_id", "club", "hand", "turf", "movement", "mark_basis", "stage", "intent", "note")
    record = {name: getattr(shot, name) for name in (*texts, *SHARES, *PIVOT)} | {
        "at": shot.at.isoformat() if shot.at else None
    }
    return {k: v for k, v in {**shot.extra, **shot.values, **record}.items() if v not in (None, "")}


def as_record(shot: Shot) -> dict[str, Any]:
    """Return a ball in the open format."""
    record = {"shot_id": shot.shot_id, "at": shot.at.isoformat().replace("+00:00", "Z") if shot.at else None}
    for name in ("club", "hand", *METRICS, *SHARES, "turf", "movement", "mark_basis", "stage", "intent", "note"):
        record[name] = getattr(shot, name)
    return {k: v for k, v in {**shot.extra, **record}.items() if v not in (None, "")}

"""Refused records: stored unchanged, and added later at their position, once."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime
from enum import StrEnum
from typing import Any

from instavis.capture.devices.models import Bay, Device, RefusedBall
from instavis.capture.shots.models import Shot
from instavis.capture.shots.placing import put_in_place
from instavis.capture.shots.services import check_hand, fields_of
from instavis.lessons.events import locked_lesson
from instavis.lessons.models import Lesson
from instavis.platform.errors import Problem
from instavis.platform.transactions import transactional
from instavis_core.errors import InputError
from instavis_core.golfer import for_other_hand
from instavis_core.message import Message
from instavis_core.shots import Shot as ShotRecord
from instavis_core.shots import read_shot

MAX_TEXT = 60_000  # of one record; anything longer from a device is cut
MAX_DROPPED = 40


class How(StrEnum):
    """How a refused record becomes a ball."""

    AS_IT_IS = "as-it-is"
    """Its sides are right; only the hand it names is wrong."""
    MIRRORED = "mirrored"
    """The monitor was set to the other hand and reversed every side."""
    WITHOUT = "without"
    """Without the values that cannot be read."""


def as_text(raw: Any) -> str:
    """Return a record as JSON text that any database can store."""
    try:
        return json.dumps(raw, sort_keys=True)
    except RecursionError:
        return json.dumps("a record nested too deeply to be stored")


def digest_of(text: str) -> str:
    """Return what identifies a record."""
    return hashlib.sha256(text.encode()).hexdigest()


def keep_refused(
    device: Device, lesson: Lesson | None, raw: Any, problem: Problem, reason: RefusedBall.Reason, now: datetime
) -> bool:
    """Store a refused record; return False if it is stored already."""
    text = as_text(raw)
    sequence = raw.get("device_sequence") if isinstance(raw, dict) else None
    known = type(sequence) is int and 0 <= sequence < 2**53
    _, made = RefusedBall.objects.get_or_create(
        device=device,
        digest=digest_of(text),
        defaults={
            "bay": device.bay,
            "lesson": lesson,
            "device_sequence": sequence if known else None,
            "raw": text[:MAX_TEXT],
            "reason": reason,
            "field": _plain(problem.field)[:80],
            "message": problem.message,
            "received_at": now,
        },
    )
    return made


def _plain(text: str) -> str:
    return text.encode("utf-8", "backslashreplace").decode()


@transactional
def take_refused(lesson: Lesson, bay: Bay, refused_ids: Sequence[int], how: How, now: datetime) -> list[Shot]:
    """Add refused records to a lesson, at the positions where they would be.

    Raises
    ------
    InputError
        For records that are not kept in this bay (any more), or that cannot be taken in this way; none is taken then.
    """
    locked = locked_lesson(lesson.pk)
    rows = list(bay.refused.select_for_update().filter(pk__in=refused_ids, settled_at__isnull=True))
    if len(rows) != len(set(refused_ids)):
        missing = len(set(refused_ids)) - len(rows)
        raise InputError("refused_ids", Message("found-of-them", n=missing), Message("bays-records-stored-bay"))
    used = set(
        Shot.objects.filter(device_id__in=[r.device_id for r in rows]).values_list("device_id", "device_sequence")
    )
    shots = []
    for row in rows:
        record = _record(row, locked, how)
        number = row.device_sequence if (row.device_id, row.device_sequence) not in used else None
        shots.append(
            Shot(
                academy_id=locked.academy_id,
                bay_id=row.bay_id,
                device_id=row.device_id,
                device_sequence=number,
                received_at=row.received_at,
                **fields_of(record, locked.club, ""),
            )
        )
    put_in_place(locked, shots, now)
    for row, shot in zip(rows, shots, strict=True):
        row.settled_at, row.shot = now, shot
    RefusedBall.objects.bulk_update(rows, ["settled_at", "shot"])
    return shots


@transactional
def leave_refused(bay: Bay, refused_ids: Sequence[int], left: bool, now: datetime) -> None:
    """Dismiss refused records, or restore them; they stay in the database."""
    bay.refused.filter(pk__in=refused_ids, shot__isnull=True).update(settled_at=now if left else None)


def _record(row: RefusedBall, lesson: Lesson, how: How) -> ShotRecord:
    try:
        raw = json.loads(row.raw)
    except ValueError:
        raw = None
    if not isinstance(raw, dict):
        raise InputError("refused_ids", row.pk, Message("bays-record-object-fields-one-can"))
    raw = {name: value for name, value in raw.items() if name != "device_sequence"}
    record = _without_bad(raw) if how is How.WITHOUT else read_shot(raw)
    if how is How.MIRRORED:
        record = replace(record, values=for_other_hand(record.values))
    if how is not How.WITHOUT and record.hand != lesson.hand:
        record = replace(record, hand=None)
    check_hand(record, lesson)
    return record


def _without_bad(raw: dict[str, Any]) -> ShotRecord:
    """Return the record without unreadable fields."""
    for _ in range(MAX_DROPPED):
        try:
            return read_shot(raw)
        except InputError as error:
            named = [name for name in raw if name[:60] == error.field]
            if not named:
                raise
            raw = {name: value for name, value in raw.items() if name not in named}
    raise InputError(
        "refused_ids",
        Message("found-record"),
        Message("bays-most-unreadable-fields", most=MAX_DROPPED),
    )

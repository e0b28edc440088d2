"""Changes to balls: store, mark, exclude."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.dispatch import Signal

from instavis.capture.devices.models import Bay
from instavis.capture.shots.bulk import insert_shots
from instavis.capture.shots.models import Shot
from instavis.capture.shots.schemas import ShotOut
from instavis.lessons.events import Aspect, locked_lesson, log, log_change
from instavis.lessons.models import Block, Lesson
from instavis.platform.errors import not_found
from instavis.platform.transactions import transactional
from instavis_core.errors import InputError
from instavis_core.lesson import ball_by_hand, flight_is_visible
from instavis_core.message import Message
from instavis_core.shots import CHOICES, LONGEST_TEXT, PIVOT, read_club, read_shot
from instavis_core.shots import Shot as ShotRecord
from instavis_core.terms import MarkBasis, Purpose

LONGEST_REASON = 120
unmarked = Signal()
"""A coach removed the mark of a movement; sent with ``lesson``, which is locked, and ``shot``."""
MAX_SENT_SINGLY = 500


@dataclass(frozen=True)
class Origin:
    """The origin of balls: a device with its sequence numbers, or none for files and by hand."""

    device_id: int | None = None
    bay_id: int | None = None
    sequences: Sequence[int] = ()


def check_hand(record: ShotRecord, lesson: Lesson) -> None:
    """Refuse a ball of the other hand.

    Raises
    ------
    InputError
    """
    if record.hand is not None and record.hand != lesson.hand:
        raise InputError(
            "hand",
            record.hand,
            Message(
                "bays-plays-handed",
                hand=Message(f"common-{lesson.hand}"),
                name=lesson.student.name,
                side=Message(f"common-{lesson.hand}"),
            ),
        )


def record_shots(
    lesson: Lesson,
    records: Sequence[ShotRecord],
    now: datetime,
    origin: Origin,
    block: Block | None = None,
) -> list[Shot]:
    """Store balls in a locked lesson, in the given order, and notify its screens.

    The caller holds the transaction and the lesson's lock. Balls whose ``shot_id`` the lesson already has are left out,
    so a file may be sent twice.
    """
    block = block or lesson.open_block or _baseline(lesson, now)
    known = set(
        lesson.shots.filter(shot_id__in=[r.shot_id for r in records if r.shot_id]).values_list("shot_id", flat=True)
    )
    hit_before = block.shots.count() if block.purpose == Purpose.TRIAL else 0
    shots: list[Shot] = []
    for i, record in enumerate(records):
        if record.shot_id in known:
            continue
        lesson.last_ball += 1
        shots.append(
            Shot(
                academy_id=lesson.academy_id,
                lesson=lesson,
                block=block,
                bay_id=origin.bay_id,
                device_id=origin.device_id,
                device_sequence=origin.sequences[i] if origin.sequences else None,
                number=lesson.last_ball,
                received_at=now,
                **_called(block, hit_before + len(shots), fields_of(record, lesson.club, block.stage)),
            )
        )
        if record.shot_id:
            known.add(record.shot_id)
    Shot.objects.bulk_create(shots, batch_size=500)
    _end_calls(lesson, block, hit_before + len(shots), now)
    log(lesson, "ball", [_shown(s) for s in shots])
    return shots


def _end_calls(lesson: Lesson, block: Block, hit: int, now: datetime) -> None:
    """End the calls of a proof; the next balls prove the correction as before."""
    if block.purpose == Purpose.TRIAL and block.correction_id and hit >= len(block.trial.order):
        block.trial.end(now)
        lesson.open_block = block.before


def record_many(lesson: Lesson, records: Sequence[ShotRecord], now: datetime, block: Block, known: set[str]) -> int:
    """Store a batch out of thousands: like `record_shots`, but fast and without a notification for each ball.

    The caller holds the transaction and the lesson's lock, and notifies the screens at the end. ``known`` are the ids
    the lesson has; new ones are added to it. Return the number of new balls.
    """
    shared = {"academy_id": lesson.academy_id, "lesson_id": lesson.pk, "block_id": block.pk, "received_at": now}
    rows = []
    for record in records:
        if record.shot_id in known:
            continue
        if record.shot_id:
            known.add(record.shot_id)
        lesson.last_ball += 1
        rows.append({**shared, "number": lesson.last_ball, **fields_of(record, lesson.club, block.stage)})
    insert_shots(rows)
    return len(rows)


def store_unassigned(records: Sequence[ShotRecord], now: datetime, academy_id: int, origin: Origin) -> None:
    """Store balls that came while no lesson was active in the bay."""
    Shot.objects.bulk_create(
        Shot(
            academy_id=academy_id,
            bay_id=origin.bay_id,
            device_id=origin.device_id,
            device_sequence=origin.sequences[i],
            received_at=now,
            **fields_of(record, "", ""),
        )
        for i, record in enumerate(records)
    )


@transactional
def import_shots(lesson: Lesson, records: Sequence[ShotRecord], purpose: str, now: datetime) -> int:
    """Store the balls of a file in their own block; all or none.

    Return how many were new. A few are announced ball by ball; for many, the screens only reload.

    Raises
    ------
    InputError
        Naming the ball's place in the file when it was hit from the wrong side.
    """
    lesson = locked_lesson(lesson.pk)
    for i, record in enumerate(records):
        try:
            check_hand(record, lesson)
        except InputError as error:
            raise error.inside(f"ball {i + 1}") from None
    block = lesson.open_block if purpose == Purpose.PROVE else None
    if block is None or block.purpose != purpose:
        block = Block.objects.create(lesson=lesson, purpose=Purpose.BASELINE, opened_at=now)
    if len(records) <= MAX_SENT_SINGLY:
        return len(record_shots(lesson, records, now, Origin(), block))
    stored = record_many(lesson, records, now, block, set(lesson.shots.values_list("shot_id", flat=True)))
    log_change(lesson, Aspect.SHOTS)
    return stored


@transactional
def add_by_hand(lesson: Lesson, start: str, curve: str, contact: str, now: datetime) -> Shot:
    """Store a ball from words.

    Raises
    ------
    InputError
        For an unknown word.
    """
    record = read_shot(ball_by_hand(start, curve, contact))
    return record_shots(locked_lesson(lesson.pk), [record], now, Origin())[0]


@transactional
def claim_balls(lesson: Lesson, bay: Bay, shot_ids: Sequence[int], now: datetime) -> list[Shot]:
    """Add unassigned balls of a bay to the lesson's open block, in order.

    Raises
    ------
    InputError
        For balls that are not in the tray (any more), or hit from the other side.
    """
    lesson = locked_lesson(lesson.pk)
    shots = list(bay.shots.select_for_update().filter(pk__in=shot_ids, lesson__isnull=True).order_by("pk"))
    if len(shots) != len(set(shot_ids)):
        raise InputError(
            "shot_ids",
            Message("found-of-them", n=len(set(shot_ids)) - len(shots)),
            Message("bays-unassigned-balls-bay"),
        )
    block = lesson.open_block or _baseline(lesson, now)
    taken = set(lesson.shots.filter(shot_id__in=[s.shot_id for s in shots]).values_list("shot_id", flat=True))
    for shot in shots:
        check_hand(shot.to_record(), lesson)
        lesson.last_ball += 1
        shot.lesson, shot.block, shot.number = lesson, block, lesson.last_ball
        shot.club, shot.stage = shot.club or lesson.club, shot.stage or block.stage
        if shot.shot_id in taken:
            shot.shot_id = str(uuid.uuid4())
    Shot.objects.bulk_update(shots, ["lesson", "block", "number", "club", "stage", "shot_id"])
    log(lesson, "ball", [_shown(s) for s in shots])
    return shots


@transactional
def mark_shots(lesson: Lesson, shot_ids: Sequence[int], marks: dict[str, str]) -> list[Shot]:
    """Set the same marks on several balls of a lesson: all or none.

    Raises
    ------
    InputError
        For an unknown word, a text that is too long, or a ball of another lesson.
    """
    shots = list(lesson.shots.filter(pk__in=shot_ids).select_related("block"))
    if len(shots) != len(set(shot_ids)):
        raise InputError(
            "shot_ids", Message("found-of-them", n=len(set(shot_ids)) - len(shots)), Message("bays-balls-lesson")
        )
    return [mark_shot(shot, marks) for shot in shots]


@transactional
def mark_shot(shot: Shot, marks: dict[str, str]) -> Shot:
    """Set a ball's movement, turf, intent, club or note, or exclude it with a reason (empty undoes it).

    A movement is blind only if it is marked as such, the ball was hidden until then and the coach could not see it
    fly; anything else that shows the ball, including excluding it, makes it seen.

    Raises
    ------
    InputError
        For an unknown word or a text that is too long.
    """
    if shot.lesson_id is None:
        raise not_found("ball-of-a-lesson")
    lesson = locked_lesson(shot.lesson_id)
    shot = Shot.objects.select_for_update().get(pk=shot.pk)
    for name, value in marks.items():
        if name == "club":
            read_club(value)
        if value and name in CHOICES and value not in CHOICES[name]:
            raise InputError(name, value, Message("common-one", known=", ".join(CHOICES[name])))
        longest = LONGEST_TEXT.get(name, LONGEST_REASON)
        if len(value) > longest:
            raise InputError(name, value, Message("common-text-most-characters", longest=longest))
    covered = shot.covered
    for name, value in marks.items():
        setattr(shot, name, value)
    if "movement" in marks or "mark_basis" in marks or covered != shot.covered:
        hidden = covered and not flight_is_visible(shot.block.conditions if shot.block else {})
        blind = hidden and bool(marks.get("movement")) and marks.get("mark_basis") == MarkBasis.BLIND
        shot.mark_basis = MarkBasis.BLIND if blind else MarkBasis.SEEN
    shot.save(update_fields=[*marks, "mark_basis"])
    log(lesson, "ball", [_shown(shot) | {"marked": sorted(marks)}])
    if marks.get("movement") == "":
        unmarked.send(Shot, lesson=lesson, shot=shot)
        shot.refresh_from_db()
    return shot


def fill_shot(shot: Shot, values: Mapping[str, float]) -> None:
    """Add missing values to a ball and notify its screens; existing values stay.

    The caller holds the transaction.
    """
    lesson = locked_lesson(shot.lesson_id) if shot.lesson_id else None
    shot = Shot.objects.select_for_update().get(pk=shot.pk)
    added = [metric for metric, value in values.items() if getattr(shot, metric) is None and value is not None]
    for metric in added:
        setattr(shot, metric, values[metric])
    if not added:
        return
    shot.save(update_fields=added)
    if lesson is not None:
        log(lesson, "ball", [_shown(shot)])


def mark_measured(lesson: Lesson, marks: Mapping[int, str]) -> None:
    """Mark balls of a locked lesson by instrument (empty: no instrument), where no coach marked them."""
    shots = lesson.shots.select_for_update().filter(pk__in=marks).select_related("block")
    changed = []
    for shot in shots:
        own = shot.mark_basis == MarkBasis.MEASURED
        if shot.movement == marks[shot.pk] or (shot.movement and not own):
            continue
        shot.movement = marks[shot.pk]
        shot.mark_basis = MarkBasis.MEASURED if shot.movement else ""
        changed.append(shot)
    Shot.objects.bulk_update(changed, ["movement", "mark_basis"])
    log(lesson, "ball", [_shown(shot) | {"marked": ["movement"]} for shot in changed])


def _shown(shot: Shot) -> dict[str, Any]:
    """Return a ball as a screen receives it over the live connection."""
    return ShotOut.from_orm(shot).dict(mode="json")


def _baseline(lesson: Lesson, now: datetime) -> Block:
    lesson.open_block = Block.objects.create(lesson=lesson, purpose=Purpose.BASELINE, opened_at=now)
    return lesson.open_block


def _called(block: Block, place: int, fields: dict[str, Any]) -> dict[str, Any]:
    """Assume that a ball of a comparison was hit as called, until the coach marks it otherwise."""
    if block.purpose != Purpose.TRIAL or fields["intent"]:
        return fields
    return fields | {"intent": block.trial.call(place)}


def fields_of(record: ShotRecord, club: str, stage: str) -> dict[str, Any]:
    """Return a checked record as the columns of a stored ball."""
    return {
        **record.values,
        "shot_id": record.shot_id or str(uuid.uuid4()),
        "at": record.at,
        "club": record.club or club,
        "hand": record.hand or "",
        "turf": record.turf or "",
        "movement": record.movement or "",
        "mark_basis": record.mark_basis or "",
        "movement_dose": record.movement_dose,
        "movement_dose_sd": record.movement_dose_sd,
        "stage": record.stage or stage,
        "intent": record.intent or "",
        "note": record.note,
        # A device's values of the body are stored unchanged; the values for a correction are measured from recordings.
        "extra": record.extra | {name: v for name in PIVOT if (v := getattr(record, name)) is not None},
    }

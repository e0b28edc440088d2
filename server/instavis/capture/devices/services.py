"""Devices: create, revoke, and store their balls exactly once."""

from __future__ import annotations

import logging
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

from django.db import transaction
from django.db.models import Q

from instavis.accounts.models import Academy
from instavis.capture.devices.models import Bay, Device, RefusedBall
from instavis.capture.devices.refusals import as_text, digest_of, keep_refused
from instavis.capture.shots.services import Origin, check_hand, record_shots, store_unassigned
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import Lesson
from instavis.platform.errors import Problem, Refused, problem_of
from instavis.platform.keys import hash_token
from instavis.platform.transactions import line_is_gone, lost_to_another, transactional
from instavis_core.errors import InputError
from instavis_core.golfer import HANDS
from instavis_core.message import Message, plain
from instavis_core.shots import Shot as ShotRecord
from instavis_core.shots import read_shot

logger = logging.getLogger(__name__)

MAX_SEQUENCE = 2**53
SEEN_EVERY = timedelta(seconds=20)  # precision of a device's last contact


@dataclass
class Receipt:
    """Result of a batch: stored, already known, refused (by position)."""

    stored: int = 0
    known: int = 0
    refused: list[tuple[int, Problem]] = field(default_factory=list)


def create_bay(academy: Academy, name: str) -> Bay:
    """Create a bay.

    Raises
    ------
    InputError
        For an empty name or one that another bay has.
    """
    name = name.strip()
    if not name or academy.bays.filter(name=name).exists():
        raise InputError("name", name, Message("bays-name-no-other-bay"))
    return Bay.objects.create(academy=academy, name=name)


def issue_device(bay: Bay, name: str) -> tuple[Device, str]:
    """Create a device for a bay and its token, shown only now."""
    token = Device.new_token()
    name = name.strip()
    if not name:
        raise InputError("name", name, Message("bays-name-device"))
    return Device.objects.create(bay=bay, name=name, token_hash=hash_token(token)), token


def roll_device(device: Device) -> tuple[Device, str]:
    """Replace a device's token; the old one is refused. Its ball numbers continue.

    Raises
    ------
    Refused
        For a revoked device.
    """
    if device.revoked_at is not None:
        raise Refused(409, "device", Message("bays-device-revoked-issue-new-one"))
    token = Device.new_token()
    device.token_hash = hash_token(token)
    device.save(update_fields=["token_hash"])
    return device, token


def revoke_device(device: Device, now: datetime) -> Device:
    """Refuse the device from now on."""
    device.revoked_at = device.revoked_at or now
    device.save(update_fields=["revoked_at"])
    return device


@dataclass(kw_only=True)
class _Incoming:
    """An incoming record: its position in the batch, as it arrived and as it was read."""

    place: int
    raw: Any
    sequence: int
    record: ShotRecord


@transactional
def receive_shots(device: Device, batch: Sequence[Any], now: datetime, to_lesson: bool = True) -> Receipt:
    """Store a batch of shot records with ``device_sequence``, in the active lesson or unassigned.

    A device that did not receive the answer sends the same balls again; they are counted as known. A record that cannot
    be accepted is refused alone and stored unchanged, whatever is wrong with it: no ball blocks those behind it.
    """
    # One batch of a device at a time: a retry that overtakes its first try waits here and finds it stored.
    device = Device.objects.select_for_update().select_related("bay").get(pk=device.pk)
    lesson = locked_lesson(device.bay.lesson_id) if device.bay.lesson_id and to_lesson else None
    intake = _Intake(device, lesson, now)
    fresh = intake.known_left_out(intake.read(batch))
    intake.store(fresh)
    if intake.newly_refused and intake.lesson is not None:
        log_change(intake.lesson, Aspect.REFUSED)
    if device.seen_at is None or now - device.seen_at > SEEN_EVERY:
        device.seen_at = now
        device.save(update_fields=["seen_at"])
    return intake.receipt


class _Intake:
    """One batch of one device: read, compared with known balls, stored, or refused."""

    def __init__(self, device: Device, lesson: Lesson | None, now: datetime) -> None:
        self.device, self.lesson, self.now = device, lesson, now
        self.receipt = Receipt()
        self.newly_refused = False

    def read(self, batch: Sequence[Any]) -> list[_Incoming]:
        """Return the readable records that were not refused before."""
        texts = [as_text(raw) for raw in batch]
        seen = self._refused_before(texts)
        good: dict[int, _Incoming] = {}
        for place, (raw, text) in enumerate(zip(batch, texts, strict=True)):
            if (before := seen.get(digest_of(text))) is not None:
                self._again(place, before)
                continue
            try:
                sequence, record = _read(raw)
                if self.lesson is not None:
                    check_hand(record, self.lesson)
            except InputError as error:
                other = error.field == "hand" and error.value in HANDS
                reason = RefusedBall.Reason.OTHER_HAND if other else RefusedBall.Reason.UNREADABLE
                self.refuse(place, raw, problem_of(error), reason)
            except Exception:
                logger.exception("a record of device %s could not be read", self.device.pk)
                problem = Problem(
                    field="shot", message=Message("bays-record-cant-read"), expected=Message("bays-shot-record")
                )
                self.refuse(place, raw, problem, RefusedBall.Reason.UNREADABLE)
            else:
                if sequence in good:
                    self.receipt.known += 1
                else:
                    good[sequence] = _Incoming(place=place, raw=raw, sequence=sequence, record=record)
        return list(good.values())

    def known_left_out(self, incoming: list[_Incoming]) -> list[_Incoming]:
        """Return new records in the device's order; another ball under a used number is refused."""
        stored = {
            s.device_sequence: s for s in self.device.shots.filter(device_sequence__in=[i.sequence for i in incoming])
        }
        fresh = []
        for one in sorted(incoming, key=lambda i: i.sequence):
            known = stored.get(one.sequence)
            if known is None:
                fresh.append(one)
            elif _same_ball(one.record, known.to_record()):
                self.receipt.known += 1
            else:
                problem = Problem(
                    field="device_sequence",
                    message=Message("bays-device-sequence-used-another-ball", number=one.sequence),
                    value=plain(str(one.sequence)),
                    expected=Message("bays-unique-number-every-ball-also"),
                )
                self.refuse(one.place, one.raw, problem, RefusedBall.Reason.NUMBER_TAKEN)
        return fresh

    def store(self, incoming: list[_Incoming]) -> None:
        """Store all at once; if the database refuses, one by one, so that only the bad one is refused."""
        if not incoming:
            return
        try:
            with transaction.atomic():
                stored = self._write(incoming)
        except Exception as error:
            if lost_to_another(error) or line_is_gone(error):
                raise  # the records are fine: the whole batch is sent again later
            if self.lesson is not None:  # its counters are ahead of what was rolled back
                self.lesson = locked_lesson(self.lesson.pk)
            if len(incoming) == 1:
                logger.exception("a record of device %s could not be stored", self.device.pk)
                problem = Problem(
                    field="shot", message=Message("bays-record-cant-stored"), expected=Message("bays-shot-record")
                )
                self.refuse(incoming[0].place, incoming[0].raw, problem, RefusedBall.Reason.UNSTORABLE)
                return
            for one in incoming:
                self.store([one])
        else:
            self.receipt.stored += stored
            self.receipt.known += len(incoming) - stored

    def _write(self, incoming: list[_Incoming]) -> int:
        origin = Origin(self.device.pk, self.device.bay_id, [i.sequence for i in incoming])
        records = [i.record for i in incoming]
        if self.lesson is not None:
            return len(record_shots(self.lesson, records, self.now, origin))
        store_unassigned(records, self.now, self.device.bay.academy_id, origin)
        return len(records)

    def refuse(self, place: int, raw: Any, problem: Problem, reason: RefusedBall.Reason) -> None:
        """Refuse a record and store it."""
        self.receipt.refused.append((place, problem))
        self.newly_refused |= keep_refused(self.device, self.lesson, raw, problem, reason, self.now)

    def _refused_before(self, texts: list[str]) -> dict[str, RefusedBall]:
        rows = self.device.refused.filter(digest__in=[digest_of(text) for text in texts])
        return {row.digest: row for row in rows}

    def _again(self, place: int, before: RefusedBall) -> None:
        if before.shot_id is not None:
            self.receipt.known += 1
        else:
            self.receipt.refused.append((place, Problem(field=before.field, message=before.message)))


def _same_ball(sent: ShotRecord, stored: ShotRecord) -> bool:
    """Return True if a device repeats a stored ball: by its key if there is one, otherwise by its values."""
    return sent.shot_id == stored.shot_id if sent.shot_id else sent.values == stored.values


def _read(raw: Any) -> tuple[int, ShotRecord]:
    if not isinstance(raw, dict):
        raise InputError("shot", raw, Message("common-object"))
    raw = dict(raw)
    sequence = read_sequence(raw.pop("device_sequence", None))
    record = read_shot(raw)
    if not record.values:
        raise InputError("shot", Message("found-no-measured-value"), Message("bays-least-one-measured-value-such"))
    return sequence, record


def read_sequence(value: Any) -> int:
    """Check the device's number of a record.

    Raises
    ------
    InputError
        For anything but a whole number from 0.
    """
    if isinstance(value, bool) or not isinstance(value, int) or not 0 <= value < MAX_SEQUENCE:
        raise InputError("device_sequence", value, Message("bays-whole-number-0-grows-every"))
    return value


@transactional
def take_bay(lesson: Lesson, bay: Bay | None) -> None:
    """Give this lesson the turn in a bay; None leaves every bay.

    Lessons that had the bay before keep their turns, so students can change over with one tap.
    """
    # One order of locks for everyone, as for a device's batch: bays by their keys, then lessons by theirs.
    touched = Q(lesson=lesson) | Q(turns=lesson) | Q(pk=bay.pk if bay else None)
    keys = sorted(set(Bay.objects.filter(touched).values_list("pk", flat=True)))
    held = list(Bay.objects.select_for_update().filter(pk__in=keys).order_by("pk"))
    result = {lesson.pk}
    if bay is not None:
        result |= set(bay.turns.values_list("pk", flat=True))
    lessons = {lesson_id: locked_lesson(lesson_id) for lesson_id in sorted(result)}
    for one in held:
        if bay is not None and one.pk == bay.pk:
            one.lesson = lesson
            one.turns.add(lesson)
        else:
            one.lesson = None if one.lesson_id == lesson.pk else one.lesson
            one.turns.remove(lesson)
        one.save(update_fields=["lesson"])
    for locked in lessons.values():
        log_change(locked, Aspect.BAY)

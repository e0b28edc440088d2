"""Devices: issuing and revoking them, and taking in their balls exactly once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

from django.db import transaction

from instavis.config.errors import Problem, Refused, problem_of
from instavis.devices.models import Bay, Device, hash_token
from instavis.lessons.events import locked_lesson
from instavis.people.models import Academy
from instavis.shots.services import Origin, check_hand, keep_in_tray, record_shots
from instavis_core.errors import InputError
from instavis_core.shots import Shot as ShotRecord
from instavis_core.shots import read_shot

MOST_SEQUENCE = 2**53
SEEN_EVERY = timedelta(seconds=20)  # how exactly a device's last sign of life is known


@dataclass
class Receipt:
    """What became of a batch: stored, already known, refused (by place in the batch)."""

    stored: int = 0
    known: int = 0
    refused: list[tuple[int, Problem]] = field(default_factory=list)


def create_bay(academy: Academy, name: str) -> Bay:
    """A new bay.

    Raises
    ------
    InputError
        For an empty name or one that another bay has.
    """
    name = name.strip()
    if not name or academy.bays.filter(name=name).exists():
        raise InputError("name", name, "a name that no other bay has")
    return Bay.objects.create(academy=academy, name=name)


def issue_device(bay: Bay, name: str) -> tuple[Device, str]:
    """A new device for a bay and its token, which is told only now."""
    token = Device.new_token()
    name = name.strip()
    if not name:
        raise InputError("name", name, "a name for the device")
    return Device.objects.create(bay=bay, name=name, token_hash=hash_token(token)), token


def roll_device(device: Device) -> tuple[Device, str]:
    """A new token for a device; the old one is refused from now on. Its numbering of balls goes on.

    Raises
    ------
    Refused
        For a revoked device.
    """
    if device.revoked_at is not None:
        raise Refused(409, "device", "This device is revoked. Issue a new one.")
    token = Device.new_token()
    device.token_hash = hash_token(token)
    device.save(update_fields=["token_hash"])
    return device, token


def revoke_device(device: Device, now: datetime) -> Device:
    """Refuse the device from now on."""
    device.revoked_at = device.revoked_at or now
    device.save(update_fields=["revoked_at"])
    return device


@transaction.atomic
def receive_shots(device: Device, batch: Sequence[Any], now: datetime) -> Receipt:
    """Take in a batch of shot records with ``device_sequence``.

    A device that did not hear the answer sends the same balls again: those are counted as known. A
    record that cannot be read is refused by itself, so that it does not block the ones behind it.
    """
    receipt = Receipt()
    # One batch of a device at a time: a retry that overtakes its first try waits here and finds it stored.
    device = Device.objects.select_for_update().select_related("bay").get(pk=device.pk)
    lesson = locked_lesson(device.bay.lesson_id) if device.bay.lesson_id else None
    fresh: dict[int, ShotRecord] = {}
    for place, raw in enumerate(batch):
        try:
            sequence, record = _read(raw)
            if lesson is not None:
                check_hand(record, lesson)
        except InputError as error:
            receipt.refused.append((place, problem_of(error)))
            continue
        if sequence in fresh:
            receipt.known += 1
        else:
            fresh[sequence] = record
    known = set(device.shots.filter(device_sequence__in=fresh).values_list("device_sequence", flat=True))
    receipt.known += len(known)
    new = sorted(s for s in fresh if s not in known)
    origin = Origin(device.pk, device.bay_id, new)
    records = [fresh[s] for s in new]
    if records and lesson is not None:
        receipt.stored = len(record_shots(lesson, records, now, origin))
        receipt.known += len(records) - receipt.stored
    elif records:
        keep_in_tray(records, now, device.bay.academy_id, origin)
        receipt.stored = len(records)
    if device.seen_at is None or now - device.seen_at > SEEN_EVERY:
        device.seen_at = now
        device.save(update_fields=["seen_at"])
    return receipt


def _read(raw: Any) -> tuple[int, ShotRecord]:
    if not isinstance(raw, dict):
        raise InputError("shot", raw, "an object")
    raw = dict(raw)
    sequence = read_sequence(raw.pop("device_sequence", None))
    return sequence, read_shot(raw)


def read_sequence(value: Any) -> int:
    """The number a device gives to what it sends.

    Raises
    ------
    InputError
        For anything but a whole number from 0.
    """
    if isinstance(value, bool) or not isinstance(value, int) or not 0 <= value < MOST_SEQUENCE:
        raise InputError("device_sequence", value, "a whole number from 0, one more for every ball")
    return value

"""Bridges in a bay: pairing, state, disconnecting."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from django.core.cache import cache

from instavis.capture.bridges.models import Bridge
from instavis.capture.devices.models import Bay, Device
from instavis.capture.devices.services import issue_device, revoke_device
from instavis.platform.pairing import pair
from instavis.platform.transactions import transactional
from instavis_core.message import Message

HEARD_FOR = 15  # s for which a bridge counts as connected after its last report
WRONG = Message("bays-code-not-valid-bridge-ask")
MAX_PROBLEM_LENGTH = 200


@dataclass(frozen=True, kw_only=True)
class Heard:
    """A bridge's state: source, rows to be sent, clock, problem."""

    source: str
    waiting: int
    clock_off_s: float
    problem: str


@transactional
def offer_bridge(bay: Bay, now: datetime) -> tuple[Bridge, str]:
    """Create a code for a bridge of a bay, shown only now; unused codes expire."""
    locked = Bay.objects.select_for_update().get(pk=bay.pk)
    locked.bridges.filter(paired_at__isnull=True, ended_at__isnull=True).update(ended_at=now)
    bridge = Bridge(bay=locked)
    code = bridge.offer(now)
    bridge.save()
    return bridge, code


@transactional
def pair_bridge(code: str, name: str, address: str, now: datetime) -> tuple[Device, str]:
    """Return the device a bridge becomes, and its token; each code pairs one.

    Raises
    ------
    InputError
        For an empty name.
    Refused
        For a wrong or used code, and for too many wrong ones.
    """
    bridge, _ = pair(Bridge, "bridge", code, address, now, WRONG)
    bridge.device, token = issue_device(bridge.bay, name)
    bridge.save(update_fields=["device"])
    return bridge.device, token


@transactional
def end_bridge(bridge: Bridge, now: datetime) -> None:
    """Refuse a bridge from now on; its balls stay."""
    bridge.ended_at = bridge.ended_at or now
    bridge.save(update_fields=["ended_at"])
    if bridge.device is not None:
        revoke_device(bridge.device, now)


def hear(device: Device, heard: Heard) -> None:
    """Remember a bridge's state for a while."""
    result = vars(heard) | {"problem": heard.problem[:MAX_PROBLEM_LENGTH], "source": heard.source[:MAX_PROBLEM_LENGTH]}
    cache.set(_key(device.pk), result, HEARD_FOR)


def heard_of(device_ids: Sequence[int]) -> dict[int, Heard]:
    """Return the recent states of bridges by device key; silent ones are left out."""
    by_key = {_key(pk): pk for pk in device_ids}
    return {by_key[key]: Heard(**result) for key, result in cache.get_many(by_key).items()}


def _key(device_id: int) -> str:
    return f"bridge-{device_id}"

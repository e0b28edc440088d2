"""Reads of bays and devices."""

from __future__ import annotations

from django.db.models import Count, Q, QuerySet

from instavis.config.errors import not_found
from instavis.devices.models import Bay, Device, hash_token
from instavis.people.models import Coach


def bays_of(coach: Coach) -> QuerySet[Bay]:
    """Bays of the academy with their devices and the balls waiting in their trays."""
    return coach.academy.bays.prefetch_related("devices").annotate(
        tray=Count("shots", filter=Q(shots__lesson__isnull=True))
    )


def bay_of(coach: Coach, bay_id: int) -> Bay:
    """One bay of the academy."""
    bay = bays_of(coach).filter(pk=bay_id).first()
    if bay is None:
        raise not_found("bay")
    return bay


def device_of(coach: Coach, device_id: int) -> Device:
    """One device of the academy."""
    device = Device.objects.filter(pk=device_id, bay__academy=coach.academy).first()
    if device is None:
        raise not_found("device")
    return device


def device_by_token(token: str) -> Device | None:
    """The device that holds a token and has not been revoked."""
    return Device.objects.filter(token_hash=hash_token(token), revoked_at__isnull=True).first()


def balls_in(bay: Bay) -> tuple[int, str]:
    """How many balls the lesson in a bay has, and the key of the newest."""
    last = bay.lesson.shots.order_by("-number").first() if bay.lesson_id else None
    return (last.number, last.shot_id) if last else (0, "")

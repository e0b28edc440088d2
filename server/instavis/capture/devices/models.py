"""Bays and their devices."""

from __future__ import annotations

import secrets

from django.db import models

from instavis.accounts.models import Academy
from instavis.lessons.models import Lesson
from instavis.platform.stored_messages import MessageField

TOKEN_BYTES = 32


class Bay(models.Model):
    """A place to hit from; its balls go to ``lesson``, or stay unassigned without one.

    ``turns`` are the lessons that share the bay: the students who take turns there.
    """

    academy = models.ForeignKey(Academy, on_delete=models.PROTECT, related_name="bays")
    name = models.CharField(max_length=60)
    lesson = models.ForeignKey(Lesson, on_delete=models.SET_NULL, null=True, blank=True, related_name="bays")

    turns = models.ManyToManyField(Lesson, blank=True, related_name="turn_bays")

    class Meta:
        ordering = ["name", "id"]


class Device(models.Model):
    """A monitor with a token for one bay."""

    bay = models.ForeignKey(Bay, on_delete=models.PROTECT, related_name="devices")
    name = models.CharField(max_length=60)
    token_hash = models.CharField(max_length=64, unique=True, db_collation="utf8mb4_bin")
    issued_at = models.DateTimeField(auto_now_add=True)
    revoked_at = models.DateTimeField(null=True, blank=True)
    seen_at = models.DateTimeField(null=True, blank=True)

    @staticmethod
    def new_token() -> str:
        """Return a new token; it is shown once and only its hash is stored."""
        return "iv_" + secrets.token_urlsafe(TOKEN_BYTES)


class RefusedBall(models.Model):
    """A record that was refused as a ball, stored unchanged until a coach decides.

    ``raw`` is the record as JSON text and ``digest`` its hash: a device that sends it again gets the same answer, and
    nothing is stored twice. ``lesson`` was the active one, ``shot`` is the ball it became.
    """

    class Reason(models.TextChoices):
        OTHER_HAND = "other-hand"
        UNREADABLE = "unreadable"
        NUMBER_TAKEN = "number-taken"
        UNSTORABLE = "unstorable"

    bay = models.ForeignKey(Bay, on_delete=models.CASCADE, related_name="refused")
    device = models.ForeignKey(Device, on_delete=models.CASCADE, related_name="refused")
    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, null=True, blank=True, related_name="refused")
    device_sequence = models.PositiveBigIntegerField(null=True, blank=True)
    digest = models.CharField(max_length=64, db_collation="utf8mb4_bin")
    raw = models.TextField()
    reason = models.CharField(max_length=12, choices=Reason.choices)
    field = models.CharField(max_length=80)
    message = MessageField()
    received_at = models.DateTimeField()
    settled_at = models.DateTimeField(null=True, blank=True)
    shot = models.OneToOneField(
        "shots.Shot", on_delete=models.SET_NULL, null=True, blank=True, related_name="refused_as"
    )

    class Meta:
        ordering = ["received_at", "device_sequence", "id"]
        constraints = [models.UniqueConstraint(fields=["device", "digest"], name="refused_once")]

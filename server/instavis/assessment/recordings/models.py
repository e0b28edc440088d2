"""Recorded swings as they arrived; moments and answers are recomputed."""

from __future__ import annotations

from django.db import models

from instavis.capture.devices.models import Device
from instavis.capture.shots.models import Shot
from instavis.lessons.models import Lesson


class Recording(models.Model):
    """One swing: ``columns`` by name and unit, with ``time_s`` among them; ``marks`` are moments set by hand [s];
    ``notes`` are about its import: gaps bridged, columns left out.

    ``shot`` is its ball, if known. ``dropped_at`` discards it; it can be restored. A camera's recording has the
    ``view`` it was taken from, one SD of each series in ``errors`` and by moment in ``errors_at``, and in ``found`` the
    moments from pictures and sound (``at`` and ``error`` [s]).
    """

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="recordings")
    shot = models.ForeignKey(Shot, on_delete=models.SET_NULL, null=True, blank=True, related_name="recordings")
    device = models.ForeignKey(Device, on_delete=models.PROTECT, null=True, blank=True, related_name="recordings")
    device_sequence = models.PositiveBigIntegerField(null=True, blank=True)
    name = models.CharField(max_length=120)
    columns = models.JSONField()
    marks = models.JSONField(default=dict)
    notes = models.JSONField(default=list)
    view = models.CharField(max_length=14, blank=True)
    errors = models.JSONField(default=dict)
    errors_at = models.JSONField(default=dict)
    found = models.JSONField(default=dict)
    received_at = models.DateTimeField()
    dropped_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["device", "device_sequence"], name="recording_once")]
        ordering = ["id"]

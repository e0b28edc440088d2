"""Stored pictures: re-encoded without metadata."""

from __future__ import annotations

from django.db import models

from instavis.lessons.models import Lesson


class Still(models.Model):
    """One picture at one moment, taken from one side; ``points`` and ``scale`` are in its pixels.

    ``look`` is empty for the picture at address that others are compared with. ``dropped_at`` discards it.
    """

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="stills")
    check_id = models.CharField(max_length=40, blank=True)
    view = models.CharField(max_length=14)
    image = models.BinaryField()
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    points = models.JSONField(default=dict)
    scale = models.JSONField(null=True, blank=True)
    added_at = models.DateTimeField()
    dropped_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["lesson", "view"], name="stills_of_a_lesson")]

"""Stored pictures: re-encoded without metadata."""

from __future__ import annotations

from django.db import models

from instavis.lessons.models import Lesson


class Still(models.Model):
    """One picture at one moment, seen from one side; ``points`` and ``scale`` in its pixels.

    ``look`` is empty for the still at address that others are compared with. ``dropped_at`` puts it away.
    """

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="stills")
    look = models.CharField(max_length=40, blank=True)
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

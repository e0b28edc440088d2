"""A practice lesson and what its golfer tried."""

from __future__ import annotations

from django.db import models

from instavis.capture.shots.models import Shot
from instavis.lessons.models import Lesson


class Training(models.Model):
    """A lesson with a made-up golfer, drawn from ``level`` and ``seed``.

    ``skill`` is the current chance that the movement succeeds, None before the first try.
    """

    lesson = models.OneToOneField(Lesson, on_delete=models.CASCADE, related_name="training")
    level = models.CharField(max_length=8)
    seed = models.PositiveIntegerField()
    skill = models.FloatField(null=True, blank=True)

    class Meta:
        ordering = ["-id"]


class Tried(models.Model):
    """The movement that a made-up golfer tried on a ball: against which fault, and how it went."""

    shot = models.OneToOneField(Shot, on_delete=models.CASCADE, related_name="tried")
    fault = models.CharField(max_length=40)
    effort = models.CharField(max_length=7)

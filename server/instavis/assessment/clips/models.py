"""Clips that wait to be measured, and those that could not be."""

from __future__ import annotations

from django.db import models

from instavis.capture.shots.models import Shot
from instavis.lessons.models import Lesson
from instavis.work.models import Work


class Clip(models.Model):
    """A film of one swing until it is measured: its bytes are under ``key``; a recording replaces it.

    For a camera's film, ``about`` is when the ball arrived, in seconds of the film. ``problem`` is why it could not be
    measured, with field, value and what was expected; its bytes are then deleted.
    """

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="clips")
    shot = models.ForeignKey(Shot, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    work = models.ForeignKey(Work, on_delete=models.SET_NULL, null=True, related_name="+")
    name = models.CharField(max_length=120)
    view = models.CharField(max_length=14, blank=True)
    key = models.CharField(max_length=32)
    about = models.FloatField(null=True, blank=True)
    problem = models.JSONField(default=dict)
    added_at = models.DateTimeField()

    class Meta:
        ordering = ["id"]

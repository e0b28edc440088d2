"""Films of measured swings, and the two pictures of a lesson that stand side by side."""

from __future__ import annotations

from django.db import models

from instavis.assessment.recordings.models import Recording
from instavis.lessons.models import Lesson


class Film(models.Model):
    """The pictures of a recording: JPEGs concatenated under ``key``, of ``sizes`` [bytes] at ``times`` [s of the
    recording]; the landmarks are stored as ``instavis.pose/1`` under ``pose_key``.
    """

    recording = models.OneToOneField(Recording, on_delete=models.CASCADE, related_name="film")
    key = models.CharField(max_length=32)
    pose_key = models.CharField(max_length=32)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    times = models.JSONField()
    sizes = models.JSONField()
    kept_at = models.DateTimeField()

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["kept_at"], name="films_by_age")]


class Pair(models.Model):
    """One moment of two swings as pictures for the take-home page; they stay when the films are deleted."""

    lesson = models.OneToOneField(Lesson, on_delete=models.CASCADE, related_name="pair")
    before = models.ForeignKey(Recording, on_delete=models.CASCADE, related_name="+")
    now = models.ForeignKey(Recording, on_delete=models.CASCADE, related_name="+")
    moment = models.CharField(max_length=20)
    before_image = models.BinaryField()
    now_image = models.BinaryField()
    chosen_at = models.DateTimeField()

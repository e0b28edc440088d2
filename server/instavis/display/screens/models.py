"""A second screen that may show one lesson."""

from __future__ import annotations

from django.db import models

from instavis.lessons.models import Lesson
from instavis.platform.pairing import Paired


class Screen(Paired):
    """One screen."""

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="screens")

    class Meta:
        indexes = [models.Index(fields=["code_hash"], name="screen_by_code")]

"""A second screen that may look at one lesson."""

from __future__ import annotations

from django.db import models

from instavis.lessons.models import Lesson


class Screen(models.Model):
    """``code_hash`` pairs it until ``code_until``; after that only ``token_hash`` opens it, until it is ended."""

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="screens")
    code_hash = models.CharField(max_length=64, db_collation="utf8mb4_bin")
    code_until = models.DateTimeField()
    token_hash = models.CharField(max_length=64, blank=True, db_index=True, db_collation="utf8mb4_bin")
    paired_at = models.DateTimeField(null=True, blank=True)
    ended_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        indexes = [models.Index(fields=["code_hash"], name="screen_by_code")]

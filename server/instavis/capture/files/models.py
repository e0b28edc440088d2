"""Files being imported, and remembered mappings."""

from __future__ import annotations

from django.db import models

from instavis.accounts.models import Academy, Coach
from instavis.lessons.models import Lesson
from instavis.work.models import Work


class Draft(models.Model):
    """An uploaded file whose balls are not stored yet; its bytes are in the storage under ``key``.

    ``work`` is the task that stores its balls, once requested.
    """

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="drafts")
    coach = models.ForeignKey(Coach, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=120)
    size = models.PositiveIntegerField()
    key = models.CharField(max_length=40, unique=True)
    created_at = models.DateTimeField()
    work = models.OneToOneField(Work, on_delete=models.SET_NULL, null=True, blank=True, related_name="draft")

    class Meta:
        ordering = ["id"]


class SourceMapping(models.Model):
    """How files with these headers were mapped last time; ``source`` is a key of the headers."""

    academy = models.ForeignKey(Academy, on_delete=models.CASCADE, related_name="+")
    source = models.CharField(max_length=32, db_collation="utf8mb4_bin")
    mapping = models.JSONField()
    used_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["academy", "source"], name="mapping_of_a_source_once")]

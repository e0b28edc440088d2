"""Versions of an academy's knowledge; never changed or removed."""

from __future__ import annotations

from django.db import models

from instavis.accounts.models import Academy, Coach


class KnowledgeVersion(models.Model):
    """An academy's changes to the shipped knowledge from one time on.

    ``changes`` holds table → entry → field → value, all of them and not only the newest; empty means the shipped
    knowledge. ``number`` counts from 1 within the academy.
    """

    academy = models.ForeignKey(Academy, on_delete=models.CASCADE, related_name="knowledge_versions")
    number = models.PositiveIntegerField()
    changes = models.JSONField(default=dict)
    note = models.CharField(max_length=200, blank=True)
    made_by = models.ForeignKey(Coach, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["academy", "number"], name="knowledge_number_once")]
        ordering = ["-number"]

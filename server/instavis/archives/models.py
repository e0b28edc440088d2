"""What must be known after something is gone."""

from __future__ import annotations

from django.db import models

from instavis.accounts.models import Academy


class AuditLine(models.Model):
    """One line that stays: who did what to whose data when; no name of the student."""

    academy = models.ForeignKey(Academy, on_delete=models.CASCADE, related_name="audit")
    at = models.DateTimeField()
    who = models.CharField(max_length=120)
    text = models.CharField(max_length=300)

    class Meta:
        ordering = ["-id"]

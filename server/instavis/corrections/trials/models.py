"""A comparison of two ways, in an order that the screen calls."""

from __future__ import annotations

from datetime import datetime

from django.db import models

from instavis.lessons.models import Block, Lesson


class Trial(models.Model):
    """``order`` says for every ball whether the second way is called; ``second`` is the new move or other cue.

    The balls of ``block`` are its balls, in order; a ball's ``intent`` says what was hit.
    """

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="trials")
    block = models.OneToOneField(Block, on_delete=models.CASCADE, related_name="trial")
    first = models.CharField(max_length=60)
    second = models.CharField(max_length=60)
    primary = models.CharField(max_length=40)
    order = models.JSONField()
    started_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["id"]

    def end(self, now: datetime) -> None:
        """End the calls."""
        self.ended_at = self.ended_at or now
        self.save(update_fields=["ended_at"])

    def call(self, place: int) -> str:
        """Return the call for the ball at a position from 0; nothing beyond the order."""
        if place >= len(self.order):
            return ""
        return self.second if self.order[place] else self.first

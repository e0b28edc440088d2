"""Tasks: what is to be done, and how it went."""

from __future__ import annotations

from django.db import models

from instavis.accounts.models import Academy, Coach


class Work(models.Model):
    """A task for a worker; the row is the truth, the queue only notifies a worker.

    ``state`` goes from waiting to running to done, failed or cancelled. ``arguments`` and ``result`` belong to the
    kind; ``begun`` counts how often it was started.
    """

    class State(models.TextChoices):
        WAITING = "waiting"
        RUNNING = "running"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    academy = models.ForeignKey(Academy, on_delete=models.CASCADE, related_name="works")
    asked_by = models.ForeignKey(Coach, on_delete=models.SET_NULL, null=True, related_name="+")
    kind = models.CharField(max_length=20)
    arguments = models.JSONField(default=dict)
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITING)
    begun = models.PositiveSmallIntegerField(default=0)
    cancel_asked = models.BooleanField(default=False)
    total = models.PositiveIntegerField(default=0)
    result = models.JSONField(default=dict)
    asked_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["state", "asked_at"], name="work_that_waits")]

    @property
    def open(self) -> bool:
        """Return whether it is still to be done."""
        return self.state in (self.State.WAITING, self.State.RUNNING)

"""Bridges, their sources, and rows that wait for a mapping."""

from __future__ import annotations

from django.db import models

from instavis.accounts.models import Academy, Coach
from instavis.capture.devices.models import Bay, Device
from instavis.lessons.models import Lesson
from instavis.platform.pairing import Paired
from instavis_io.tables import Cut


class Bridge(Paired):
    """A program paired by a code; it sends as the ``device`` it was given."""

    bay = models.ForeignKey(Bay, on_delete=models.CASCADE, related_name="bridges")
    device = models.OneToOneField(Device, on_delete=models.CASCADE, null=True, related_name="bridge")

    class Meta:
        indexes = [models.Index(fields=["code_hash"], name="bridge_by_code")]
        ordering = ["id"]


class Source(models.Model):
    """Rows of one kind, by their headers, from a bay's bridge; they become balls after a coach confirms the columns.

    ``headers`` name the columns; ``shape`` and ``delimiter`` say how a row is split; ``examples`` are the newest rows,
    from which a mapping is proposed. ``left`` means that its rows are not balls.
    """

    bay = models.ForeignKey(Bay, on_delete=models.CASCADE, related_name="sources")
    key = models.CharField(max_length=32, db_collation="utf8mb4_bin")
    name = models.CharField(max_length=120)
    shape = models.CharField(max_length=8)
    delimiter = models.CharField(max_length=1)
    headers = models.JSONField()
    examples = models.JSONField()
    mapping = models.JSONField(null=True)
    confirmed_by = models.ForeignKey(Coach, on_delete=models.SET_NULL, null=True, related_name="+")
    confirmed_at = models.DateTimeField(null=True)
    left = models.BooleanField(default=False)
    seen_at = models.DateTimeField()

    class Meta:
        ordering = ["-seen_at", "id"]
        constraints = [models.UniqueConstraint(fields=["bay", "key"], name="source_of_a_bay_once")]

    @property
    def cut(self) -> Cut:
        """Return how its rows are split."""
        return Cut(shape=self.shape, delimiter=self.delimiter, header_line=0, headers=tuple(self.headers))


class WaitingRow(models.Model):
    """A row whose source is not mapped yet, stored unchanged.

    ``lesson`` is the one that was active, ``club`` the one in a heading above.
    """

    source = models.ForeignKey(Source, on_delete=models.CASCADE, related_name="waiting")
    device = models.ForeignKey(Device, on_delete=models.CASCADE, related_name="+")
    device_sequence = models.PositiveBigIntegerField()
    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, null=True, related_name="+")
    text = models.TextField()
    club = models.CharField(max_length=8, blank=True, default="")
    received_at = models.DateTimeField()

    class Meta:
        ordering = ["device_sequence", "id"]
        constraints = [models.UniqueConstraint(fields=["device", "device_sequence"], name="waiting_row_once")]


class SeenBall(models.Model):
    """A ball that arrived as a row, by its content; a row from a second file or bridge is the same ball."""

    academy = models.ForeignKey(Academy, on_delete=models.CASCADE, related_name="+")
    digest = models.CharField(max_length=64, db_collation="utf8mb4_bin")
    device = models.ForeignKey(Device, on_delete=models.CASCADE, related_name="+")
    device_sequence = models.PositiveBigIntegerField()
    seen_at = models.DateTimeField(db_index=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["academy", "digest"], name="seen_ball_once")]

"""The take-home page, its link, and the practice log."""

from __future__ import annotations

from datetime import date

from django.db import models

from instavis.accounts.models import StudentLink
from instavis.lessons.models import Lesson
from instavis_core.progress import PracticeEntry


class TakeHome(models.Model):
    """The coach's text on the page, how often to practice until when, and the state of the plan.

    ``sections`` are lines that the coach wrote instead of the proposed ones; ``moves`` are days moved by hand, both as
    ISO text; ``paused_for`` is the body region whose pain stopped the practice.
    """

    lesson = models.OneToOneField(Lesson, on_delete=models.CASCADE, related_name="take_home")
    note = models.CharField(max_length=1000, blank=True)
    minutes = models.PositiveSmallIntegerField(default=10)
    days_a_week = models.PositiveSmallIntegerField(default=4)
    next_lesson = models.DateField(null=True, blank=True)
    sections = models.JSONField(default=dict, blank=True)
    moves = models.JSONField(default=dict, blank=True)
    paused_for = models.CharField(max_length=20, blank=True)
    paused_at = models.DateTimeField(null=True, blank=True)

    @property
    def moved_days(self) -> dict[date, date]:
        """Return days moved by hand: planned day and current day."""
        return {date.fromisoformat(a): date.fromisoformat(b) for a, b in self.moves.items()}


class HomeLink(StudentLink):
    """A link to one take-home page and its practice log."""

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="home_links")


class Practice(models.Model):
    """One practice entry of one phone; ``entry_id`` is the phone's own and is stored once."""

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="practices")
    entry_id = models.CharField(max_length=64, db_collation="utf8mb4_nopad_bin")
    day = models.DateField()
    started_at = models.DateTimeField()
    ended_at = models.DateTimeField()
    felt = models.PositiveSmallIntegerField(default=0)
    not_felt = models.PositiveSmallIntegerField(default=0)
    balls = models.JSONField(default=list)
    pain = models.CharField(max_length=20, blank=True)
    note = models.CharField(max_length=300, blank=True)
    received_at = models.DateTimeField()

    class Meta:
        ordering = ["started_at", "id"]
        constraints = [models.UniqueConstraint(fields=["lesson", "entry_id"], name="practice_once")]

    def to_entry(self) -> PracticeEntry:
        """Return the entry in the form the core reads."""
        return PracticeEntry(
            entry_id=self.entry_id,
            day=self.day,
            started_at=self.started_at,
            ended_at=self.ended_at,
            felt=self.felt,
            not_felt=self.not_felt,
            balls=tuple(self.balls),
            pain=self.pain,
            note=self.note,
        )

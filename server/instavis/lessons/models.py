"""Lessons, their blocks, and the event log of the live connection."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.db import models

from instavis.accounts.models import Academy, Coach, Student
from instavis.platform.choices import choices_of
from instavis_core.golfer import Golfer
from instavis_core.knowledge import Club, vocabulary
from instavis_core.terms import Purpose

STATIONS = ("ask", "baseline", "check", "cause", "correct", "prove", "take-home")


class Lesson(models.Model):
    """One lesson of one student with one coach.

    ``hand`` is the side the student plays from. ``conditions`` are those of the next balls, as the coach set them.
    ``board_seen`` is true once the ranking was shown: later answers to checks are not blind. ``state`` changes with
    every event, also after a backup was restored.
    """

    academy = models.ForeignKey(Academy, on_delete=models.PROTECT, related_name="lessons")
    student = models.ForeignKey(Student, on_delete=models.PROTECT, related_name="lessons")
    coach = models.ForeignKey(Coach, on_delete=models.PROTECT, related_name="lessons")
    hand = models.CharField(max_length=5, choices=[("right", "right"), ("left", "left")], default="right")
    started_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True, blank=True)
    station = models.CharField(max_length=12, default="ask")
    board_seen = models.BooleanField(default=False)
    club = models.CharField(max_length=4, default="7i")
    knowledge_version = models.ForeignKey(
        "knowledge.KnowledgeVersion", on_delete=models.PROTECT, null=True, blank=True, related_name="lessons"
    )
    school = models.JSONField(default=dict, blank=True)
    conditions = models.JSONField(default=dict, blank=True)
    minutes = models.PositiveSmallIntegerField(default=55)
    open_block = models.ForeignKey("Block", on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    last_ball = models.PositiveIntegerField(default=0)
    last_event = models.PositiveBigIntegerField(default=0)
    state = models.CharField(max_length=16, blank=True)

    class Meta:
        ordering = ["-started_at", "-id"]
        indexes = [models.Index(fields=["academy", "started_at", "student"], name="lessons_by_day_of_whom")]

    @property
    def golfer(self) -> Golfer:
        """Return the golfer for the core."""
        return Golfer(self.hand, self.student.handicap)

    def club_row(self, club: str = "") -> Club:
        """Return the lesson's club, or another, on the current lie."""
        return vocabulary().clubs[club or self.club].on(self.conditions.get("lie", "dry"))

    @property
    def day(self) -> date:
        """Return the academy's calendar day of the lesson."""
        return self.academy.day_of(self.started_at)


class Block(models.Model):
    """Balls hit for one purpose: the baseline, a stage of a correction, or a comparison.

    It starts with the lesson's current conditions.
    """

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="blocks")
    purpose = models.CharField(max_length=8, choices=choices_of(Purpose))
    correction = models.ForeignKey(
        "corrections.Correction", on_delete=models.SET_NULL, null=True, blank=True, related_name="blocks"
    )
    stage = models.CharField(max_length=13, blank=True)
    conditions = models.JSONField(default=dict, blank=True)
    opened_at = models.DateTimeField()

    class Meta:
        ordering = ["id"]

    def save(self, *args: Any, **kwargs: Any) -> None:
        if self._state.adding and not self.conditions:
            self.conditions = self.lesson.conditions
        super().save(*args, **kwargs)

    @property
    def before(self) -> Block | None:
        """Return the block before this one."""
        return self.lesson.blocks.filter(pk__lt=self.pk).order_by("-pk").first()


class LessonEvent(models.Model):
    """An event of a lesson, numbered without gaps; a screen that was disconnected requests later ones."""

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="events")
    cursor = models.PositiveBigIntegerField()
    kind = models.CharField(max_length=16)
    data = models.JSONField(default=dict)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["lesson", "cursor"], name="event_cursor_once")]
        ordering = ["cursor"]

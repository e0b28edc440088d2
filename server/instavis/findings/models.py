"""What was asked and what was looked at."""

from __future__ import annotations

from django.db import models

from instavis.lessons.models import Lesson
from instavis.people.models import Coach


class Intake(models.Model):
    """The student's own words at the start of a lesson; sides as seen from behind the ball."""

    lesson = models.OneToOneField(Lesson, on_delete=models.CASCADE, related_name="intake")
    start = models.CharField(max_length=8, blank=True)
    curve = models.CharField(max_length=8, blank=True)
    contact = models.JSONField(default=list)
    feels = models.JSONField(default=list)
    limits = models.JSONField(default=list)
    pain = models.CharField(max_length=300, blank=True)
    goal = models.CharField(max_length=300, blank=True)
    thoughts = models.CharField(max_length=300, blank=True)
    props = models.CharField(max_length=300, blank=True)
    updated_at = models.DateTimeField()


class CheckGrade(models.Model):
    """A coach's grade of one look; the newest counts, older ones stay."""

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="grades")
    check_id = models.CharField(max_length=40)
    grade = models.CharField(max_length=40)
    coach = models.ForeignKey(Coach, on_delete=models.PROTECT, related_name="+")
    graded_at = models.DateTimeField()

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["lesson", "check_id"], name="grades_of_a_lesson")]

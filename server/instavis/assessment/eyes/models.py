"""Grades that can be compared."""

from __future__ import annotations

from django.db import models

from instavis.accounts.models import Coach
from instavis.lessons.models import Lesson


class EyePair(models.Model):
    """One look of a lesson, graded by a coach's eye and, clearly, by instruments; ``measured`` is theirs."""

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="eye_pairs")
    coach = models.ForeignKey(Coach, on_delete=models.CASCADE, related_name="eye_pairs")
    look = models.CharField(max_length=40)
    grade = models.CharField(max_length=40)
    measured = models.CharField(max_length=40)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["lesson", "coach", "look"], name="eye_of_a_look_once")]
        ordering = ["id"]

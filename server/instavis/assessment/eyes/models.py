"""Answers that can be compared."""

from __future__ import annotations

from django.db import models

from instavis.accounts.models import Coach
from instavis.lessons.models import Lesson


class EyePair(models.Model):
    """One check of a lesson, answered by a coach and, clearly, by instruments; ``measured`` is theirs."""

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="eye_pairs")
    coach = models.ForeignKey(Coach, on_delete=models.CASCADE, related_name="eye_pairs")
    check_id = models.CharField(max_length=40)
    grade = models.CharField(max_length=40)
    measured = models.CharField(max_length=40)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["lesson", "coach", "check_id"], name="eye_of_a_look_once")]
        ordering = ["id"]


class EyePractice(models.Model):
    """One made-up swing that a coach answered.

    ``true_grade`` was shown; a swing is identified by its check, the ``seed`` of its series and its ``number``.
    """

    coach = models.ForeignKey(Coach, on_delete=models.CASCADE, related_name="eye_practice")
    check_id = models.CharField(max_length=40)
    seed = models.PositiveIntegerField()
    number = models.PositiveSmallIntegerField()
    grade = models.CharField(max_length=40)
    true_grade = models.CharField(max_length=40)
    seconds = models.FloatField()
    graded_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["coach", "check_id", "seed", "number"], name="practised_swing_once")
        ]
        ordering = ["id"]

"""What the student takes home."""

from __future__ import annotations

from django.db import models

from instavis.lessons.models import Lesson


class TakeHome(models.Model):
    """The coach's words on the take-home page, and how often to practise until when."""

    lesson = models.OneToOneField(Lesson, on_delete=models.CASCADE, related_name="take_home")
    note = models.CharField(max_length=1000, blank=True)
    minutes = models.PositiveSmallIntegerField(default=10)
    days_a_week = models.PositiveSmallIntegerField(default=4)
    next_lesson = models.DateField(null=True, blank=True)

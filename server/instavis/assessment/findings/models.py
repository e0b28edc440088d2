"""Models of answers and checks."""

from __future__ import annotations

from django.db import models

from instavis.accounts.models import Coach, StudentLink
from instavis.lessons.models import Lesson
from instavis.platform.choices import choices_of
from instavis_core.body import BodyGrade
from instavis_core.terms import Source


class Intake(models.Model):
    """The student's answers at the start of a lesson; sides as seen from behind the ball.

    ``misses`` holds, by club group, where the usual miss starts, curves to, and how far off it ends [m]; ``limits`` are
    pain, injury or stiff by body region. ``by_student`` says who saved it last.
    """

    lesson = models.OneToOneField(Lesson, on_delete=models.CASCADE, related_name="intake")
    misses = models.JSONField(default=dict)
    contact = models.JSONField(default=list)
    feels = models.JSONField(default=list)
    good_feel = models.CharField(max_length=300, blank=True)
    thoughts = models.CharField(max_length=300, blank=True)
    old_faults = models.JSONField(default=list)
    goal = models.CharField(max_length=300, blank=True)
    kit = models.JSONField(default=list)
    limits = models.JSONField(default=dict)
    health = models.JSONField(default=list)
    pain = models.CharField(max_length=300, blank=True)
    by_student = models.BooleanField(default=False)
    updated_at = models.DateTimeField()


class IntakeLink(StudentLink):
    """A link for a student to fill in the intake on a phone."""

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="intake_links")


class SetupNote(models.Model):
    """Ball position, stance and aim at one moment of a lesson."""

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="setups")
    coach = models.ForeignKey(Coach, on_delete=models.PROTECT, related_name="+")
    ball_cm = models.FloatField(null=True, blank=True)
    stance_cm = models.FloatField(null=True, blank=True)
    aim_deg = models.FloatField(null=True, blank=True)
    noted_at = models.DateTimeField()

    class Meta:
        ordering = ["id"]


class CheckGrade(models.Model):
    """A coach's answer to one check; each coach's newest counts, and older ones stay.

    ``source`` is its basis; ``after_board`` is true if the ranking had been seen before.
    """

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="grades")
    check_id = models.CharField(max_length=40)
    grade = models.CharField(max_length=40)
    source = models.CharField(max_length=9, choices=choices_of(Source), default=Source.EYE.value)
    after_board = models.BooleanField(default=False)
    coach = models.ForeignKey(Coach, on_delete=models.PROTECT, related_name="+")
    graded_at = models.DateTimeField()

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["lesson", "check_id"], name="grades_of_a_lesson")]


class BodyResult(models.Model):
    """The result of one part of a body test; the newest of each part counts, an empty one removes it."""

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="body_results")
    coach = models.ForeignKey(Coach, on_delete=models.PROTECT, related_name="+")
    part = models.CharField(max_length=40)
    grade = models.CharField(max_length=5, choices=choices_of(BodyGrade), blank=True)
    tested_at = models.DateTimeField()

    class Meta:
        ordering = ["id"]

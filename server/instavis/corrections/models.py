"""Corrections: what is changed, and what it should do."""

from __future__ import annotations

from typing import Any

from django.db import models

from instavis.accounts.models import Student
from instavis.lessons.models import Lesson
from instavis.platform.choices import choices_of
from instavis_core.terms import Outcome


class Correction(models.Model):
    """One experiment, stored before its first ball.

    ``felt_by`` is the feel. ``probability_then`` and ``severity_then`` are the ranking's values for the fault when it
    was chosen; ``log_odds`` is the evidence of the balls for the fault (+) or against it (−) when it was closed.
    ``gate`` is that of the current stage, ``gate_by_stage`` the primary metric's gate at every stage with a ball.
    ``begun_in`` is the earlier lesson whose correction this one continues, and whose baseline it is compared with.
    """

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="corrections")
    begun_in = models.ForeignKey(Lesson, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    fault = models.CharField(max_length=40)
    variant = models.CharField(max_length=20, blank=True)
    drill = models.CharField(max_length=40, blank=True)
    felt_by = models.CharField(max_length=20, blank=True)
    cue = models.CharField(max_length=200, blank=True)
    primary = models.CharField(max_length=40)
    direction = models.CharField(max_length=8)
    predicted = models.FloatField()
    gate = models.JSONField()
    gate_by_stage = models.JSONField(default=dict)
    guards = models.JSONField(default=dict)
    stage = models.CharField(max_length=13, default="full")
    severity_then = models.FloatField(null=True, blank=True)
    log_odds = models.FloatField(null=True, blank=True)
    probability_then = models.FloatField(null=True, blank=True)
    outcome = models.CharField(max_length=13, choices=choices_of(Outcome), default=Outcome.OPEN.value)
    chosen_at = models.DateTimeField()

    class Meta:
        ordering = ["id"]

    @property
    def measured_from(self) -> Lesson:
        """Return the lesson whose baseline the balls are compared with."""
        return self.begun_in or self.lesson

    def to_document(self) -> dict[str, Any]:
        """Return the correction in the form the core reads."""
        return {
            "fault": self.fault,
            "variant": self.variant or None,
            "drill": self.drill or None,
            "severity": self.severity_then,
            "primary": self.primary,
            "direction": self.direction,
            "predicted": self.predicted,
            "gate": self.gate,
            "gate_by_stage": self.gate_by_stage,
            "guards": self.guards,
        }


class OwnEffect(models.Model):
    """A student's own effect of one fault on one metric, learned from a correction; used from the next lesson on."""

    student = models.ForeignKey(Student, on_delete=models.CASCADE, related_name="own_effects")
    correction = models.OneToOneField(Correction, on_delete=models.CASCADE, related_name="own_effect")
    cause = models.CharField(max_length=60)
    metric = models.CharField(max_length=40)
    mean = models.FloatField()
    sd = models.FloatField()
    learned_at = models.DateTimeField()

    class Meta:
        ordering = ["id"]

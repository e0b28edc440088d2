"""The pivot of single balls, measured by belts, mats and cameras."""

from __future__ import annotations

from django.db import models

from instavis.capture.shots.models import Shot
from instavis.corrections.models import Correction
from instavis_core.shots import PivotValue


class PivotReading(models.Model):
    """An instrument's value of a correction's movement on one ball, of its baseline or its proof.

    ``value`` and ``error`` (one SD) are in the unit of the series that the drill's mark names; ``others`` are its
    guards; ``source`` is the kind of instrument. It is recomputed when its recording changes.
    """

    correction = models.ForeignKey(Correction, on_delete=models.CASCADE, related_name="pivot_readings")
    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="+")
    value = models.FloatField()
    error = models.FloatField()
    others = models.JSONField(default=dict)
    source = models.CharField(max_length=10)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["correction", "shot"], name="pivot_of_a_ball_once")]
        ordering = ["id"]

    def as_value(self) -> PivotValue:
        """Return the value in the form the core reads."""
        return PivotValue(value=self.value, error=self.error, others=tuple(self.others.items()))

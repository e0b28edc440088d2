"""Balls as measured, in the device frame."""

from __future__ import annotations

from django.db import models

from instavis.accounts.models import Academy
from instavis.capture.devices.models import Bay, Device
from instavis.lessons.models import Block, Lesson
from instavis_core.knowledge import vocabulary
from instavis_core.shots import Shot as ShotRecord
from instavis_core.terms import Purpose

METRICS = tuple(vocabulary().metrics)


class Shot(models.Model):
    """One ball. ``number`` orders the balls of a lesson by arrival; device clocks do not count."""

    academy = models.ForeignKey(Academy, on_delete=models.PROTECT, related_name="+")
    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, null=True, blank=True, related_name="shots")
    block = models.ForeignKey(Block, on_delete=models.CASCADE, null=True, blank=True, related_name="shots")
    bay = models.ForeignKey(Bay, on_delete=models.PROTECT, null=True, blank=True, related_name="shots")
    device = models.ForeignKey(Device, on_delete=models.PROTECT, null=True, blank=True, related_name="shots")
    device_sequence = models.PositiveBigIntegerField(null=True, blank=True)
    number = models.PositiveIntegerField(default=0)
    # Compared exactly: case, accents and trailing blanks make another ball.
    shot_id = models.CharField(max_length=64, db_collation="utf8mb4_nopad_bin")
    at = models.DateTimeField(null=True, blank=True)
    received_at = models.DateTimeField()

    club = models.CharField(max_length=4, blank=True)
    hand = models.CharField(max_length=5, blank=True)
    club_speed_mps = models.FloatField(null=True, blank=True)
    path_deg = models.FloatField(null=True, blank=True)
    face_deg = models.FloatField(null=True, blank=True)
    attack_deg = models.FloatField(null=True, blank=True)
    dynamic_loft_deg = models.FloatField(null=True, blank=True)
    strike_toe_mm = models.FloatField(null=True, blank=True)
    strike_high_mm = models.FloatField(null=True, blank=True)
    ball_speed_mps = models.FloatField(null=True, blank=True)
    launch_angle_deg = models.FloatField(null=True, blank=True)
    launch_direction_deg = models.FloatField(null=True, blank=True)
    spin_rpm = models.FloatField(null=True, blank=True)
    spin_axis_deg = models.FloatField(null=True, blank=True)
    carry_m = models.FloatField(null=True, blank=True)
    side_m = models.FloatField(null=True, blank=True)
    apex_m = models.FloatField(null=True, blank=True)

    turf = models.CharField(max_length=7, blank=True)
    movement = models.CharField(max_length=7, blank=True)
    # Without a mark: the numbers were shown before one was made.
    mark_basis = models.CharField(max_length=8, blank=True)
    movement_dose = models.FloatField(null=True, blank=True)
    movement_dose_sd = models.FloatField(null=True, blank=True)
    stage = models.CharField(max_length=13, blank=True)
    intent = models.CharField(max_length=60, blank=True)
    note = models.CharField(max_length=500, blank=True)
    set_aside = models.CharField(max_length=120, blank=True)
    extra = models.JSONField(default=dict, blank=True)

    class Meta:
        ordering = ["lesson_id", "number"]
        constraints = [
            models.UniqueConstraint(fields=["device", "device_sequence"], name="ball_of_a_device_once"),
            models.UniqueConstraint(fields=["lesson", "shot_id"], name="ball_of_a_lesson_once"),
        ]
        indexes = [models.Index(fields=["lesson", "number"], name="balls_of_a_lesson")]

    @property
    def purpose(self) -> str:
        """Return the purpose of its block; empty if unassigned."""
        return self.block.purpose if self.block else ""

    @property
    def correction_id(self) -> int | None:
        """Return the correction its block proves."""
        return self.block.correction_id if self.block else None

    @property
    def covered(self) -> bool:
        """Return True if its numbers are hidden until the movement is marked, so that the mark is blind."""
        waits = self.purpose == Purpose.PROVE or bool(self.correction_id)
        return waits and not (self.movement or self.mark_basis or self.intent or self.set_aside)

    def to_record(self) -> ShotRecord:
        """Return the ball in the form the core reads."""
        values = {m: v for m in METRICS if (v := getattr(self, m)) is not None}
        return ShotRecord(
            values=values,
            shot_id=self.shot_id,
            at=self.at,
            club=self.club or None,
            hand=self.hand or None,
            turf=self.turf or None,
            movement=self.movement or None,
            mark_basis=self.mark_basis or None,
            movement_dose=self.movement_dose,
            movement_dose_sd=self.movement_dose_sd,
            stage=self.stage or None,
            intent=self.intent or None,
            note=self.note,
            extra=self.extra,
        )

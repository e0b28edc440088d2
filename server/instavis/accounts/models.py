"""Academies and the people in them."""

from __future__ import annotations

from datetime import date, datetime, time
from typing import ClassVar
from zoneinfo import ZoneInfo

from django.contrib.auth.models import AbstractUser
from django.db import models

from instavis_core.proof import STAGE_RULES

ADULT_AGE = 18


class Academy(models.Model):
    """Owns everything: coaches, students, bays, lessons and balls. Its days are those of ``time_zone``."""

    name = models.CharField(max_length=120)
    time_zone = models.CharField(max_length=64, default="UTC")

    def __str__(self) -> str:
        return self.name

    def day_of(self, moment: datetime) -> date:
        """The calendar day a moment belongs to where the academy is."""
        return moment.astimezone(ZoneInfo(self.time_zone)).date()

    def start_of(self, day: date) -> datetime:
        """The moment a day begins where the academy is."""
        return datetime.combine(day, time(), ZoneInfo(self.time_zone))


class Coach(AbstractUser):
    """A person who signs in."""

    class Role(models.TextChoices):
        COACH = "coach"
        HEAD = "head"
        DESK = "desk"

    academy = models.ForeignKey(Academy, on_delete=models.PROTECT, related_name="coaches")
    name = models.CharField(max_length=120)
    role = models.CharField(max_length=8, choices=Role.choices, default=Role.COACH)
    units = models.CharField(max_length=8, default="yd-mph")
    language = models.CharField(max_length=8, default="en")
    school = models.JSONField(default=dict, blank=True)
    stage_rule = models.CharField(max_length=6, choices=[(r, r) for r in STAGE_RULES], default="count")

    left_at = models.DateTimeField(null=True, blank=True)

    REQUIRED_FIELDS: ClassVar[list[str]] = []


class Link(models.Model):
    """A link that opens one thing to somebody who is not signed in: hashed, expiring, revocable."""

    token_hash = models.CharField(max_length=64, unique=True, db_collation="utf8mb4_bin")
    made_by = models.ForeignKey(Coach, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField()
    expires_at = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        abstract = True


class StudentLink(Link):
    """One that a student holds, who has no account."""

    class Meta:
        abstract = True


class Invitation(Link):
    """One that lets somebody become a coach of the academy, once; ``coach`` is who they became."""

    academy = models.ForeignKey(Academy, on_delete=models.CASCADE, related_name="invitations")
    role = models.CharField(max_length=8, choices=Coach.Role.choices)
    name = models.CharField(max_length=120)
    used_at = models.DateTimeField(null=True, blank=True)
    coach = models.ForeignKey(Coach, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")


class PasswordLink(Link):
    """One that lets a coach who lost the password choose another, once."""

    coach = models.ForeignKey(Coach, on_delete=models.CASCADE, related_name="password_links")
    used_at = models.DateTimeField(null=True, blank=True)


class AuditLine(models.Model):
    """One line that stays: who did what to whose data when; no name of a student."""

    academy = models.ForeignKey(Academy, on_delete=models.CASCADE, related_name="audit")
    at = models.DateTimeField()
    who = models.CharField(max_length=120)
    text = models.CharField(max_length=300)

    class Meta:
        ordering = ["-id"]
        db_table = "archives_auditline"  # where it began


class Student(models.Model):
    """A golfer who takes lessons."""

    academy = models.ForeignKey(Academy, on_delete=models.PROTECT, related_name="students")
    name = models.CharField(max_length=120)
    hand = models.CharField(max_length=5, choices=[("right", "right"), ("left", "left")], default="right")
    handicap = models.FloatField(null=True, blank=True)
    born = models.DateField(null=True, blank=True)
    guardian_consent = models.CharField(max_length=120, blank=True)
    consented_at = models.DateTimeField(null=True, blank=True)
    created_at = models.DateTimeField(auto_now_add=True)
    archived_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name

    def age(self, today: date) -> int | None:
        """Whole years on that day; None when the birthday is not known."""
        if self.born is None:
            return None
        return today.year - self.born.year - ((today.month, today.day) < (self.born.month, self.born.day))

    def is_junior(self, today: date) -> bool:
        """Under eighteen on that day; False when the birthday is not known."""
        age = self.age(today)
        return age is not None and age < ADULT_AGE

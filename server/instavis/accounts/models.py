"""Academies and the people in them."""

from __future__ import annotations

from datetime import date, datetime, time
from typing import ClassVar
from zoneinfo import ZoneInfo

from django.contrib.auth.models import AbstractUser
from django.contrib.sessions.base_session import AbstractBaseSession
from django.db import models

from instavis.platform.stored_messages import MessageField
from instavis_core.proof import STAGE_RULES

ADULT_AGE = 18


PAPERS = ("A4", "Letter")
"""What a page that a student takes home may be printed on."""


class Academy(models.Model):
    """Owns everything: coaches, students, bays, lessons and balls. Its days are those of ``time_zone``.

    ``units`` and ``language`` are what somebody new begins with; ``paper`` is what its pages are printed on;
    ``asks_for_factor``: nobody works here by a password
    alone. What is kept only so long: lines of who did what, films
    (0: none at all) and pictures by days, students who do not come any more by years; None keeps them.
    """

    name = models.CharField(max_length=120)
    time_zone = models.CharField(max_length=64, default="UTC")
    units = models.CharField(max_length=8, default="yd-mph")
    language = models.CharField(max_length=8, default="en")
    paper = models.CharField(max_length=6, choices=[(p, p) for p in PAPERS], default="A4")
    asks_for_factor = models.BooleanField(default=False)
    keep_lines_days = models.PositiveIntegerField(default=730)
    keep_films_days = models.PositiveIntegerField(default=180)
    keep_pictures_days = models.PositiveIntegerField(null=True, blank=True)
    keep_students_years = models.PositiveSmallIntegerField(null=True, blank=True)

    @property
    def zone(self) -> ZoneInfo:
        """In which its days begin and its clocks go."""
        return ZoneInfo(self.time_zone)

    def __str__(self) -> str:
        return self.name

    def day_of(self, moment: datetime) -> date:
        """The calendar day a moment belongs to where the academy is."""
        return moment.astimezone(self.zone).date()

    def start_of(self, day: date) -> datetime:
        """The moment a day begins where the academy is."""
        return datetime.combine(day, time(), self.zone)


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
    clicker = models.JSONField(default=dict, blank=True)
    left_at = models.DateTimeField(null=True, blank=True)

    REQUIRED_FIELDS: ClassVar[list[str]] = []


class CoachSession(AbstractBaseSession):
    """A session under the hash of its key, with what its coach may know of it; the columns repeat its own words."""

    coach = models.ForeignKey(Coach, on_delete=models.CASCADE, null=True, related_name="sessions")
    begun_at = models.DateTimeField(null=True)
    seen_at = models.DateTimeField(null=True)
    browser = models.CharField(max_length=80, blank=True)
    address = models.CharField(max_length=64, blank=True)

    class Meta:
        db_table = "people_session"


class Notice(models.Model):
    """Something a coach should hear of who uses their account; ``seen_at`` once they said that they did.

    ``what`` happened is one of `instavis.accounts.notices.SENTENCES`, which ``detail`` completes.
    """

    coach = models.ForeignKey(Coach, on_delete=models.CASCADE, related_name="notices")
    at = models.DateTimeField()
    what = models.CharField(max_length=20)
    detail = models.CharField(max_length=120, blank=True)
    seen_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["-id"]


class AnsweredRequest(models.Model):
    """A change that a browser sent under a key, and the answer it got: see `instavis.accounts.once`.

    ``content`` is a hash of the request; ``status`` is 0 until it is answered.
    """

    coach = models.ForeignKey(Coach, on_delete=models.CASCADE, related_name="+")
    key = models.CharField(max_length=64, db_collation="utf8mb4_bin")
    content = models.CharField(max_length=64)
    at = models.DateTimeField(db_index=True)
    status = models.PositiveSmallIntegerField(default=0)
    answer = models.TextField(default="")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["coach", "key"], name="a_request_once")]


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
    """One that lets a coach who lost the password choose another, once.

    ``lifts_factors``: one made on the machine for somebody who lost the second factor as well.
    """

    lifts_factors = models.BooleanField(default=False)
    coach = models.ForeignKey(Coach, on_delete=models.CASCADE, related_name="password_links")
    used_at = models.DateTimeField(null=True, blank=True)


class AuditLine(models.Model):
    """One line that stays: who did what to whose data when; no name of a student. ``reading``: it was only read."""

    academy = models.ForeignKey(Academy, on_delete=models.CASCADE, related_name="audit")
    reading = models.BooleanField(default=False)
    at = models.DateTimeField()
    who = models.CharField(max_length=120)
    text = MessageField()

    class Meta:
        ordering = ["-id"]
        db_table = "archives_auditline"  # where it began


class Student(models.Model):
    """A golfer who takes lessons; ``made_up``: one of a practice lesson, who is on no list and in no sum."""

    academy = models.ForeignKey(Academy, on_delete=models.PROTECT, related_name="students")
    name = models.CharField(max_length=120)
    hand = models.CharField(max_length=5, choices=[("right", "right"), ("left", "left")], default="right")
    handicap = models.FloatField(null=True, blank=True)
    born = models.DateField(null=True, blank=True)
    guardian_consent = models.CharField(max_length=120, blank=True)
    consented_at = models.DateTimeField(null=True, blank=True)
    filming_agreed_at = models.DateTimeField(null=True, blank=True)
    created_at = models.DateTimeField(auto_now_add=True)
    archived_at = models.DateTimeField(null=True, blank=True)
    made_up = models.BooleanField(default=False)

    class Meta:
        ordering = ["name", "id"]
        indexes = [models.Index(fields=["academy", "made_up", "archived_at", "name"], name="students_there_by_name")]

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

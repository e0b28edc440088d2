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
"""Paper sizes for printed pages."""


class Academy(models.Model):
    """Owns everything: coaches, students, bays, lessons and balls.

    ``time_zone`` determines its days. ``units`` and ``language`` are the defaults for new people; ``paper`` is the
    paper size of its pages; ``asks_for_factor`` requires a second factor of everyone. The retention fields say how long
    data is kept: activity log, films (0: none) and pictures in days, students who no longer come in years; None keeps
    it forever.
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
        """The time zone of the academy's days and clocks."""
        return ZoneInfo(self.time_zone)

    def __str__(self) -> str:
        return self.name

    def day_of(self, moment: datetime) -> date:
        """Return the calendar day of a time in the academy's time zone."""
        return moment.astimezone(self.zone).date()

    def start_of(self, day: date) -> datetime:
        """Return the time at which a day starts in the academy's time zone."""
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
    """A session under the hash of its key, with what its coach may know of it; the columns repeat its data."""

    coach = models.ForeignKey(Coach, on_delete=models.CASCADE, null=True, related_name="sessions")
    begun_at = models.DateTimeField(null=True)
    seen_at = models.DateTimeField(null=True)
    browser = models.CharField(max_length=80, blank=True)
    address = models.CharField(max_length=64, blank=True)

    class Meta:
        db_table = "people_session"


class Notice(models.Model):
    """Something a coach should know about their account; ``seen_at`` is when they confirmed it.

    ``what`` is one of `instavis.accounts.notices.SENTENCES`, completed by ``detail``.
    """

    coach = models.ForeignKey(Coach, on_delete=models.CASCADE, related_name="notices")
    at = models.DateTimeField()
    what = models.CharField(max_length=20)
    detail = models.CharField(max_length=120, blank=True)
    seen_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["-id"]


class AnsweredRequest(models.Model):
    """A change that a browser sent under a key, and its answer: see `instavis.accounts.once`.

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
    """A link that opens one thing for a person who is not signed in: hashed, expiring, revocable."""

    token_hash = models.CharField(max_length=64, unique=True, db_collation="utf8mb4_bin")
    made_by = models.ForeignKey(Coach, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField()
    expires_at = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        abstract = True


class StudentLink(Link):
    """A link for a student, who has no account."""

    class Meta:
        abstract = True


class Invitation(Link):
    """A link for joining the academy as a coach, once; ``coach`` is the coach who joined."""

    academy = models.ForeignKey(Academy, on_delete=models.CASCADE, related_name="invitations")
    role = models.CharField(max_length=8, choices=Coach.Role.choices)
    name = models.CharField(max_length=120)
    used_at = models.DateTimeField(null=True, blank=True)
    coach = models.ForeignKey(Coach, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")


class PasswordLink(Link):
    """A link with which a coach can choose a new password, once.

    ``lifts_factors`` is set for one made on the machine for a person who also lost the second factor.
    """

    lifts_factors = models.BooleanField(default=False)
    coach = models.ForeignKey(Coach, on_delete=models.CASCADE, related_name="password_links")
    used_at = models.DateTimeField(null=True, blank=True)


class AuditLine(models.Model):
    """One line of the activity log: who did what to whose data and when; without names of students.

    ``reading`` means that the data was only read.
    """

    academy = models.ForeignKey(Academy, on_delete=models.CASCADE, related_name="audit")
    reading = models.BooleanField(default=False)
    at = models.DateTimeField()
    who = models.CharField(max_length=120)
    text = MessageField()

    class Meta:
        ordering = ["-id"]
        db_table = "archives_auditline"  # the page it came from


class Student(models.Model):
    """A golfer who takes lessons.

    ``made_up`` is the golfer of a practice lesson, who appears in no list and no total.
    """

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
        """Whole years on that day; None if the birthday is unknown."""
        if self.born is None:
            return None
        return today.year - self.born.year - ((today.month, today.day) < (self.born.month, self.born.day))

    def is_junior(self, today: date) -> bool:
        """Under eighteen on that day; False if the birthday is unknown."""
        age = self.age(today)
        return age is not None and age < ADULT_AGE

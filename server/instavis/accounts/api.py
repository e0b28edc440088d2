"""The students, and the academy."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import available_timezones

from django.db.models import QuerySet
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.accounts import mail, selectors, services
from instavis.accounts.access import heads, staff
from instavis.accounts.models import PAPERS, Student
from instavis.accounts.requests import CoachRequest
from instavis.platform.errors import Problems
from instavis.platform.throttle import at_most
from instavis_report.catalog import UNITS, languages

router = Router()

MAILS_TRIED = 5
"""How often a minute."""


class StudentIn(Schema):
    model_config = ConfigDict(extra="forbid")
    name: str = Field(min_length=1, max_length=120)
    hand: str = Field("right", pattern="^(right|left)$")
    handicap: float | None = None
    born: date | None = None
    guardian_consent: str = Field("", max_length=120)


class StudentChange(StudentIn):
    """A change of a student; omitted fields stay.

    ``open_lessons`` says what a change of hand does to open lessons.
    """

    open_lessons: services.OpenLessons | None = None


class AcademyIn(Schema):
    """A change of the academy; omitted fields stay."""

    model_config = ConfigDict(extra="forbid")
    name: str | None = Field(None, max_length=120)
    time_zone: str | None = Field(None, max_length=64)
    units: str | None = Field(None, pattern=f"^({'|'.join(UNITS)})$")
    language: str | None = Field(None, max_length=8)
    paper: str | None = Field(None, pattern=f"^({'|'.join(PAPERS)})$")
    asks_for_factor: bool | None = None
    keep_lines_days: int | None = None
    keep_films_days: int | None = None
    keep_pictures_days: int | None = None
    keep_students_years: int | None = None


class AcademyOut(Schema):
    """The academy; ``zones`` are the possible time zones, ``mail`` says how email is sent, empty if none is.

    ``students_due`` is how many students its retention rule will delete within thirty days.
    """

    name: str
    time_zone: str
    units: str
    language: str
    paper: str
    asks_for_factor: bool
    keep_lines_days: int
    keep_films_days: int
    keep_pictures_days: int | None
    keep_students_years: int | None
    students_due: int
    languages: list[str]
    zones: list[str]
    mail: str


class MailIn(Schema):
    """Where to send a test email."""

    model_config = ConfigDict(extra="forbid")
    to: str = Field(max_length=254)


class ConsentIn(Schema):
    model_config = ConfigDict(extra="forbid")
    given: bool


class ArchivedIn(Schema):
    model_config = ConfigDict(extra="forbid")
    archived: bool


class StudentOut(Schema):
    id: int
    name: str
    hand: str
    handicap: float | None
    born: date | None
    guardian_consent: str
    consented_at: datetime | None = None
    filming_agreed_at: datetime | None = None
    lesson_count: int = 0
    last_lesson: datetime | None = None
    archived_at: datetime | None = None


@router.get("/students", auth=staff, response=list[StudentOut])
def list_students(request: CoachRequest) -> QuerySet[Student]:
    """Every student of the academy."""
    return selectors.students_of(request.user)


@router.post("/students", auth=staff, response={201: StudentOut, 422: Problems})
def create_student(request: CoachRequest, data: StudentIn) -> Status[Any]:
    """A new student."""
    return Status(201, services.save_student(request.user, None, data.dict(), _today(request)))


@router.get("/students/{student_id}", auth=staff, response={200: StudentOut, 404: Problems})
def get_student(request: CoachRequest, student_id: int) -> Student:
    """One student."""
    return selectors.student_of(request.user, student_id)


@router.put("/students/{student_id}/consent", auth=staff, response={200: StudentOut, 404: Problems, 422: Problems})
def change_consent(request: CoachRequest, student_id: int, data: ConsentIn) -> Student:
    """Record or withdraw the consent of the student (for a junior: the guardian) to keeping the record."""
    student = selectors.student_of(request.user, student_id)
    return services.change_consent(student, data.given, timezone.now())


@router.put("/students/{student_id}/archived", auth=staff, response={200: StudentOut, 404: Problems})
def archive_student(request: CoachRequest, student_id: int, data: ArchivedIn) -> Student:
    """Archive a student, or restore one."""
    student = selectors.student_of(request.user, student_id)
    return services.archive_student(student, data.archived, timezone.now())


@router.put(
    "/students/{student_id}", auth=staff, response={200: StudentOut, 404: Problems, 409: Problems, 422: Problems}
)
def change_student(request: CoachRequest, student_id: int, data: StudentChange) -> Student:
    """Change a student; a change of hand asks what happens to open lessons."""
    student = selectors.student_of(request.user, student_id)
    values = data.dict(exclude_unset=True)
    open_lessons = values.pop("open_lessons", None)
    return services.save_student(request.user, student, values, _today(request), open_lessons)


@router.get("/academy", auth=staff, response=AcademyOut)
def get_academy(request: CoachRequest) -> AcademyOut:
    """Return the academy, and the possible time zones."""
    return _academy(request)


@router.patch("/academy", auth=heads, response={200: AcademyOut, 422: Problems})
def change_academy(request: CoachRequest, data: AcademyIn) -> AcademyOut:
    """Change name, time zone, defaults for new people, and data retention (head coach)."""
    services.change_academy(request.user, data.dict(exclude_unset=True), timezone.now())
    return _academy(request)


@router.post("/academy/mail", auth=heads, response={204: None, 409: Problems, 422: Problems, 429: Problems})
def try_mail(request: CoachRequest, data: MailIn) -> Status[Any]:
    """Send a test email (head coach); an error of the mail server is reported."""
    at_most(MAILS_TRIED, "mail", str(request.user.academy_id), window=60)
    mail.try_out(request.user, data.to)
    return Status(204, None)


def _academy(request: CoachRequest) -> AcademyOut:
    academy = request.user.academy
    result = {name: getattr(academy, name) for name in AcademyOut.model_fields if hasattr(academy, name)}
    due = selectors.students_gone_at(academy, timezone.now() + timedelta(days=30)).count()
    zones = sorted(available_timezones())
    return AcademyOut(**result, students_due=due, languages=languages(), zones=zones, mail=mail.how())


def _today(request: CoachRequest) -> date:
    return request.user.academy.day_of(timezone.now())

"""Signing in, and the students."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any
from zoneinfo import available_timezones

from django.contrib.auth import authenticate, login, logout
from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from django.utils import timezone
from ninja import Router, Schema, Status
from ninja.security import APIKeyCookie
from pydantic import ConfigDict, Field

from instavis.accounts import selectors, services, tries
from instavis.accounts.access import heads, staff
from instavis.accounts.models import Coach, Student
from instavis.accounts.requests import CoachRequest
from instavis.accounts.sessions import kept_key
from instavis.platform.errors import Problems, Refused
from instavis.platform.language import speak_to
from instavis.platform.lines import call, session_group
from instavis_core.choice import read_school
from instavis_core.message import Message
from instavis_core.proof import STAGE_RULES
from instavis_report.catalogue import catalogue

session_router = Router()
router = Router()


class CsrfOnly(APIKeyCookie):
    """Lets everybody in who holds the page's CSRF token: for signing in."""

    param_name = "instavis_csrf"

    def authenticate(self, request: HttpRequest, key: str | None) -> bool:
        return True


class SignIn(Schema):
    model_config = ConfigDict(extra="forbid")
    username: str = Field(max_length=150)
    password: str = Field(max_length=200)


class SessionOut(Schema):
    """Who is signed in."""

    username: str
    name: str
    role: str
    academy: str
    units: str
    language: str
    school: dict[str, str]
    stage_rule: str
    time_zone: str
    today: date


class SettingsIn(Schema):
    model_config = ConfigDict(extra="forbid")
    units: str | None = Field(None, pattern="^(yd-mph|m-mph|m-ms)$")
    language: str | None = None
    school: dict[str, str] | None = None
    stage_rule: str | None = Field(None, pattern=f"^({'|'.join(STAGE_RULES)})$")
    name: str | None = Field(None, min_length=1, max_length=120)


class StudentIn(Schema):
    model_config = ConfigDict(extra="forbid")
    name: str = Field(min_length=1, max_length=120)
    hand: str = Field("right", pattern="^(right|left)$")
    handicap: float | None = None
    born: date | None = None
    guardian_consent: str = Field("", max_length=120)


class StudentChange(StudentIn):
    """What is left out stays. ``open_lessons`` says what a change of hand does to lessons that are open."""

    open_lessons: services.OpenLessons | None = None


class AcademyIn(Schema):
    """What is left out stays."""

    model_config = ConfigDict(extra="forbid")
    name: str | None = Field(None, max_length=120)
    time_zone: str | None = Field(None, max_length=64)


class AcademyOut(Schema):
    """The academy; ``zones`` are those it may be in."""

    name: str
    time_zone: str
    zones: list[str]


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
    lesson_count: int = 0
    last_lesson: datetime | None = None
    archived_at: datetime | None = None


def session_of(coach: Coach) -> SessionOut:
    """What the front end knows of who is signed in."""
    return SessionOut(
        username=coach.username,
        name=coach.name,
        role=coach.role,
        academy=coach.academy.name,
        units=coach.units,
        language=coach.language,
        school=coach.school,
        stage_rule=coach.stage_rule,
        time_zone=coach.academy.time_zone,
        today=coach.academy.day_of(timezone.now()),
    )


@session_router.post("", auth=CsrfOnly(), response={200: SessionOut, 401: Problems, 429: Problems, 503: Problems})
def sign_in(request: HttpRequest, response: HttpResponse, data: SignIn) -> SessionOut:
    """Start a session; failed tries are counted and slowed down."""
    counters = tries.counters(request, data.username)
    tries.refuse_too_many(counters)
    coach = authenticate(request, username=data.username, password=data.password)
    if coach is None:
        tries.failed(counters)
        raise Refused(401, "password", Message("User name or password is not right."))
    tries.succeeded(counters)
    login(request, coach)
    get_token(request)
    tries.remember(request, response, coach.get_username())
    return session_of(coach)


@session_router.get("", auth=staff, response={200: SessionOut, 401: Problems})
def who(request: CoachRequest) -> SessionOut:
    """Who is signed in."""
    return session_of(request.user)


@session_router.patch("", auth=staff, response={200: SessionOut, 422: Problems})
def change_settings(request: CoachRequest, data: SettingsIn) -> SessionOut:
    """Units, school and stage rule of the signed-in coach."""
    coach = request.user
    if data.name is not None:
        coach.name = data.name.strip() or coach.name
    if data.units is not None:
        coach.units = data.units
    if data.language is not None:
        coach.language = catalogue(data.language).language
    if data.school is not None:
        coach.school = read_school(data.school)
    if data.stage_rule is not None:
        coach.stage_rule = data.stage_rule
    speak_to(coach)
    coach.save(update_fields=["name", "units", "language", "school", "stage_rule"])
    return session_of(coach)


@session_router.delete("", auth=staff, response={204: None})
def sign_out(request: HttpRequest) -> Status[Any]:
    """End the session, and with it the live lines that were opened in it."""
    key = request.session.session_key
    logout(request)
    if key is not None:
        call(session_group(kept_key(key)), {"type": "session.ended"})
    return Status(204, None)


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
    """Record that the student (for a junior: the guardian) agrees to the record, or takes it back."""
    student = selectors.student_of(request.user, student_id)
    return services.change_consent(student, data.given, timezone.now())


@router.put("/students/{student_id}/archived", auth=staff, response={200: StudentOut, 404: Problems})
def archive_student(request: CoachRequest, student_id: int, data: ArchivedIn) -> Student:
    """Put a student out of the lists, or back into them."""
    student = selectors.student_of(request.user, student_id)
    return services.archive_student(student, data.archived, timezone.now())


@router.put(
    "/students/{student_id}", auth=staff, response={200: StudentOut, 404: Problems, 409: Problems, 422: Problems}
)
def change_student(request: CoachRequest, student_id: int, data: StudentChange) -> Student:
    """Change a student; another hand asks what becomes of open lessons."""
    student = selectors.student_of(request.user, student_id)
    values = data.dict(exclude_unset=True)
    open_lessons = values.pop("open_lessons", None)
    return services.save_student(request.user, student, values, _today(request), open_lessons)


@router.get("/academy", auth=staff, response=AcademyOut)
def get_academy(request: CoachRequest) -> AcademyOut:
    """The academy, and the time zones there are."""
    return _academy(request)


@router.patch("/academy", auth=heads, response={200: AcademyOut, 422: Problems})
def change_academy(request: CoachRequest, data: AcademyIn) -> AcademyOut:
    """Its name, and the zone whose days it counts (head coach)."""
    services.change_academy(request.user, data.name, data.time_zone, timezone.now())
    return _academy(request)


def _academy(request: CoachRequest) -> AcademyOut:
    academy = request.user.academy
    return AcademyOut(name=academy.name, time_zone=academy.time_zone, zones=sorted(available_timezones()))


def _today(request: CoachRequest) -> date:
    return request.user.academy.day_of(timezone.now())

"""Take home for the student: one page and its practice log behind a link, and nothing else."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta
from typing import Literal

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Router, Schema

from instavis.accounts.access import CsrfOnly
from instavis.assessment.films.selectors import pair_image
from instavis.lessons.models import Lesson
from instavis.platform.errors import Problems, Refused
from instavis.platform.language import speak_to
from instavis.platform.throttle import at_most
from instavis.practice import selectors, services
from instavis.practice.api import MoveIn, calendar_response, pdf_response
from instavis.practice.selectors import TakeHomePage
from instavis_core.errors import InputError
from instavis_core.figure import DrillPicture, drill_picture
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message
from instavis_core.progress import Dose
from instavis_core.terms import Contact, Side
from instavis_io.practice import LogIn, practice_of

LINK_ASKED, LINK_PRINTED = 120, 6
"""Requests per minute for a student's link, and for its print."""

router = Router(auth=CsrfOnly())


class HomeWords(Schema):
    """Labels for the practice log form."""

    region: dict[str, Message]
    stage: dict[str, Message]
    starts: list[str]
    curves: list[str]
    contacts: list[str]


class HomeOut(Schema):
    """The student's page: first name only, the plan, the drill's figure, and how much was practiced."""

    page: TakeHomePage
    figure: DrillPicture | None
    dose: Dose
    words: HomeWords
    not_medical: Message
    language: str


class PracticeReceipt(Schema):
    """Sent after the entries are stored: how many were new, how many known, and the page as it is now."""

    stored: int
    known: int
    home: HomeOut


@router.get("/home/{token}", response={200: HomeOut, 404: Problems, 422: Problems})
def get_home(request: HttpRequest, token: str, today: date | None = None) -> HomeOut:
    """Return the student's page; ``today`` is the student's own calendar day."""
    lesson = _lesson(token)
    return _home(lesson, _day(lesson, today))


@router.get("/home/{token}/page.pdf", response={200: None, 404: Problems, 422: Problems})
def print_home(request: HttpRequest, token: str) -> HttpResponse:
    """Return the page as a tagged PDF."""
    lesson = _lesson(token)
    at_most(LINK_PRINTED, "home-pdf", token, window=60)
    return pdf_response(_first_name_only(selectors.take_home_of(lesson, _day(lesson, None))), lesson)


@router.get("/home/{token}/practice.ics", response={200: None, 404: Problems, 422: Problems})
def home_calendar(request: HttpRequest, token: str) -> HttpResponse:
    """Return the plan as an iCalendar file."""
    lesson = _lesson(token)
    return calendar_response(lesson, _day(lesson, None))


@router.get("/home/{token}/pair/{side}", response={200: None, 404: Problems})
def home_pair(request: HttpRequest, token: str, side: Literal["before", "now"]) -> HttpResponse:
    """Return one picture of the pair."""
    return HttpResponse(pair_image(_lesson(token), side), content_type="image/jpeg")


@router.put("/home/{token}/days/{planned}", response={200: HomeOut, 404: Problems, 422: Problems})
def move_home_day(request: HttpRequest, token: str, planned: date, data: MoveIn, today: date | None = None) -> HomeOut:
    """Move a day of the plan."""
    lesson = _lesson(token)
    day = _day(lesson, today)
    services.move_practice_day(lesson, planned, data.to, day)
    return _home(lesson, day)


@router.post("/home/{token}/practice", response={200: PracticeReceipt, 404: Problems, 409: Problems, 422: Problems})
def log_practice(request: HttpRequest, token: str, data: LogIn, today: date | None = None) -> PracticeReceipt:
    """Store practice entries, each once."""
    lesson, now = _lesson(token), timezone.now()
    stored = 0
    for result in data.entries:
        stored += services.log_practice(lesson, practice_of(result, data.sent_at, now), now)
    return PracticeReceipt(stored=stored, known=len(data.entries) - stored, home=_home(lesson, _day(lesson, today)))


def _lesson(token: str) -> Lesson:
    at_most(LINK_ASKED, "home", token, window=60)
    lesson = selectors.lesson_by_home_link(token, timezone.now())
    if lesson is None:
        raise Refused(404, "link", Message("practice-page-expired-ask-your-coach"))
    speak_to(lesson.coach)
    return lesson


def _day(lesson: Lesson, asked_day: date | None) -> date:
    """Return the student's own day, within the possible time zone difference."""
    here = lesson.academy.day_of(timezone.now())
    return asked_day if asked_day is not None and abs(asked_day - here) <= timedelta(days=1) else here


def _home(lesson: Lesson, today: date) -> HomeOut:
    page = selectors.take_home_of(lesson, today)
    words = vocabulary().words
    return HomeOut(
        page=_first_name_only(page),
        figure=_figure(page),
        dose=selectors.practice_log_of(lesson, today).dose,
        words=HomeWords(
            region=words["region"],
            stage=words["stage"],
            starts=list(Side),
            curves=list(Side),
            contacts=list(Contact),
        ),
        not_medical=vocabulary().cautions["not-medical"].text,
        language=lesson.coach.language,
    )


def _figure(page: TakeHomePage) -> DrillPicture | None:
    if page.drill is None:
        return None
    try:
        return drill_picture(page.drill, page.hand)
    except InputError:
        return None  # an academy's own drill


def _first_name_only(page: TakeHomePage) -> TakeHomePage:
    return replace(page, student=page.student.split()[0])

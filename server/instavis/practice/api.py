"""Take home for the coach: the page, its plan, link and log; and the cold test of the next lesson."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any

from django.http import HttpResponse
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.accounts.access import staff
from instavis.accounts.requests import CoachRequest
from instavis.assessment.films.selectors import SIDES, pair_image
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problems
from instavis.practice import selectors, services
from instavis.practice.calendar import calendar_of
from instavis.practice.pdf import take_home_pdf
from instavis.practice.progress import Today, today_of
from instavis.practice.selectors import PracticeLog, TakeHomePage
from instavis_core.progress import PlannedDay

router = Router()


class TakeHomeIn(Schema):
    """The coach's text: ``sections`` are lines by section that replace the proposed ones."""

    model_config = ConfigDict(extra="forbid")
    note: str = Field("", max_length=1000)
    minutes: int = Field(10, ge=1, le=90)
    days_a_week: int = Field(4, ge=1, le=6)
    next_lesson: date | None = None
    sections: dict[str, list[str]] = Field(default_factory=dict)


class MoveIn(Schema):
    model_config = ConfigDict(extra="forbid")
    to: date


class HomeLinkOut(Schema):
    """Whether a link is active; its path is returned only when it is created."""

    path: str | None = None
    expires_at: datetime | None = None


@router.get("/lessons/{lesson_id}/take-home", response={200: TakeHomePage, 404: Problems, 422: Problems})
def get_take_home(request: CoachRequest, lesson_id: int) -> TakeHomePage:
    """Return the page."""
    return selectors.take_home_of(lesson_of(request.user, lesson_id), _today(request))


@router.put("/lessons/{lesson_id}/take-home", response={200: TakeHomePage, 404: Problems, 422: Problems})
def save_take_home(request: CoachRequest, lesson_id: int, data: TakeHomeIn) -> TakeHomePage:
    """Save the coach's text and the practice plan."""
    lesson = lesson_of(request.user, lesson_id)
    services.save_take_home(lesson, data.dict())
    return selectors.take_home_of(lesson, _today(request))


@router.get("/lessons/{lesson_id}/take-home.pdf", auth=staff, response={200: None, 404: Problems, 422: Problems})
def print_take_home(request: CoachRequest, lesson_id: int) -> HttpResponse:
    """Return the page as a tagged PDF."""
    lesson = lesson_of(request.user, lesson_id)
    return pdf_response(selectors.take_home_of(lesson, _today(request)), lesson)


@router.get("/lessons/{lesson_id}/schedule", response={200: list[PlannedDay], 404: Problems, 422: Problems})
def get_schedule(request: CoachRequest, lesson_id: int) -> list[PlannedDay]:
    """Return the practice days until the next lesson."""
    return selectors.plan_of(lesson_of(request.user, lesson_id), _today(request))


@router.put("/lessons/{lesson_id}/schedule/{planned}", response={200: list[PlannedDay], 404: Problems, 422: Problems})
def move_day(request: CoachRequest, lesson_id: int, planned: date, data: MoveIn) -> list[PlannedDay]:
    """Move a day of the plan."""
    lesson = lesson_of(request.user, lesson_id)
    services.move_practice_day(lesson, planned, data.to, _today(request))
    return selectors.plan_of(lesson, _today(request))


@router.get("/lessons/{lesson_id}/schedule.ics", auth=staff, response={200: None, 404: Problems, 422: Problems})
def get_calendar(request: CoachRequest, lesson_id: int) -> HttpResponse:
    """Return the plan as an iCalendar file."""
    return calendar_response(lesson_of(request.user, lesson_id), _today(request))


@router.get("/lessons/{lesson_id}/home-link", response={200: HomeLinkOut, 404: Problems})
def get_home_link(request: CoachRequest, lesson_id: int) -> HomeLinkOut:
    """Return whether a link is active, and until when."""
    link = selectors.live_link_of(lesson_of(request.user, lesson_id), timezone.now())
    return HomeLinkOut(expires_at=link.expires_at if link else None)


@router.post("/lessons/{lesson_id}/home-link", response={201: HomeLinkOut, 404: Problems})
def make_home_link(request: CoachRequest, lesson_id: int) -> Status[Any]:
    """Create a link for the student to the page and its practice log; earlier links of the lesson expire."""
    link, token = services.make_home_link(lesson_of(request.user, lesson_id), request.user, timezone.now())
    return Status(201, HomeLinkOut(path=f"/home/{token}", expires_at=link.expires_at))


@router.delete("/lessons/{lesson_id}/home-link", response={204: None, 404: Problems})
def end_home_link(request: CoachRequest, lesson_id: int) -> Status[Any]:
    """Delete the lesson's links."""
    services.end_home_links(lesson_of(request.user, lesson_id), timezone.now())
    return Status(204, None)


@router.get("/lessons/{lesson_id}/practice", response={200: PracticeLog, 404: Problems, 422: Problems})
def get_practice(request: CoachRequest, lesson_id: int) -> PracticeLog:
    """Return the practice since the lesson."""
    return selectors.practice_log_of(lesson_of(request.user, lesson_id), _today(request))


@router.delete("/lessons/{lesson_id}/practice/pause", response={200: PracticeLog, 404: Problems, 422: Problems})
def resume_practice(request: CoachRequest, lesson_id: int) -> PracticeLog:
    """Resume a plan that was paused because of pain."""
    lesson = lesson_of(request.user, lesson_id)
    services.resume_practice(lesson)
    return selectors.practice_log_of(lesson, _today(request))


@router.get("/lessons/{lesson_id}/cold-test", response={200: Today, 404: Problems})
def get_cold_test(request: CoachRequest, lesson_id: int) -> Today:
    """Return how much of the last correction the first balls of this lesson show, and what to do today."""
    return today_of(lesson_of(request.user, lesson_id))


def calendar_response(lesson: Lesson, today: date) -> HttpResponse:
    """Return the plan as a calendar file."""
    data = calendar_of(lesson, selectors.plan_of(lesson, today), timezone.now())
    headers = {"Content-Disposition": 'attachment; filename="practice.ics"'}
    return HttpResponse(data, content_type="text/calendar; charset=utf-8", headers=headers)


def pdf_response(page: TakeHomePage, lesson: Lesson) -> HttpResponse:
    """Return the page as a PDF, with the pictures of its pair."""
    headers = {"Content-Disposition": f'inline; filename="take-home-{page.day:%Y-%m-%d}.pdf"'}
    stills = {side: pair_image(lesson, side) for side in SIDES} if page.pair else {}
    return HttpResponse(take_home_pdf(page, stills), content_type="application/pdf", headers=headers)


def _today(request: CoachRequest) -> date:
    return request.user.academy.day_of(timezone.now())

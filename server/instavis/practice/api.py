"""Take home: the page and the coach's words on it."""

from __future__ import annotations

from datetime import date

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Router, Schema
from pydantic import ConfigDict, Field

from instavis.config.errors import Problems
from instavis.lessons.selectors import lesson_of
from instavis.practice import selectors, services
from instavis.practice.calendar import calendar_of
from instavis.practice.progress import ColdTest, cold_test_of
from instavis.practice.selectors import TakeHomePage
from instavis_core.progress import Session

router = Router()


class TakeHomeIn(Schema):
    model_config = ConfigDict(extra="forbid")
    note: str = Field("", max_length=1000)
    minutes: int = Field(10, ge=1, le=90)
    days_a_week: int = Field(4, ge=1, le=6)
    next_lesson: date | None = None


class ColdTestOut(Schema):
    """The cold test, or nothing when no earlier lesson left a correction with balls."""

    test: ColdTest | None


@router.get("/lessons/{lesson_id}/take-home", response={200: TakeHomePage, 404: Problems})
def get_take_home(request: HttpRequest, lesson_id: int):
    """The page as it stands."""
    return selectors.take_home_of(lesson_of(request.user, lesson_id))


@router.put("/lessons/{lesson_id}/take-home", response={200: TakeHomePage, 404: Problems, 422: Problems})
def save_take_home(request: HttpRequest, lesson_id: int, data: TakeHomeIn):
    """Keep the coach's words and the practice plan."""
    lesson = lesson_of(request.user, lesson_id)
    services.save_take_home(lesson, data.dict())
    return selectors.take_home_of(lesson)


@router.get("/lessons/{lesson_id}/schedule", response={200: list[Session], 404: Problems, 422: Problems})
def get_schedule(request: HttpRequest, lesson_id: int):
    """The days to practise on until the next lesson."""
    return selectors.schedule_of(lesson_of(request.user, lesson_id))


@router.get("/lessons/{lesson_id}/schedule.ics", response={200: None, 404: Problems, 422: Problems})
def get_calendar(request: HttpRequest, lesson_id: int):
    """The same as an iCalendar file."""
    lesson = lesson_of(request.user, lesson_id)
    data = calendar_of(lesson, selectors.schedule_of(lesson), timezone.now())
    headers = {"Content-Disposition": 'attachment; filename="practice.ics"'}
    return HttpResponse(data, content_type="text/calendar; charset=utf-8", headers=headers)


@router.get("/lessons/{lesson_id}/cold-test", response={200: ColdTestOut, 404: Problems})
def get_cold_test(request: HttpRequest, lesson_id: int):
    """How much of the last correction the first balls of this lesson still show."""
    return {"test": cold_test_of(lesson_of(request.user, lesson_id))}

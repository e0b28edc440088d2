"""Take home: the page and the coach's words on it."""

from __future__ import annotations

from datetime import date

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import ConfigDict, Field

from instavis.config.errors import Problems
from instavis.lessons.selectors import lesson_of
from instavis.practice import selectors, services
from instavis.practice.selectors import TakeHomePage

router = Router()


class TakeHomeIn(Schema):
    model_config = ConfigDict(extra="forbid")
    note: str = Field("", max_length=1000)
    minutes: int = Field(10, ge=1, le=90)
    days_a_week: int = Field(4, ge=1, le=6)
    next_lesson: date | None = None


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

"""Second screens: a code from the coach, a token for the screen, and what it shows."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.accounts.access import CsrfOnly
from instavis.accounts.requests import CoachRequest
from instavis.display.screens import selectors, services
from instavis.display.screens.selectors import MatView
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problems, Refused
from instavis.platform.language import speak_to
from instavis.platform.throttle import address_of
from instavis_core.message import Message

router = Router()


class CodeOut(Schema):
    """A code that pairs one screen, shown only now."""

    code: str
    until: datetime


class CodeIn(Schema):
    model_config = ConfigDict(extra="forbid")
    code: str = Field(max_length=12)


class TokenOut(Schema):
    """The paired screen's token."""

    token: str


@router.post("/lessons/{lesson_id}/screens", response={201: CodeOut, 404: Problems})
def offer_screen(request: CoachRequest, lesson_id: int) -> Status[Any]:
    """Create a code for a second screen, valid for five minutes."""
    screen, code = services.offer_screen(lesson_of(request.user, lesson_id), timezone.now())
    return Status(201, CodeOut(code=code, until=screen.code_until))


@router.delete("/lessons/{lesson_id}/screens", response={204: None, 404: Problems})
def end_screens(request: CoachRequest, lesson_id: int) -> Status[Any]:
    """Disconnect every second screen of a lesson."""
    services.end_screens(lesson_of(request.user, lesson_id), timezone.now())
    return Status(204, None)


@router.post("/mat", auth=CsrfOnly(), response={200: TokenOut, 404: Problems, 429: Problems})
def pair_screen(request: HttpRequest, data: CodeIn) -> TokenOut:
    """Pair this screen by its code."""
    token = services.pair_screen(data.code, address_of(request), timezone.now())
    return TokenOut(token=token)


@router.get("/mat/{token}", auth=CsrfOnly(), response={200: MatView, 404: Problems})
def get_mat(request: HttpRequest, token: str) -> MatView:
    """Return what the student sees between two balls."""
    lesson = selectors.lesson_by_screen(token)
    if lesson is None:
        raise Refused(404, "screen", Message("lesson-screen-disconnected-ask-your-coach"))
    speak_to(lesson.coach)
    return selectors.mat_view(lesson)

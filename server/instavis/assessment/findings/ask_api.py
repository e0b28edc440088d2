"""Ask: the student's answers, here or behind a link, and setup notes."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.accounts.access import CsrfOnly
from instavis.accounts.requests import CoachRequest
from instavis.assessment.findings import selectors, services
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problems, Refused
from instavis.platform.language import speak_to
from instavis.platform.throttle import at_most
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message

router = Router()
LINK_ASKED = 120  # answers per minute of a student's link


class MissIn(Schema):
    """A usual miss with one club group: sides as seen from behind the ball, how far off [m]."""

    model_config = ConfigDict(extra="forbid")
    start: str = ""
    curve: str = ""
    off_m: float | None = None


class IntakeBody(Schema):
    """The answers of the intake; see `instavis_core.lesson.ask`."""

    model_config = ConfigDict(extra="forbid")
    misses: dict[str, MissIn] = Field(default_factory=dict, max_length=4)
    contact: list[str] = Field(default_factory=list, max_length=20)
    feels: list[str] = Field(default_factory=list, max_length=20)
    good_feel: str = Field("", max_length=300)
    thoughts: str = Field("", max_length=300)
    old_faults: list[str] = Field(default_factory=list, max_length=10)
    goal: str = Field("", max_length=300)
    kit: list[str] = Field(default_factory=list, max_length=20)
    limits: dict[str, str] = Field(default_factory=dict, max_length=20)
    health: list[str] = Field(default_factory=list, max_length=20)
    pain: str = Field("", max_length=300)


class IntakeOut(Schema):
    """The answers, whether they belong to this lesson, and otherwise when they were given."""

    answers: IntakeBody
    asked: bool
    by_student: bool = False
    earlier_day: date | None = None


class LinkOut(Schema):
    """A link for the student's phone, shown only now."""

    path: str
    expires_at: datetime


class AskWords(Schema):
    """The vocabulary of the intake."""

    club_group: dict[str, Message]
    region: dict[str, Message]
    limit: dict[str, Message]
    health: dict[str, Message]
    kit: dict[str, Message]
    contact: dict[str, Message]
    feel: dict[str, Message]


class AskPageOut(Schema):
    """What the student's page shows: only the student's first name and the answers."""

    first_name: str
    academy: str
    coach: str
    junior: bool
    answers: IntakeBody
    words: AskWords
    caution: Message
    language: str


class SetupIn(Schema):
    """Ball inside the lead heel [cm], stance between the heels [cm], aim right of the target [°]."""

    model_config = ConfigDict(extra="forbid")
    ball_cm: float | None = None
    stance_cm: float | None = None
    aim_deg: float | None = None


class SetupNoteOut(SetupIn):
    noted_at: datetime


class SetupsOut(Schema):
    """Setup notes in order, and what has changed since the first."""

    notes: list[SetupNoteOut]
    changes: list[Message]


@router.get("/lessons/{lesson_id}/intake", response={200: IntakeOut, 404: Problems})
def get_intake(request: CoachRequest, lesson_id: int) -> IntakeOut:
    """Return the student's answers; before the first answer, those of the last lesson."""
    return _intake(lesson_of(request.user, lesson_id))


@router.put("/lessons/{lesson_id}/intake", response={200: IntakeOut, 404: Problems, 422: Problems})
def save_intake(request: CoachRequest, lesson_id: int, data: IntakeBody) -> IntakeOut:
    """Save the student's answers."""
    lesson = lesson_of(request.user, lesson_id)
    services.save_intake(lesson, data.dict(), timezone.now())
    return _intake(lesson)


@router.post("/lessons/{lesson_id}/intake-link", response={201: LinkOut, 404: Problems})
def make_intake_link(request: CoachRequest, lesson_id: int) -> Status[Any]:
    """Create a link for the student to fill in the intake; earlier links of the lesson expire."""
    link, token = services.make_intake_link(lesson_of(request.user, lesson_id), request.user, timezone.now())
    return Status(201, LinkOut(path=f"/ask/{token}", expires_at=link.expires_at))


@router.delete("/lessons/{lesson_id}/intake-link", response={204: None, 404: Problems})
def end_intake_link(request: CoachRequest, lesson_id: int) -> Status[Any]:
    """Revoke the lesson's links."""
    services.end_intake_links(lesson_of(request.user, lesson_id), timezone.now())
    return Status(204, None)


@router.get("/ask/{token}", auth=CsrfOnly(), response={200: AskPageOut, 404: Problems})
def ask_page(request: HttpRequest, token: str) -> AskPageOut:
    """Return the student's page behind a link."""
    return _ask_page(token)


@router.put("/ask/{token}", auth=CsrfOnly(), response={200: AskPageOut, 404: Problems, 422: Problems})
def answer_ask(request: HttpRequest, token: str, data: IntakeBody) -> AskPageOut:
    """Save the student's answers from the link."""
    lesson = selectors.lesson_by_link(token, timezone.now())
    if lesson is not None:
        services.save_intake(lesson, data.dict(), timezone.now(), by_student=True)
    return _ask_page(token)


def _intake(lesson: Lesson) -> IntakeOut:
    own = selectors.intake_of(lesson)
    result = own or selectors.earlier_intake(lesson)
    return IntakeOut(
        answers=IntakeBody(**selectors.answers_of(result)),
        asked=own is not None,
        by_student=bool(own and own.by_student),
        earlier_day=result.lesson.day if result and not own else None,
    )


def _ask_page(token: str) -> AskPageOut:
    at_most(LINK_ASKED, "ask", token, window=60)
    lesson = selectors.lesson_by_link(token, timezone.now())
    if lesson is None:
        raise Refused(404, "link", Message("check-link-expired-ask-your-coach"))
    speak_to(lesson.coach)
    known = vocabulary()
    words = {
        kind: {w.id: w.label for w in known.intake_words.values() if w.kind == kind} for kind in ("contact", "feel")
    }
    return AskPageOut(
        first_name=lesson.student.name.split()[0],
        academy=lesson.coach.academy.name,
        coach=lesson.coach.name,
        junior=lesson.student.is_junior(lesson.academy.day_of(timezone.now())),
        answers=_intake(lesson).answers,
        words=AskWords(**words, **{k: known.words[k] for k in ("club_group", "region", "limit", "health", "kit")}),
        caution=known.cautions["not-medical"].text,
        language=lesson.coach.language,
    )


@router.get("/lessons/{lesson_id}/setups", response={200: SetupsOut, 404: Problems})
def get_setups(request: CoachRequest, lesson_id: int) -> dict[str, Any]:
    """Return setup notes, and what has changed."""
    notes, changes = selectors.setups_of(lesson_of(request.user, lesson_id))
    return {"notes": notes, "changes": changes}


@router.post("/lessons/{lesson_id}/setups", response={201: SetupsOut, 404: Problems, 422: Problems})
def note_setup(request: CoachRequest, lesson_id: int, data: SetupIn) -> Status[Any]:
    """Save the current ball position, stance and aim."""
    lesson = lesson_of(request.user, lesson_id)
    services.note_setup(lesson, request.user, data.dict(), timezone.now())
    notes, changes = selectors.setups_of(lesson)
    return Status(201, {"notes": notes, "changes": changes})

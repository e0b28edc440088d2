"""Ask, Baseline, Check and Cause: what was said, read, seen and concluded."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.config.errors import Problems, Refused
from instavis.config.keys import read_keys
from instavis.findings import selectors, services
from instavis.lessons.selectors import lesson_of
from instavis.people.api import CsrfOnly
from instavis.shots.selectors import baseline_balls, baseline_clubs, shot_of
from instavis_core.cause import Ranking
from instavis_core.choice import WhatIf
from instavis_core.knowledge import (
    Cause,
    Caution,
    Check,
    Club,
    Drill,
    IntakeWord,
    Metric,
    School,
    Stage,
    load_knowledge,
)
from instavis_core.reading import BallReading, BlockReading
from instavis_core.shots import read_club

router = Router()


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
    """The answers, whether they are this lesson's own, and from when they are otherwise."""

    answers: IntakeBody
    asked: bool
    by_student: bool = False
    earlier_day: date | None = None


class LinkOut(Schema):
    """A link for the student's phone, shown this once."""

    path: str
    expires_at: datetime


class AskWords(Schema):
    """The vocabulary of the intake."""

    club_group: dict[str, str]
    region: dict[str, str]
    limit: dict[str, str]
    health: dict[str, str]
    kit: dict[str, str]
    contact: dict[str, str]
    feel: dict[str, str]


class AskPageOut(Schema):
    """What the student's page shows: no more than the student's own first name and the answers."""

    first_name: str
    academy: str
    coach: str
    junior: bool
    answers: IntakeBody
    words: AskWords
    caution: str


class SetupIn(Schema):
    """Ball inside the lead heel [cm], stance between the heels [cm], aim right of the target [°]."""

    model_config = ConfigDict(extra="forbid")
    ball_cm: float | None = None
    stance_cm: float | None = None
    aim_deg: float | None = None


class SetupNoteOut(SetupIn):
    noted_at: datetime


class SetupsOut(Schema):
    """Set-up notes in their order, and what has moved since the first."""

    notes: list[SetupNoteOut]
    changes: list[str]


class EarlierOut(Schema):
    """The middles of an earlier baseline with the same club, golfer frame."""

    lesson_id: int
    day: date
    balls: int
    centres: dict[str, float]


class ReadingOut(Schema):
    """A reading and the keys of the balls it speaks of; places in the reading count from 0 in that list.

    ``inferred`` holds, for metrics that were not measured, one value a ball (golfer frame) or nothing;
    ``low_points_cm`` the low point of every ball.
    """

    reading: BlockReading
    ball_ids: list[int]
    clubs: dict[str, int]
    inferred: dict[str, list[float | None]]
    low_points_cm: list[float | None]


class WhatIfIn(Schema):
    """A change of delivery, golfer frame: of one ball, or of the baseline's middle when none is named."""

    model_config = ConfigDict(extra="forbid")
    shot_id: int | None = None
    changes: dict[str, float] = Field(max_length=7)


class Grades(Schema):
    """Newest grade by look."""

    grades: dict[str, str]


class KnowledgeOut(Schema):
    """What the screens need of the knowledge base."""

    metrics: list[Metric]
    clubs: list[Club]
    causes: list[Cause]
    checks: list[Check]
    intake_words: list[IntakeWord]
    drills: list[Drill]
    stages: list[Stage]
    schools: list[School]
    cautions: list[Caution]
    words: dict[str, dict[str, str]]


@router.get("/knowledge", response=KnowledgeOut)
def get_knowledge(request: HttpRequest) -> dict[str, Any]:
    """Faults, looks, drills, words: the same for everybody."""
    known = load_knowledge()
    return {
        "metrics": list(known.metrics.values()),
        "clubs": list(known.clubs.values()),
        "causes": list(known.causes.values()),
        "checks": list(known.checks.values()),
        "intake_words": list(known.intake_words.values()),
        "drills": list(known.drills.values()),
        "stages": list(known.stages.values()),
        "schools": list(known.schools.values()),
        "cautions": list(known.cautions.values()),
        "words": known.words,
    }


@router.get("/lessons/{lesson_id}/intake", response={200: IntakeOut, 404: Problems})
def get_intake(request: HttpRequest, lesson_id: int):
    """What the student said; before anybody asked, what was said in the last lesson."""
    return _intake(lesson_of(request.user, lesson_id))


@router.put("/lessons/{lesson_id}/intake", response={200: IntakeOut, 404: Problems, 422: Problems})
def save_intake(request: HttpRequest, lesson_id: int, data: IntakeBody):
    """Keep what the student said."""
    lesson = lesson_of(request.user, lesson_id)
    services.save_intake(lesson, data.dict(), timezone.now())
    return _intake(lesson)


@router.post("/lessons/{lesson_id}/intake-link", response={201: LinkOut, 404: Problems})
def make_intake_link(request: HttpRequest, lesson_id: int):
    """A link with which the student fills the intake beforehand; earlier links of the lesson end."""
    link, token = services.make_intake_link(lesson_of(request.user, lesson_id), request.user, timezone.now())
    return Status(201, LinkOut(path=f"/ask/{token}", expires_at=link.expires_at))


@router.delete("/lessons/{lesson_id}/intake-link", response={204: None, 404: Problems})
def end_intake_link(request: HttpRequest, lesson_id: int):
    """End the lesson's links at once."""
    services.end_intake_links(lesson_of(request.user, lesson_id), timezone.now())
    return Status(204, None)


@router.get("/ask/{token}", auth=CsrfOnly(), response={200: AskPageOut, 404: Problems})
def ask_page(request: HttpRequest, token: str):
    """The student's page behind a link."""
    return _ask_page(token)


@router.put("/ask/{token}", auth=CsrfOnly(), response={200: AskPageOut, 404: Problems, 422: Problems})
def answer_ask(request: HttpRequest, token: str, data: IntakeBody):
    """What the student answers."""
    lesson = selectors.lesson_by_link(token, timezone.now())
    if lesson is not None:
        services.save_intake(lesson, data.dict(), timezone.now(), by_student=True)
    return _ask_page(token)


def _intake(lesson) -> IntakeOut:
    own = selectors.intake_of(lesson)
    told = own or selectors.earlier_intake(lesson)
    return IntakeOut(
        answers=IntakeBody(**selectors.answers_of(told)),
        asked=own is not None,
        by_student=bool(own and own.by_student),
        earlier_day=told.lesson.started_at.date() if told and not own else None,
    )


def _ask_page(token: str) -> AskPageOut:
    lesson = selectors.lesson_by_link(token, timezone.now())
    if lesson is None:
        raise Refused(404, "link", "This link has ended. Ask your coach for a new one.")
    known = load_knowledge()
    words = {
        kind: {w.id: w.label for w in known.intake_words.values() if w.kind == kind} for kind in ("contact", "feel")
    }
    return AskPageOut(
        first_name=lesson.student.name.split()[0],
        academy=lesson.coach.academy.name,
        coach=lesson.coach.name,
        junior=lesson.student.is_junior(timezone.now().date()),
        answers=_intake(lesson).answers,
        words=AskWords(**words, **{k: known.words[k] for k in ("club_group", "region", "limit", "health", "kit")}),
        caution=known.cautions["not-medical"].text,
    )


@router.get("/lessons/{lesson_id}/setups", response={200: SetupsOut, 404: Problems})
def get_setups(request: HttpRequest, lesson_id: int):
    """Ball position, stance and aim as noted, and what has moved."""
    notes, changes = selectors.setups_of(lesson_of(request.user, lesson_id))
    return {"notes": notes, "changes": changes}


@router.post("/lessons/{lesson_id}/setups", response={201: SetupsOut, 404: Problems, 422: Problems})
def note_setup(request: HttpRequest, lesson_id: int, data: SetupIn):
    """Note ball position, stance and aim as they are now."""
    lesson = lesson_of(request.user, lesson_id)
    services.note_setup(lesson, request.user, data.dict(), timezone.now())
    notes, changes = selectors.setups_of(lesson)
    return Status(201, {"notes": notes, "changes": changes})


@router.get("/lessons/{lesson_id}/earlier", response={200: list[EarlierOut], 404: Problems})
def get_earlier(request: HttpRequest, lesson_id: int):
    """Earlier baselines of the student with the same club."""
    return selectors.earlier_baselines(lesson_of(request.user, lesson_id))


@router.get("/lessons/{lesson_id}/reading", response={200: ReadingOut, 404: Problems, 422: Problems})
def get_reading(request: HttpRequest, lesson_id: int, balls: str = "", club: str = ""):
    """The baseline read, with the lesson's club or another; only some balls when their keys are given."""
    lesson = lesson_of(request.user, lesson_id)
    if club:
        read_club(club)
    told = selectors.reading_of(baseline_balls(lesson, club), read_keys(balls) if balls else None)
    return told | {"clubs": baseline_clubs(lesson)}


@router.get("/shots/{shot_id}/reading", response={200: BallReading, 404: Problems})
def get_ball_reading(request: HttpRequest, shot_id: int):
    """One ball looked at closely: its values and their origin, and what made its start, curve and speed."""
    return selectors.ball_reading_of(shot_of(request.user, shot_id))


@router.post("/lessons/{lesson_id}/what-if", response={200: WhatIf, 404: Problems, 422: Problems})
def ask_what_if(request: HttpRequest, lesson_id: int, data: WhatIfIn):
    """How the ball would fly if the club came in differently, and why."""
    return selectors.what_if_of(lesson_of(request.user, lesson_id), data.shot_id, data.changes)


@router.get("/lessons/{lesson_id}/checks", response={200: Grades, 404: Problems})
def get_checks(request: HttpRequest, lesson_id: int):
    """Grades of the looks so far."""
    return {"grades": selectors.grades_of(lesson_of(request.user, lesson_id))}


@router.put("/lessons/{lesson_id}/checks", response={200: Grades, 404: Problems, 422: Problems})
def grade_checks(request: HttpRequest, lesson_id: int, data: Grades):
    """Grade looks; the others keep theirs."""
    lesson = lesson_of(request.user, lesson_id)
    services.grade_checks(lesson, request.user, data.grades, timezone.now())
    return {"grades": selectors.grades_of(lesson)}


@router.get("/lessons/{lesson_id}/cause", response={200: Ranking, 404: Problems})
def get_cause(request: HttpRequest, lesson_id: int):
    """The ranked causes with their evidence, and the looks that would tell most."""
    return selectors.ranking_of(lesson_of(request.user, lesson_id))

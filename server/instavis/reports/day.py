"""A coach's day: who comes, what to prepare for them, and what is still open."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from functools import partial

from django.db.models import prefetch_related_objects

from instavis.accounts.models import Coach
from instavis.corrections.models import Correction
from instavis.corrections.selectors import active_correction
from instavis.display.lessons.stations import StationState, stations_of
from instavis.knowledge.selectors import knowledge_for
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import real_lessons
from instavis.practice.models import TakeHome
from instavis.practice.selectors import practice_log_of
from instavis.reports.readable import UNREADABLE, readable
from instavis_core.errors import InputError
from instavis_core.knowledge import vocabulary
from instavis_core.lesson.clock import STATIONS
from instavis_core.message import NONE_SAID, Message
from instavis_core.progress import Dose
from instavis_core.terms import GIVEN_UP

FIRST_DAY = date(1970, 1, 1)
LOOK_BACK = timedelta(days=60)
LATE_FROM = timedelta(days=1)
FIRST_STATIONS = ("ask", "baseline")  # after them there is nothing left to prepare


@dataclass(frozen=True, kw_only=True)
class Visit:
    """A student of this day: with a lesson that has begun, or expected by the last take-home page.

    ``club`` is that of the lesson, or of the last one, with which the cold test is hit; ``prepare`` are sentences: what
    to lay out, what to ask, what to test first.
    """

    student_id: int
    student: str
    lesson_id: int | None
    begun_at: datetime | None
    coach: str
    state: Message
    last_lesson_id: int | None
    last_day: date | None
    club: str
    dose: Dose | None
    prepare: list[Message]


@dataclass(frozen=True, kw_only=True)
class OpenItem:
    """Something that waits for the coach."""

    kind: str
    student_id: int
    student: str
    lesson_id: int
    day: date
    text: Message


@dataclass(frozen=True, kw_only=True)
class Day:
    """The day; ``mine`` says whether only the coach's own lessons are shown."""

    day: date
    mine: bool
    visits: list[Visit]
    open: list[OpenItem]


def day_of(coach: Coach, day: date, mine: bool) -> Day:
    """What a day holds for a coach, or for the whole academy.

    Lessons count to the day they began; a student is expected when the newest take-home page names the day.

    Raises
    ------
    InputError
        For a day before there were launch monitors.
    """
    if day < FIRST_DAY:
        raise InputError("day", day.isoformat(), Message("a day from {first} on", first=FIRST_DAY.isoformat()))
    lessons = real_lessons(coach.academy_id)
    if mine:
        lessons = lessons.filter(coach=coach)
    recent = list(lessons.filter(started_at__gte=coach.academy.start_of(day) - LOOK_BACK).order_by("started_at", "id"))
    for lesson in recent:
        lesson.academy = coach.academy
    newest = {lesson.student_id: lesson for lesson in recent if lesson.day <= day}
    begun = [lesson for lesson in recent if lesson.day == day]
    pages = {t.lesson_id: t for t in TakeHome.objects.filter(lesson__in=recent)}
    here = {lesson.student_id for lesson in begun}
    expected = [
        lesson
        for lesson in newest.values()
        if lesson.student_id not in here and (page := pages.get(lesson.pk)) and page.next_lesson == day
    ]
    corrected = Correction.objects.filter(lesson__in=recent).exclude(outcome__in=GIVEN_UP)
    with_correction = set(corrected.values_list("lesson_id", flat=True))
    # Of most lessons of two months there is nothing to say: whose they were is asked for of the others.
    told = [x for x in recent if x in begun or x.ended_at is None or x.pk in pages or x.pk in with_correction]
    prefetch_related_objects(told, "student", "coach__academy")
    visits = [readable(x, partial(_begun, x, recent, day), partial(_unreadable_visit, x, x)) for x in begun]
    visits += [readable(x, partial(_expected, x, day), partial(_unreadable_visit, x, None)) for x in expected]
    waiting: list[OpenItem] = []
    for lesson in recent:
        is_newest, has_one = newest.get(lesson.student_id) == lesson, lesson.pk in with_correction
        found = partial(_open, lesson, is_newest, has_one, pages, day)
        waiting += readable(lesson, found, partial(_unreadable_item, lesson))
    return Day(day=day, mine=mine, visits=visits, open=waiting)


def without_findings(day: Day) -> Day:
    """The day as the desk sees it: who comes, to whom and when."""
    visits = [replace(visit, state=NONE_SAID, dose=None, prepare=[]) for visit in day.visits]
    return replace(day, visits=visits, open=[])


def _unreadable_visit(lesson: Lesson, begun: Lesson | None) -> Visit:
    student, coach = lesson.student, lesson.coach.name
    return Visit(
        student_id=student.pk,
        student=student.name,
        lesson_id=lesson.pk if begun else None,
        begun_at=lesson.started_at if begun else None,
        coach=coach,
        state=Message(UNREADABLE),
        last_lesson_id=None,
        last_day=None,
        club=lesson.club,
        dose=None,
        prepare=[],
    )


def _unreadable_item(lesson: Lesson) -> list[OpenItem]:
    text = Message("Something in this lesson cannot be read. Its balls are kept; the server's log says what it is.")
    return [
        OpenItem(
            kind=UNREADABLE,
            student_id=lesson.student_id,
            student=lesson.student.name,
            lesson_id=lesson.pk,
            day=lesson.day,
            text=text,
        )
    ]


def _begun(lesson: Lesson, recent: list[Lesson], day: date) -> Visit:
    state = next((s for s in stations_of(lesson) if s.id == lesson.station), None)
    earlier = [x for x in recent if x.student_id == lesson.student_id and x.started_at < lesson.started_at]
    last = earlier[-1] if earlier else None
    return Visit(
        student_id=lesson.student_id,
        student=lesson.student.name,
        lesson_id=lesson.pk,
        begun_at=lesson.started_at,
        coach=lesson.coach.name,
        state=_state(lesson, state),
        last_lesson_id=last.pk if last else None,
        last_day=last.day if last else None,
        club=lesson.club,
        dose=_dose(last, day) if last else None,
        prepare=_prepare(last, day) if lesson.station in FIRST_STATIONS and lesson.ended_at is None else [],
    )


def _state(lesson: Lesson, at: StationState | None) -> Message:
    if lesson.ended_at:
        return Message("ended")
    if at is None:
        return NONE_SAID
    return Message("at {station}: {state}", station=STATIONS[lesson.station], state=at.state)


def _expected(last: Lesson, day: date) -> Visit:
    return Visit(
        student_id=last.student_id,
        student=last.student.name,
        lesson_id=None,
        begun_at=None,
        coach=last.coach.name,
        state=Message("expected"),
        last_lesson_id=last.pk,
        last_day=last.day,
        club=last.club,
        dose=_dose(last, day),
        prepare=_prepare(last, day),
    )


def _dose(lesson: Lesson, day: date) -> Dose | None:
    if not TakeHome.objects.filter(lesson=lesson).exists():
        return None
    return practice_log_of(lesson, day).dose


def _prepare(last: Lesson | None, day: date) -> list[Message]:
    """What the last lesson asks of this one."""
    if last is None:
        return [Message("First lesson here: ask, then let them hit ten and say nothing.")]
    knowledge, words = knowledge_for(last), vocabulary().words
    correction = active_correction(last)
    told = []
    dose = _dose(last, day)
    if dose and dose.pains:
        regions = ", ".join(words["region"][r].lower() for r in dose.pains)
        told.append(Message("Ask about the pain first ({regions}).", regions=regions))
    if correction is None:
        return [*told, Message("No correction is open: go on from Cause.")]
    club = vocabulary().clubs[last.club].label
    told.append(Message("Cold test: the first ten balls with the {club}, no talk.", club=club))
    stage = words["stage"][correction.stage].lower()
    told.append(
        Message(
            "Last time: {label_of}, {stage}, {outcome}.",
            label_of=knowledge.label_of(correction.fault).lower(),
            stage=stage,
            outcome=correction.outcome,
        )
    )
    drill = knowledge.drills.get(correction.drill)
    if drill and drill.object != "none":
        told.append(Message("Lay out {object} for {name}.", object=drill.object, name=drill.name.lower()))
    return told


def _open(lesson: Lesson, is_newest: bool, corrected: bool, pages: dict[int, TakeHome], day: date) -> list[OpenItem]:
    page = pages.get(lesson.pk)

    def item(kind: str, text: Message) -> OpenItem:
        student = lesson.student
        return OpenItem(
            kind=kind, student_id=student.pk, student=student.name, lesson_id=lesson.pk, day=lesson.day, text=text
        )

    found = []
    if page and page.paused_for and is_newest:
        region = vocabulary().words["region"][page.paused_for].lower()
        found.append(
            item("pain", Message("Practice paused for pain ({region}): call before the next lesson.", region=region))
        )
    if lesson.ended_at is None and lesson.day < day:
        found.append(item("not-ended", Message("The lesson was never ended.")))
    if corrected and page is None and lesson.day < day:
        found.append(item("no-page", Message("No take-home page was written.")))
    if is_newest and page and page.next_lesson and page.next_lesson + LATE_FROM <= day:
        found.append(
            item(
                "overdue", Message("The next lesson was meant for {next_lesson:%-d %B}.", next_lesson=page.next_lesson)
            )
        )
    return found

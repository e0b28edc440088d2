"""A coach's day: who comes, what to prepare, and what is open."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from functools import partial

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
from instavis_core.message import NOTHING, Message, joined
from instavis_core.progress import Dose
from instavis_core.terms import GIVEN_UP

FIRST_DAY = date(1970, 1, 1)
LOOK_BACK = timedelta(days=60)
LATE_FROM = timedelta(days=1)
PAIN, NOT_ENDED, NO_PAGE, OVERDUE = "pain", "not-ended", "no-page", "overdue"
FIRST_STATIONS = ("ask", "baseline")  # after them there is nothing left to prepare


@dataclass(frozen=True, kw_only=True)
class Visit:
    """A student of this day: with a lesson, or expected by the last take-home page.

    ``club`` is that of the lesson, or of the last one, for the cold test; ``prepare`` are sentences: what to prepare,
    what to ask, what to test first.
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
    """The day; ``mine`` is True if only the coach's own lessons are shown."""

    day: date
    mine: bool
    visits: list[Visit]
    open: list[OpenItem]


def day_of(coach: Coach, day: date, mine: bool) -> Day:
    """Return the day of a coach, or of the whole academy.

    Lessons belong to the day they started; a student is expected on the day that the newest take-home page names.

    Raises
    ------
    InputError
        For a day before there were launch monitors.
    """
    if day < FIRST_DAY:
        raise InputError("day", day.isoformat(), Message("common-day", first=FIRST_DAY.isoformat()))
    recent = _recent(coach, day, mine)
    newest = {row.student_id: row for row in recent if row.day <= day}
    begun = [row for row in recent if row.day == day]
    here = {row.student_id for row in begun}
    expected = [row for row in newest.values() if row.student_id not in here and row.next_lesson == day]
    waiting = {row.pk: kinds for row in recent if (kinds := _open(row, newest.get(row.student_id) is row, day))}
    last = _lessons_before(recent)
    # Most lessons of two months need no line: they are not read.
    result = {row.pk for row in [*begun, *expected, *(last[now.pk] for now in begun)] if row} | set(waiting)
    lessons = Lesson.objects.select_related("student", "coach__academy", "academy").in_bulk(result)

    def still_there(rows: Iterable[_Recent]) -> Iterator[tuple[_Recent, Lesson]]:
        return ((row, lessons[row.pk]) for row in rows if row.pk in lessons)

    visits = []
    for row, lesson in still_there(begun):
        before = last[row.pk]
        found = partial(_begun, lesson, lessons.get(before.pk) if before else None, day)
        visits.append(readable(lesson, found, partial(_unreadable_visit, lesson, lesson)))
    for _, lesson in still_there(expected):
        visits.append(readable(lesson, partial(_expected, lesson, day), partial(_unreadable_visit, lesson, None)))
    items: list[OpenItem] = []
    for row, lesson in still_there(row for row in recent if row.pk in waiting):
        tell = partial(_items, lesson, waiting[row.pk], row)
        items += readable(lesson, tell, partial(_unreadable_item, lesson))
    return Day(day=day, mine=mine, visits=visits, open=items)


@dataclass(frozen=True, kw_only=True)
class _Recent:
    """What decides whether a lesson of the last two months needs a line."""

    pk: int
    student_id: int
    day: date
    ended: bool
    corrected: bool
    written: bool
    paused_for: str
    next_lesson: date | None


def _recent(coach: Coach, day: date, mine: bool) -> list[_Recent]:
    """Return a coach's lessons, or the academy's, in order of their start."""
    academy = coach.academy
    lessons = real_lessons(academy.pk).filter(started_at__gte=academy.start_of(day) - LOOK_BACK)
    if mine:
        lessons = lessons.filter(coach=coach)
    rows = list(lessons.order_by("started_at", "id").values_list("pk", "student_id", "started_at", "ended_at"))
    keys = [pk for pk, *_ in rows]
    candidates = Correction.objects.filter(lesson_id__in=keys).exclude(outcome__in=GIVEN_UP)
    corrected = set(candidates.values_list("lesson_id", flat=True))
    result = TakeHome.objects.filter(lesson_id__in=keys).values_list("lesson_id", "paused_for", "next_lesson")
    pages = {pk: (paused_for, next_lesson) for pk, paused_for, next_lesson in result}
    recent = []
    for pk, student_id, started_at, ended_at in rows:
        paused_for, next_lesson = pages.get(pk, ("", None))
        recent.append(
            _Recent(
                pk=pk,
                student_id=student_id,
                day=academy.day_of(started_at),
                ended=ended_at is not None,
                corrected=pk in corrected,
                written=pk in pages,
                paused_for=paused_for,
                next_lesson=next_lesson,
            )
        )
    return recent


def _lessons_before(recent: list[_Recent]) -> dict[int, _Recent | None]:
    """Return the same student's lesson before each, within the last two months; ``recent`` is in order."""
    before: dict[int, _Recent | None] = {}
    newest: dict[int, _Recent] = {}
    for row in recent:
        before[row.pk], newest[row.student_id] = newest.get(row.student_id), row
    return before


def _open(row: _Recent, is_newest: bool, day: date) -> list[str]:
    """Return what in a lesson waits for the coach on a day, by kind."""
    overdue = row.next_lesson is not None and row.next_lesson + LATE_FROM <= day
    waits = {
        PAIN: bool(row.paused_for) and is_newest,
        NOT_ENDED: not row.ended and row.day < day,
        NO_PAGE: row.corrected and not row.written and row.day < day,
        OVERDUE: overdue and is_newest,
    }
    return [kind for kind, it_does in waits.items() if it_does]


def _items(lesson: Lesson, kinds: list[str], row: _Recent) -> list[OpenItem]:
    return [_item(lesson, kind, _waits(kind, row)) for kind in kinds]


def _item(lesson: Lesson, kind: str, text: Message) -> OpenItem:
    student = lesson.student
    return OpenItem(
        kind=kind, student_id=student.pk, student=student.name, lesson_id=lesson.pk, day=lesson.day, text=text
    )


def _waits(kind: str, row: _Recent) -> Message:
    if kind == PAIN:
        region = vocabulary().words["region"][row.paused_for].lower()
        return Message("reports-practice-paused-because-pain-call", region=region)
    if kind == OVERDUE:
        return Message("reports-next-lesson-planned", next_lesson=row.next_lesson)
    return Message("reports-lesson-not-ended") if kind == NOT_ENDED else Message("reports-no-take-home-page-written")


def without_findings(day: Day) -> Day:
    """Return the day for the desk: who comes, to whom and when."""
    visits = [replace(visit, state=NOTHING, dose=None, prepare=[]) for visit in day.visits]
    return replace(day, visits=visits, open=[])


def _unreadable_visit(lesson: Lesson, begun: Lesson | None) -> Visit:
    student, coach = lesson.student, lesson.coach.name
    return Visit(
        student_id=student.pk,
        student=student.name,
        lesson_id=lesson.pk if begun else None,
        begun_at=lesson.started_at if begun else None,
        coach=coach,
        state=Message("reports-unreadable"),
        last_lesson_id=None,
        last_day=None,
        club=lesson.club,
        dose=None,
        prepare=[],
    )


def _unreadable_item(lesson: Lesson) -> list[OpenItem]:
    text = Message("reports-part-lesson-cant-read-balls")
    return [_item(lesson, UNREADABLE, text)]


def _begun(lesson: Lesson, last: Lesson | None, day: date) -> Visit:
    state = next((s for s in stations_of(lesson) if s.id == lesson.station), None)
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
        return Message("reports-ended")
    if at is None:
        return NOTHING
    return Message("reports-at", station=STATIONS[lesson.station], state=at.state)


def _expected(last: Lesson, day: date) -> Visit:
    return Visit(
        student_id=last.student_id,
        student=last.student.name,
        lesson_id=None,
        begun_at=None,
        coach=last.coach.name,
        state=Message("reports-expected"),
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
    """Return what the last lesson requires of this one."""
    if last is None:
        return [Message("reports-first-lesson-here-ask-let")]
    knowledge, words = knowledge_for(last), vocabulary().words
    correction = active_correction(last)
    result = []
    dose = _dose(last, day)
    if dose and dose.pains:
        regions = joined(words["region"][r].lower() for r in dose.pains)
        result.append(Message("reports-ask-about-pain-first", regions=regions))
    if correction is None:
        return [*result, Message("reports-no-correction-open-continue-cause")]
    club = vocabulary().clubs[last.club].label
    result.append(Message("reports-cold-test-first-ten-balls", club=club))
    stage = words["stage"][correction.stage].lower()
    result.append(
        Message(
            "reports-last-time",
            label_of=knowledge.label_of(correction.fault).lower(),
            stage=stage,
            outcome=Message(f"outcome-{correction.outcome}"),
        )
    )
    drill = knowledge.drills.get(correction.drill)
    if drill and drill.object != "none":
        result.append(Message("reports-get-ready", object=drill.object, name=drill.name.lower()))
    return result

"""Changes to the take-home page, its plan, its link and its practice log."""

from __future__ import annotations

from dataclasses import asdict
from datetime import date, datetime, time, timedelta
from typing import Any

from django.utils import timezone

from instavis.accounts.models import Coach
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import Lesson
from instavis.platform.errors import Refused
from instavis.platform.keys import hash_token
from instavis.platform.transactions import transactional
from instavis.practice.links import new_token
from instavis.practice.models import HomeLink, Practice, TakeHome
from instavis.practice.selectors import plan_of
from instavis_core.errors import InputError
from instavis_core.message import Message
from instavis_core.progress import PracticeEntry, move_day
from instavis_report import read_own_lines

LINK_AFTER_LESSON = timedelta(days=14)  # a late next lesson still finds the page
LINK_WITHOUT_DATE = timedelta(days=42)
FARTHEST = timedelta(days=730)
MAX_PRACTICES = 400  # of one lesson: several a day for months


@transactional
def save_take_home(lesson: Lesson, values: dict[str, Any]) -> TakeHome:
    """Save the coach's text and the practice plan.

    Raises
    ------
    InputError
        For lines of an unknown section, too many or too long ones, or a next lesson before this one.
    """
    if "sections" in values:
        values["sections"] = read_own_lines(values["sections"])
    locked = locked_lesson(lesson.pk)
    first, until = locked.day + timedelta(days=1), values.get("next_lesson")
    if until is not None and not first <= until <= first + FARTHEST:
        raise InputError(
            "next_lesson",
            until.isoformat(),
            Message("practice-day-within-two-years", first=first.isoformat()),
        )
    take_home, _ = TakeHome.objects.update_or_create(lesson=locked, defaults=values)
    log_change(locked, Aspect.TAKE_HOME)
    return take_home


@transactional
def move_practice_day(lesson: Lesson, planned: date, to: date, today: date) -> None:
    """Move a day of the plan; back to its planned day undoes the move.

    Raises
    ------
    InputError
        For a move the plan does not allow.
    """
    locked = locked_lesson(lesson.pk)
    take_home, _ = TakeHome.objects.get_or_create(lesson=locked)
    move_day(plan_of(locked, today), planned, to, take_home.next_lesson, today)
    moves = {**take_home.moves, planned.isoformat(): to.isoformat()}
    take_home.moves = {a: b for a, b in moves.items() if a != b}
    take_home.save(update_fields=["moves"])
    log_change(locked, Aspect.TAKE_HOME)


@transactional
def make_home_link(lesson: Lesson, coach: Coach, now: datetime) -> tuple[HomeLink, str]:
    """Create a link to the take-home page, shown only now; earlier ones of the lesson expire."""
    end_home_links(lesson, now)
    words = TakeHome.objects.filter(lesson=lesson).first()
    until = now + LINK_WITHOUT_DATE
    if words and words.next_lesson:
        noon = datetime.combine(words.next_lesson, time(12), timezone.get_current_timezone())
        until = max(noon, now) + LINK_AFTER_LESSON
    token = new_token()
    link = HomeLink.objects.create(
        lesson=lesson, token_hash=hash_token(token), made_by=coach, made_at=now, expires_at=until
    )
    log_change(locked_lesson(lesson.pk), Aspect.TAKE_HOME)
    return link, token


def end_home_links(lesson: Lesson, now: datetime) -> None:
    """Delete every link to the take-home page."""
    lesson.home_links.filter(revoked_at__isnull=True).update(revoked_at=now)


@transactional
def log_practice(lesson: Lesson, entry: PracticeEntry, now: datetime) -> bool:
    """Store one practice entry; return False if it is known. Pain pauses the plan until the coach resumes it.

    Raises
    ------
    Refused
        When the log of the lesson is full.
    """
    locked = locked_lesson(lesson.pk)
    if locked.practices.filter(entry_id=entry.entry_id).exists():
        return False
    if locked.practices.count() >= MAX_PRACTICES:
        raise Refused(409, "practice", Message("practice-log-full-ask-your-coach"))
    Practice.objects.create(lesson=locked, received_at=now, **{**asdict(entry), "balls": list(entry.balls)})
    if entry.pain:
        paused = {"paused_for": entry.pain, "paused_at": entry.ended_at}
        TakeHome.objects.update_or_create(lesson=locked, defaults=paused)
    log_change(locked, Aspect.TAKE_HOME)
    return True


@transactional
def resume_practice(lesson: Lesson) -> None:
    """Resume a plan that was paused because of pain; the log keeps the pain."""
    locked = locked_lesson(lesson.pk)
    TakeHome.objects.filter(lesson=locked).update(paused_for="", paused_at=None)
    log_change(locked, Aspect.TAKE_HOME)

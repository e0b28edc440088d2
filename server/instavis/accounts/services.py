"""Changes to people; each checks its input, and nothing else writes the models."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, datetime
from enum import StrEnum
from typing import Any
from zoneinfo import available_timezones

from instavis.accounts.factors import second_factors
from instavis.accounts.models import Academy, Coach, Student
from instavis.accounts.people import note
from instavis.platform.errors import Refused
from instavis.platform.transactions import transactional
from instavis_core.errors import InputError
from instavis_core.golfer import read_golfer
from instavis_core.message import Message, plain
from instavis_report.catalog import catalog

OLDEST_YEARS = 110


@transactional
def found_academy(name: str, username: str, password: str) -> Coach:
    """Create a new academy and its head coach."""
    academy = Academy.objects.create(name=name)
    return Coach.objects.create_user(
        username, password=password, name=username.title(), role=Coach.Role.HEAD, academy=academy
    )


class OpenLessons(StrEnum):
    """What a change of hand does to open lessons."""

    KEEP = "keep"
    """They keep the hand they started with."""
    TURN = "turn"
    """The hand was wrong from the start: their balls were hit from the other side."""


@transactional
def save_student(
    coach: Coach, student: Student | None, values: dict[str, Any], today: date, open_lessons: OpenLessons | None = None
) -> Student:
    """Create or change a student of the coach's academy; omitted values stay.

    A lesson keeps the hand it started with: only open ones can be changed, and only on request.

    Raises
    ------
    InputError
        For a missing name, an impossible birthday or handicap.
    Refused
        For a junior without a guardian's consent, or a change of hand that leaves open what becomes of open lessons.
    """
    student = student or Student(academy=coach.academy)
    hand_before = student.hand if student.pk else None
    for name in ("name", "hand", "handicap", "born", "guardian_consent"):
        if name in values:
            setattr(student, name, values[name])
    student.name = (student.name or "").strip()
    if not student.name:
        raise InputError("name", student.name, Message("account-students-name"))
    golfer = read_golfer({"hand": student.hand, "handicap": student.handicap})
    student.handicap = golfer.handicap
    born = student.born
    if born is not None and not today.year - OLDEST_YEARS <= born.year <= today.year - 3:
        raise InputError("born", born.isoformat(), Message("account-birthday-between-3-110-years"))
    if student.is_junior(today) and not student.guardian_consent.strip():
        message = Message("account-junior-enter-guardian-who-consented")
        raise Refused(422, "guardian_consent", message)
    student.save()
    if hand_before not in (None, student.hand):
        _change_hand(student, open_lessons)
    return student


def _change_hand(student: Student, open_lessons: OpenLessons | None) -> None:
    begun = student.lessons.filter(ended_at__isnull=True).exclude(hand=student.hand)
    if open_lessons is None and begun.exists():
        message = Message("account-open-lesson-hand-changed-wrong", name=student.name)
        raise Refused(409, "open_lessons", message)
    if open_lessons == OpenLessons.TURN:
        for lesson in begun.select_for_update():
            lesson.shots.exclude(hand="").update(hand=student.hand)
            lesson.hand = student.hand
            lesson.save(update_fields=["hand"])


RETENTION_LIMITS: Mapping[str, tuple[int, int]] = {
    "keep_lines_days": (90, 3650),
    "keep_films_days": (0, 3650),
    "keep_pictures_days": (30, 3650),
    "keep_students_years": (1, 30),
}
"""How long an academy may keep data that is deleted automatically."""
ALWAYS_ALLOWED = ("keep_pictures_days", "keep_students_years")
"""What may be kept forever: None."""


@transactional
def change_academy(head: Coach, values: dict[str, Any], now: datetime) -> Academy:
    """Set the academy's name, time zone, defaults for new people, and data retention.

    Raises
    ------
    InputError
        For an empty name, a zone or a language that does not exist, a time that is too short or too long.
    Refused
        When a second factor is asked of everyone by somebody who has none.
    """
    academy = head.academy
    for name, value in values.items():
        if value is None and name not in ALWAYS_ALLOWED:
            continue
        value = _checked(name, value)
        if name == "asks_for_factor" and value and not academy.asks_for_factor and not second_factors(head):
            message = Message("account-set-up-your-own-second")
            raise Refused(409, "asks_for_factor", message)
        if value != getattr(academy, name):
            setattr(academy, name, value)
            note(
                head,
                Message(
                    "activity-setting",
                    name=Message(f"activity-setting-{name.replace('_', '-')}"),
                    value=_setting_text(value),
                ),
                now,
            )
    academy.save()
    return academy


def _setting_text(value: Any) -> Message:
    if isinstance(value, bool):
        return Message("activity-yes" if value else "activity-no")
    return Message("activity-forever") if value is None else plain(str(value))


def _checked(name: str, value: Any) -> Any:
    """Return a setting of the academy as it is stored.

    Raises
    ------
    InputError
    """
    if name == "name":
        value = value.strip()
        if not value:
            raise InputError("name", value, Message("account-academys-name"))
    elif name == "time_zone":
        if value not in available_timezones():
            raise InputError("time_zone", value, Message("account-time-zone-such-europe-dublin"))
    elif name == "language":
        value = catalog(value).language
    elif name in RETENTION_LIMITS and value is not None:
        least, most = RETENTION_LIMITS[name]
        if not least <= value <= most:
            raise InputError(name, value, Message("account-between", least=least, most=most))
    return value


def archive_student(student: Student, archived: bool, now: datetime) -> Student:
    """Archive a student, or restore one; no stored data changes."""
    student.archived_at = (student.archived_at or now) if archived else None
    student.save(update_fields=["archived_at"])
    return student


def change_consent(student: Student, given: bool, now: datetime) -> Student:
    """Record or withdraw the consent to keep balls, checks and words.

    Raises
    ------
    Refused
        For a junior whose guardian is not named.
    """
    return _agreed(student, "consented_at", given, now)


def change_filming(student: Student, agreed: bool, now: datetime) -> Student:
    """Record that the student agrees to be filmed, or that they withdraw; juniors as with consent.

    A student who withdraws wants the films deleted: call `withdraw_filming` for that.
    """
    return _agreed(student, "filming_agreed_at", agreed, now)


def require_filming(student_id: int) -> None:
    """Raise an error for a film of a student who has not agreed to be filmed: the one rule for every way a film
    arrives.

    Raises
    ------
    Refused
        409, naming ``filming``.
    """
    if not Student.objects.filter(pk=student_id, filming_agreed_at__isnull=False).exists():
        raise Refused(409, "filming", Message("account-student-not-agreed-filmed-film"))


def _agreed(student: Student, to_what: str, given: bool, now: datetime) -> Student:
    if given and student.is_junior(student.academy.day_of(now)) and not student.guardian_consent.strip():
        raise Refused(422, "guardian_consent", Message("account-junior-enter-guardian-who-consents"))
    setattr(student, to_what, now if given else None)
    student.save(update_fields=[to_what])
    return student

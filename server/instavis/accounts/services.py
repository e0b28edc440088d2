"""Changes to people; each checks what it needs and nothing else calls the models."""

from __future__ import annotations

from datetime import date, datetime
from enum import StrEnum
from typing import Any
from zoneinfo import available_timezones

from instavis.accounts.models import Academy, Coach, Student
from instavis.accounts.people import note
from instavis.platform.errors import Refused
from instavis.platform.transactions import whole
from instavis_core.errors import InputError
from instavis_core.golfer import read_golfer
from instavis_core.message import Message

OLDEST_YEARS = 110


@whole
def found_academy(name: str, username: str, password: str) -> Coach:
    """A new academy and its head coach."""
    academy = Academy.objects.create(name=name)
    return Coach.objects.create_user(
        username, password=password, name=username.title(), role=Coach.Role.HEAD, academy=academy
    )


class OpenLessons(StrEnum):
    """What a change of hand does to lessons that have begun and not ended."""

    KEEP = "keep"
    """They stay as they were begun."""
    TURN = "turn"
    """The hand was wrong from the start: they, and the balls in them, were hit from the new side."""


@whole
def save_student(
    coach: Coach, student: Student | None, values: dict[str, Any], today: date, open_lessons: OpenLessons | None = None
) -> Student:
    """Create or change a student of the coach's academy; what is not among the values stays.

    A lesson keeps the hand it began with: only open ones can be turned, and only when that is asked for.

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
        raise InputError("name", student.name, Message("the student's name"))
    golfer = read_golfer({"hand": student.hand, "handicap": student.handicap})
    student.handicap = golfer.handicap
    born = student.born
    if born is not None and not today.year - OLDEST_YEARS <= born.year <= today.year - 3:
        raise InputError("born", born.isoformat(), Message("a birthday between 3 and 110 years ago"))
    if student.is_junior(today) and not student.guardian_consent.strip():
        message = Message("A junior needs the name of the guardian who consented before anything is kept.")
        raise Refused(422, "guardian_consent", message)
    student.save()
    if hand_before not in (None, student.hand):
        _change_hand(student, open_lessons)
    return student


def _change_hand(student: Student, open_lessons: OpenLessons | None) -> None:
    begun = student.lessons.filter(ended_at__isnull=True).exclude(hand=student.hand)
    if open_lessons is None and begun.exists():
        message = Message(
            "A lesson of {name} is open. Should it stay as it was begun, or was the hand wrong?", name=student.name
        )
        raise Refused(409, "open_lessons", message)
    if open_lessons == OpenLessons.TURN:
        for lesson in begun.select_for_update():
            lesson.shots.exclude(hand="").update(hand=student.hand)
            lesson.hand = student.hand
            lesson.save(update_fields=["hand"])


@whole
def change_academy(head: Coach, name: str | None, time_zone: str | None, now: datetime) -> Academy:
    """Set the academy's name, and the zone whose days it counts.

    Raises
    ------
    InputError
        For an empty name, or a zone that does not exist.
    """
    academy = head.academy
    if name is not None:
        name = name.strip()
        if not name:
            raise InputError("name", name, Message("the academy's name"))
        academy.name = name
    if time_zone is not None:
        if time_zone not in available_timezones():
            raise InputError("time_zone", time_zone, Message("a time zone such as Europe/Dublin"))
        academy.time_zone = time_zone
    academy.save(update_fields=["name", "time_zone"])
    note(head, f"The academy is {academy.name}, its days are those of {academy.time_zone}.", now)
    return academy


def archive_student(student: Student, archived: bool, now: datetime) -> Student:
    """Put a student out of the lists, or back into them; nothing of what is kept changes."""
    student.archived_at = (student.archived_at or now) if archived else None
    student.save(update_fields=["archived_at"])
    return student


def change_consent(student: Student, given: bool, now: datetime) -> Student:
    """Record consent to the keeping of balls, looks and words, or take it back.

    Raises
    ------
    Refused
        For a junior whose guardian is not named.
    """
    if given and student.is_junior(student.academy.day_of(now)) and not student.guardian_consent.strip():
        raise Refused(422, "guardian_consent", Message("Name the guardian who consents for a junior first."))
    student.consented_at = now if given else None
    student.save(update_fields=["consented_at"])
    return student

"""Changes to people; each checks what it needs and nothing else calls the models."""

from __future__ import annotations

from datetime import date, datetime

from django.db import transaction

from instavis.config.errors import Refused
from instavis.people.models import Academy, Coach, Student
from instavis_core.errors import InputError
from instavis_core.golfer import read_golfer

OLDEST_YEARS = 110


@transaction.atomic
def found_academy(name: str, username: str, password: str) -> Coach:
    """A new academy and its head coach."""
    academy = Academy.objects.create(name=name)
    return Coach.objects.create_user(
        username, password=password, name=username.title(), role=Coach.Role.HEAD, academy=academy
    )


def save_student(coach: Coach, student: Student | None, values: dict, today: date) -> Student:
    """Create or change a student of the coach's academy.

    Raises
    ------
    InputError
        For a missing name, an impossible birthday or handicap.
    Refused
        For a junior without a guardian's consent.
    """
    student = student or Student(academy=coach.academy)
    for name in ("name", "hand", "handicap", "born", "guardian_consent"):
        if name in values:
            setattr(student, name, values[name])
    student.name = (student.name or "").strip()
    if not student.name:
        raise InputError("name", student.name, "the student's name")
    golfer = read_golfer({"hand": student.hand, "handicap": student.handicap})
    student.handicap = golfer.handicap
    born = student.born
    if born is not None and not today.year - OLDEST_YEARS <= born.year <= today.year - 3:
        raise InputError("born", born.isoformat(), "a birthday between 3 and 110 years ago")
    if student.is_junior(today) and not student.guardian_consent.strip():
        message = "A junior needs the name of the guardian who consented before anything is kept."
        raise Refused(422, "guardian_consent", message)
    student.save()
    return student


def change_consent(student: Student, given: bool, now: datetime) -> Student:
    """Record consent to the keeping of balls, looks and words, or take it back.

    Raises
    ------
    Refused
        For a junior whose guardian is not named.
    """
    if given and student.is_junior(now.date()) and not student.guardian_consent.strip():
        raise Refused(422, "guardian_consent", "Name the guardian who consents for a junior first.")
    student.consented_at = now if given else None
    student.save(update_fields=["consented_at"])
    return student

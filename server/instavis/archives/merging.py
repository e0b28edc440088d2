"""Merge two records of one person."""

from __future__ import annotations

from datetime import datetime

from instavis.accounts.models import Coach, Student
from instavis.accounts.people import note
from instavis.corrections.models import OwnEffect
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.platform.errors import Refused
from instavis.platform.transactions import transactional
from instavis_core.message import Message

FILLED = ("handicap", "born", "consented_at", "filming_agreed_at")


@transactional
def merge_students(coach: Coach, remaining: Student, other: Student, now: datetime) -> Student:
    """Move the lessons of one record, and what was learned in them, to another, and delete the empty record.

    The remaining record takes over what it lacks; where both have a value, it keeps its own.

    Raises
    ------
    Refused
        For one record with itself, or for two that play from different sides: a person has one hand.
    """
    if remaining.pk == other.pk:
        raise Refused(422, "other_id", Message("archives-choose-another-record-same-person"))
    if remaining.hand != other.hand:
        raise Refused(409, "hand", Message("archives-one-plays-right-handed-other"))
    lessons = sorted(other.lessons.values_list("pk", flat=True))
    for lesson_id in lessons:
        lesson = locked_lesson(lesson_id)
        lesson.student = remaining
        lesson.save(update_fields=["student"])
        log_change(lesson, Aspect.LESSON)
    OwnEffect.objects.filter(student=other).update(student=remaining)
    for name in FILLED:
        if getattr(remaining, name) is None:
            setattr(remaining, name, getattr(other, name))
    remaining.guardian_consent = remaining.guardian_consent or other.guardian_consent
    remaining.archived_at = None
    remaining.save()
    gone = other.pk
    Student.objects.get(pk=gone).delete()
    note(coach, Message("activity-student-merged", gone=gone, kept=remaining.pk, lessons=len(lessons)), now)
    return remaining

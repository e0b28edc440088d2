"""Erasing a student on request."""

from __future__ import annotations

from datetime import datetime

from django.db.models import Q

from instavis.accounts.models import Coach, Student
from instavis.archives.models import AuditLine
from instavis.capture.devices.models import RefusedBall
from instavis.capture.files.models import Draft
from instavis.capture.files.services import forget_draft
from instavis.corrections.models import OwnEffect
from instavis.platform.errors import Refused
from instavis.platform.transactions import whole
from instavis_core.message import Message


@whole
def erase_student(coach: Coach, student: Student, name: str, now: datetime) -> AuditLine:
    """Remove everything that is kept of a student; one line without the name stays.

    Raises
    ------
    Refused
        For anybody but the head coach, or when the name is not given as it stands.
    """
    if coach.role != coach.Role.HEAD:
        raise Refused(403, "role", Message("Only the head coach may erase a student."))
    if name.strip() != student.name:
        raise Refused(422, "name", Message("Give the student's name as it stands, so that nobody is erased by a slip."))
    lessons = list(student.lessons.values_list("pk", flat=True))
    balls = sum(lesson.shots.count() for lesson in student.lessons.all())
    OwnEffect.objects.filter(student=student).delete()
    RefusedBall.objects.filter(Q(lesson_id__in=lessons) | Q(shot__lesson_id__in=lessons)).delete()
    for draft in Draft.objects.filter(lesson_id__in=lessons):
        forget_draft(draft)
    for lesson in student.lessons.all():
        lesson.shots.all().delete()
        lesson.delete()
    key = student.pk
    student.delete()
    text = f"Student {key} erased on request: {len(lessons)} lessons, {balls} balls."
    return note(coach, text, now)


def note(coach: Coach, text: str, now: datetime) -> AuditLine:
    """Write down that a coach did something with what is kept of people; the text names nobody."""
    return AuditLine.objects.create(academy=coach.academy, at=now, who=coach.name, text=text)

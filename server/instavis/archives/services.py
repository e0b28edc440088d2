"""Delete a student: on request, or by the academy's retention rule."""

from __future__ import annotations

from datetime import datetime

from django.db.models import Q

from instavis.accounts.models import AuditLine, Coach, Student
from instavis.accounts.people import note, note_by_itself
from instavis.assessment.clips.models import Clip
from instavis.assessment.clips.services import forget_clip
from instavis.assessment.films.models import Film
from instavis.assessment.films.services import forget_films
from instavis.capture.devices.models import RefusedBall
from instavis.capture.files.models import Draft
from instavis.capture.files.services import forget_draft
from instavis.corrections.models import OwnEffect
from instavis.platform.errors import Refused
from instavis.platform.transactions import transactional
from instavis_core.message import Message


@transactional
def erase_student(coach: Coach, student: Student, name: str, now: datetime) -> AuditLine:
    """Delete everything stored about a student; one log line without the name stays.

    Raises
    ------
    Refused
        When the name does not match exactly.
    """
    if name.strip() != student.name:
        raise Refused(422, "name", Message("archives-enter-students-exact-name-confirm"))
    return note(coach, Message("activity-student-erased", student=student.pk, **remove_student(student)), now)


@transactional
def forget_student(student: Student, now: datetime) -> AuditLine:
    """Delete a student by the academy's rule for students who no longer come."""
    years = student.academy.keep_students_years
    text = Message("activity-student-erased-by-rule", student=student.pk, years=years, **remove_student(student))
    return note_by_itself(student.academy_id, text, now)


def remove_student(student: Student) -> dict[str, int]:
    """Delete everything stored about a student; return the number of lessons and balls."""
    lessons = list(student.lessons.values_list("pk", flat=True))
    balls = sum(lesson.shots.count() for lesson in student.lessons.all())
    OwnEffect.objects.filter(student=student).delete()
    RefusedBall.objects.filter(Q(lesson_id__in=lessons) | Q(shot__lesson_id__in=lessons)).delete()
    for draft in Draft.objects.filter(lesson_id__in=lessons):
        forget_draft(draft)
    for clip in Clip.objects.filter(lesson_id__in=lessons):
        forget_clip(clip)
    forget_films(Film.objects.filter(recording__lesson__in=lessons))
    for lesson in student.lessons.all():
        lesson.shots.all().delete()
        lesson.delete()
    Student.objects.filter(pk=student.pk).delete()
    return {"lessons": len(lessons), "balls": balls}

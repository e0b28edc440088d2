"""Reads of people, always within the coach's academy."""

from __future__ import annotations

from datetime import datetime

from django.db.models import Count, Max, Q, QuerySet

from instavis.accounts.models import Academy, Coach, Student
from instavis.platform.errors import not_found


def teaching_with(coach: Coach) -> QuerySet[Coach]:
    """Return the current coaches of the academy."""
    return Coach.objects.filter(academy_id=coach.academy_id, is_active=True).exclude(role=Coach.Role.DESK)


def colleague_of(coach: Coach, coach_id: int) -> Coach:
    """Return a colleague; one of another academy is treated as missing."""
    found = teaching_with(coach).filter(pk=coach_id).first()
    if found is None:
        raise not_found("coach")
    return found


def real_students(academy: Academy) -> QuerySet[Student]:
    """Return real students, without the golfers of practice lessons."""
    return academy.students.filter(made_up=False)


def students_of(coach: Coach) -> QuerySet[Student]:
    """Return students of the academy with the number and the last of their lessons."""
    return real_students(coach.academy).annotate(lesson_count=Count("lessons"), last_lesson=Max("lessons__started_at"))


def students_gone_at(academy: Academy, moment: datetime) -> QuerySet[Student]:
    """Return students who, at a given time, have not come for longer than the academy keeps their record."""
    years = academy.keep_students_years
    if years is None:
        return academy.students.none()
    cut = moment.replace(year=moment.year - years, day=min(moment.day, 28))
    with_last_lesson = academy.students.annotate(last_lesson=Max("lessons__started_at"))
    return with_last_lesson.filter(Q(last_lesson__lt=cut) | Q(last_lesson__isnull=True, created_at__lt=cut))


def student_of(coach: Coach, student_id: int) -> Student:
    """Return one student of the academy; one of another academy is treated as missing."""
    student = students_of(coach).filter(pk=student_id).first()
    if student is None:
        raise not_found("student")
    return student

"""Archives out and in, deletion, and the activity log."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from django.utils import timezone
from ninja import File, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import ConfigDict

from instavis.accounts.access import heads
from instavis.accounts.api import StudentOut
from instavis.accounts.models import AuditLine, Student
from instavis.accounts.people import note
from instavis.accounts.people_api import AuditOut
from instavis.accounts.requests import CoachRequest
from instavis.accounts.selectors import student_of
from instavis.archives import incoming, merging, outgoing, services
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problems, Refused
from instavis_core.message import Message

router = Router()


class BroughtOut(Schema):
    """The lessons an archive added."""

    lesson_ids: list[int]


class MergeIn(Schema):
    """The record to be merged and removed."""

    model_config = ConfigDict(extra="forbid")
    other_id: int


class EraseIn(Schema):
    """The student's name, typed again to confirm."""

    model_config = ConfigDict(extra="forbid")
    name: str


def _download(data: bytes, name: str) -> HttpResponse:
    return HttpResponse(
        data, content_type="application/zip", headers={"Content-Disposition": f'attachment; filename="{name}"'}
    )


@router.get("/lessons/{lesson_id}/archive", response={200: None, 404: Problems, 409: Problems})
def lesson_archive(request: CoachRequest, lesson_id: int) -> HttpResponse:
    """Download a lesson as a ZIP that restores it elsewhere."""
    lesson = lesson_of(request.user, lesson_id)
    if lesson.student.made_up:  # imported elsewhere, it would become a student's
        raise Refused(409, "lesson", Message("archives-practice-lessons-cannot-exported-they"))
    note(request.user, Message("activity-lesson-exported", lesson=lesson.pk), timezone.now())
    return _download(outgoing.lesson_archive(lesson), f"lesson-{lesson.pk}.zip")


@router.get("/students/{student_id}/archive", response={200: None, 404: Problems})
def student_archive(request: CoachRequest, student_id: int) -> HttpResponse:
    """Download everything stored about a student as a ZIP."""
    student = student_of(request.user, student_id)
    note(request.user, Message("activity-student-exported", student=student.pk), timezone.now())
    return _download(outgoing.student_archive(student), f"student-{student.pk}.zip")


@router.post("/archives", response={201: BroughtOut, 413: Problems, 422: Problems})
def bring_in(request: CoachRequest, file: File[UploadedFile]) -> Status[Any]:
    """Import the lessons of an archive; all or none."""
    lessons = incoming.bring_in(request.user, file.read(), timezone.now())
    note(request.user, Message("activity-lessons-imported", lessons=len(lessons)), timezone.now())
    return Status(201, BroughtOut(lesson_ids=[lesson.pk for lesson in lessons]))


@router.post("/students/{student_id}/merge", response={200: StudentOut, 404: Problems, 409: Problems, 422: Problems})
def merge_students(request: CoachRequest, student_id: int, data: MergeIn) -> Student:
    """Merge another record of the same person into this one."""
    remaining, other = student_of(request.user, student_id), student_of(request.user, data.other_id)
    merging.merge_students(request.user, remaining, other, timezone.now())
    return student_of(request.user, student_id)


@router.post("/students/{student_id}/erase", auth=heads, response={200: AuditOut, 404: Problems, 422: Problems})
def erase_student(request: CoachRequest, student_id: int, data: EraseIn) -> AuditLine:
    """Delete a student and everything stored about them (head coach); one log line without the name stays."""
    student = student_of(request.user, student_id)
    return services.erase_student(request.user, student, data.name, timezone.now())

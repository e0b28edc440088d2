"""Import archives: bounded, validated by the same models as everything else, all or nothing."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Mapping
from datetime import datetime
from pathlib import PurePosixPath
from typing import Any

from django.db import DatabaseError
from pydantic import BaseModel

from instavis.accounts.models import Coach, Student
from instavis.accounts.selectors import real_students
from instavis.assessment.findings.models import BodyResult, CheckGrade, Intake, SetupNote
from instavis.assessment.recordings.models import Recording
from instavis.assessment.stills.models import Still
from instavis.assessment.stills.pictures import bare, read_picture
from instavis.capture.shots.models import Shot
from instavis.capture.shots.services import fields_of
from instavis.corrections.measured.services import measure
from instavis.corrections.models import Correction, OwnEffect
from instavis.corrections.trials.models import Trial
from instavis.lessons.models import Block, Lesson
from instavis.platform.transactions import transactional
from instavis.practice.models import Practice, TakeHome
from instavis_core.errors import InputError
from instavis_core.message import Message
from instavis_io import archive_parts as parts
from instavis_io.archive import LessonDocument, read_lesson

MAX_BYTES = 80 * 1024 * 1024  # unpacked
MAX_DOCUMENT = 24 * 1024 * 1024
MAX_RATIO = 60
"""Documents of balls compress to a sixth; one that compresses to a hundredth is meant to fill the memory."""
SMALL = 1024 * 1024  # below this size any compression ratio is accepted
MAX_FILES = 2000
MAX_LESSONS = 200


@transactional
def bring_in(coach: Coach, data: bytes, now: datetime) -> list[Lesson]:
    """Import the lessons of an archive into the coach's academy; all or none.

    A student of the same name, hand and birthday is treated as the same person. Answers are stored as those of the
    importing coach.

    Raises
    ------
    InputError
        For what is no archive, a newer version, names that climb out of it, too large ones, and any value the
        application itself would refuse; the place is named.
    """
    files = _unpacked(data)
    places = sorted(name for name in files if PurePosixPath(name).name == "lesson.json")
    if not 1 <= len(places) <= MAX_LESSONS:
        raise InputError("archive", len(places), Message("archives-1-lessons-lesson-json", most=MAX_LESSONS))
    lessons = []
    for name in places:
        try:
            document = read_lesson(files[name])
            lessons.append(_lesson(coach, document, files, str(PurePosixPath(name).parent), now))
        except InputError as error:
            raise error.inside(name) from error
        except DatabaseError as error:
            # The database refused what the models accepted: a gap in the models, not the user's error.
            raise InputError(name, Message("found-unusable"), Message("archives-lesson-can-stored")) from error
    return lessons


def _unpacked(data: bytes) -> dict[str, bytes]:
    """Return the files of a ZIP by name, or a bare JSON document; nothing is written to disk."""
    if data[:1] in (b"{", b"\xef"):
        return {"lesson.json": data.removeprefix(b"\xef\xbb\xbf")}
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            entries = [e for e in archive.infolist() if not e.is_dir()]
            if len(entries) > MAX_FILES or sum(e.file_size for e in entries) > MAX_BYTES:
                megabytes = MAX_BYTES // 1024 // 1024
                raise InputError(
                    "archive",
                    len(entries),
                    Message(
                        "archives-most-files-mb-unpacked",
                        most=MAX_FILES,
                        megabytes=megabytes,
                    ),
                )
            for entry in entries:
                _refuse_bomb(entry)
                path = PurePosixPath(entry.filename)
                if path.is_absolute() or ".." in path.parts or "\\" in entry.filename:
                    raise InputError("archive", entry.filename, Message("archives-names-inside-archive"))
            return {entry.filename: archive.read(entry) for entry in entries}
    except (zipfile.BadZipFile, EOFError, OSError, NotImplementedError, RuntimeError) as error:
        raise InputError(
            "archive", type(error).__name__, Message("archives-complete-zip-json-archive-lessons")
        ) from error
    except ValueError as error:
        if isinstance(error, InputError):
            raise
        raise InputError(
            "archive", type(error).__name__, Message("archives-complete-zip-json-archive-lessons")
        ) from error


def _refuse_bomb(entry: zipfile.ZipInfo) -> None:
    """Refuse files with an extreme compression ratio, and documents too large to parse at once.

    Raises
    ------
    InputError
    """
    document = not entry.filename.lower().endswith((".jpg", ".jpeg", ".png"))
    if entry.file_size > SMALL and entry.file_size > MAX_RATIO * max(1, entry.compress_size):
        raise InputError(
            "archive",
            Message("found-compression", name=entry.filename, size=entry.file_size, packed=entry.compress_size),
            Message("archives-normal-compression-ratio-possible-zip"),
        )
    if document and entry.file_size > MAX_DOCUMENT:
        megabytes = MAX_DOCUMENT // 1024 // 1024
        raise InputError("archive", entry.filename, Message("archives-documents-most-mb", megabytes=megabytes))


def _lesson(coach: Coach, document: LessonDocument, files: Mapping[str, bytes], folder: str, now: datetime) -> Lesson:
    lesson = Lesson.objects.create(
        academy=coach.academy,
        coach=coach,
        student=_student(coach, document.student),
        hand=document.hand,
        knowledge_version=coach.academy.knowledge_versions.first(),
        **_values(document.lesson, leave={"hand", "coach", "conditions"}),
    )
    if document.intake:
        Intake.objects.create(lesson=lesson, **_values(document.intake))
    for setup in document.setups:
        SetupNote.objects.create(lesson=lesson, coach=coach, **_values(setup))
    for result in document.body:
        BodyResult.objects.create(lesson=lesson, coach=coach, **_values(result, leave={"coach"}))
    for grade in document.grades:
        CheckGrade.objects.create(lesson=lesson, coach=coach, **_values(grade, leave={"coach"}))
    corrections = [_correction(lesson, row) for row in document.corrections]
    shots = _blocks(lesson, document.blocks, corrections)
    lesson.conditions = document.lesson.conditions  # only now: a new block takes over the waiting balls
    lesson.save(update_fields=["conditions"])
    for recording in document.recordings:
        shot = shots.get(recording.ball) if recording.ball is not None else None
        found = recording.found.model_dump() if recording.found else {}
        values = _values(recording, leave={"ball", "found"})
        Recording.objects.create(lesson=lesson, shot=shot, found=found, **values)
    for correction in corrections:
        measure(lesson, correction)
    for still in document.stills:
        _still(lesson, still, files, folder)
    if document.take_home:
        words = _values(document.take_home)
        words["moves"] = {a.isoformat(): b.isoformat() for a, b in words["moves"].items()}
        TakeHome.objects.create(lesson=lesson, **words)
    for practice in document.practices:
        Practice.objects.create(lesson=lesson, **_values(practice))
    return lesson


def _student(coach: Coach, part: parts.Student) -> Student:
    same = real_students(coach.academy).filter(name=part.name, hand=part.hand, born=part.born).first()
    return same or Student.objects.create(academy=coach.academy, **_values(part))


def _correction(lesson: Lesson, part: parts.Correction) -> Correction:
    row = Correction(lesson=lesson, **_values(part, leave={"own_effect", "begun_in"}))
    for windows in ("gate", "gate_by_stage", "guards"):
        setattr(row, windows, {name: list(window) for name, window in getattr(row, windows).items()})
    if part.begun_in:
        # The lesson it continues may be in the same archive, exist here already, or be missing.
        row.begun_in = lesson.student.lessons.filter(started_at=part.begun_in).exclude(pk=lesson.pk).first()
    row.save()
    if part.own_effect:
        OwnEffect.objects.create(student=lesson.student, correction=row, **_values(part.own_effect))
    return row


def _blocks(lesson: Lesson, blocks: list[parts.Block], corrections: list[Correction]) -> dict[int, Shot]:
    """Store the blocks with their balls, numbered without gaps; return balls by their old number."""
    shots: dict[int, Shot] = {}
    for result in blocks:
        block = Block.objects.create(
            lesson=lesson,
            purpose=result.purpose,
            stage=result.stage,
            conditions=result.conditions,
            opened_at=result.opened_at,
            correction=corrections[result.correction] if result.correction is not None else None,
        )
        if result.open:
            lesson.open_block = block
        if result.trial:
            Trial.objects.create(lesson=lesson, block=block, **_values(result.trial))
        for ball in result.shots:
            shots[ball.number] = Shot(
                academy_id=lesson.academy_id,
                lesson=lesson,
                block=block,
                received_at=ball.received_at,
                set_aside=ball.set_aside,
                **fields_of(ball.shot, lesson.club, result.stage),
            )
    for place, number in enumerate(sorted(shots), start=1):
        shots[number].number = place
    Shot.objects.bulk_create(shots.values(), batch_size=500)
    lesson.last_ball = len(shots)
    lesson.save(update_fields=["open_block", "last_ball"])
    by_number = {s.number: s for s in lesson.shots.all()}
    return {number: by_number[place] for place, number in enumerate(sorted(shots), start=1)}


def _still(lesson: Lesson, part: parts.Still, files: Mapping[str, bytes], folder: str) -> None:
    name = str(PurePosixPath(folder) / part.file)
    if name not in files:
        raise InputError(part.file, "missing", Message("archives-picture-archive"))
    _, width, height = read_picture(files[name])
    if (width, height) != (part.width, part.height):
        raise InputError(
            part.file,
            f"{width} × {height}",
            Message(
                "archives-stated-pixels",
                width=part.width,
                height=part.height,
            ),
        )
    # We wrote this picture, so keep it bit for bit, with nothing attached.
    values = _values(part, leave={"file", "look"})
    Still.objects.create(lesson=lesson, check_id=part.look, image=bare(files[name]), **values)


def _values(part: BaseModel, leave: set[str] | None = None) -> dict[str, Any]:
    """Return the values of a part by name, for the row with the same names."""
    return part.model_dump(exclude=leave)

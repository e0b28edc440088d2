"""Archives in: bounded, checked through the same gates as everything else, all or nothing."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Mapping
from datetime import date, datetime
from pathlib import PurePosixPath
from typing import Any

import numpy as np
from django.db import transaction

from instavis.archives.outgoing import CORRECTION, FORMAT, OWN_EFFECT, PRACTICE, STUDENT, TAKE_HOME
from instavis.corrections.models import Correction, OwnEffect
from instavis.findings.models import CheckGrade, Intake, SetupNote
from instavis.lessons.models import STATIONS, Block, Lesson
from instavis.people.models import Coach, Student
from instavis.practice.models import Practice, TakeHome
from instavis.recordings.models import Recording
from instavis.shots.models import Shot
from instavis.shots.services import fields_of
from instavis.stills.models import Still
from instavis.stills.pictures import read_picture
from instavis.trials.models import Trial
from instavis_core.cause.evidence import NOT_SEEN
from instavis_core.errors import InputError
from instavis_core.knowledge import load_knowledge
from instavis_core.lesson import read_answers
from instavis_core.progress import read_entry
from instavis_core.proof import read_correction
from instavis_core.recordings import find_moments, swing_of_columns
from instavis_core.shots import read_club, read_shot
from instavis_core.stills import read_clicks, read_scale
from instavis_report import read_own_lines

MOST_BYTES = 80 * 1024 * 1024  # unpacked
MOST_FILES = 2000
MOST_LESSONS = 200
PARTS = {
    "format",
    "student",
    "lesson",
    "intake",
    "setups",
    "grades",
    "corrections",
    "blocks",
    "recordings",
    "stills",
    "take_home",
    "practices",
}


@transaction.atomic
def bring_in(coach: Coach, data: bytes, now: datetime) -> list[Lesson]:
    """Restore the lessons of an archive in the coach's academy; all or none.

    A student of the same name, hand and birthday is taken for the same person. Grades are kept as the coach's who
    brings them in.

    Raises
    ------
    InputError
        For what is no archive, a newer version, names that climb out of it, too large ones, and any value the
        application itself would refuse; the place is named.
    """
    files = _unpacked(data)
    places = sorted(name for name in files if PurePosixPath(name).name == "lesson.json")
    if not 1 <= len(places) <= MOST_LESSONS:
        raise InputError("archive", len(places), f"1 to {MOST_LESSONS} lessons (lesson.json)")
    lessons = []
    for name in places:
        try:
            document = json.loads(files[name].decode("utf-8"), parse_constant=_no_constant)
        except (UnicodeDecodeError, json.JSONDecodeError) as error:
            raise InputError(name, type(error).__name__, "a JSON document in UTF-8") from error
        try:
            lessons.append(_lesson(coach, document, files, str(PurePosixPath(name).parent), now))
        except InputError as error:
            raise error.inside(name) from error
        except (KeyError, TypeError, ValueError, AttributeError) as error:
            raise InputError(name, f"{type(error).__name__}: {error}"[:120], "a lesson as it was exported") from error
    return lessons


def _no_constant(name: str) -> float:
    raise InputError("number", name, "a finite number")


def _unpacked(data: bytes) -> dict[str, bytes]:
    """The files of a ZIP by name, or a bare JSON document; nothing is written anywhere."""
    if data[:1] in (b"{", b"\xef"):
        return {"lesson.json": data.removeprefix(b"\xef\xbb\xbf")}
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            entries = [e for e in archive.infolist() if not e.is_dir()]
            if len(entries) > MOST_FILES or sum(e.file_size for e in entries) > MOST_BYTES:
                megabytes = MOST_BYTES // 1024 // 1024
                raise InputError("archive", len(entries), f"at most {MOST_FILES} files and {megabytes} MB unpacked")
            for entry in entries:
                path = PurePosixPath(entry.filename)
                if path.is_absolute() or ".." in path.parts or "\\" in entry.filename:
                    raise InputError("archive", entry.filename, "names inside the archive")
            return {entry.filename: archive.read(entry) for entry in entries}
    except (zipfile.BadZipFile, EOFError, OSError, NotImplementedError, RuntimeError) as error:
        raise InputError("archive", type(error).__name__, "a whole ZIP or JSON archive of lessons") from error
    except ValueError as error:
        if isinstance(error, InputError):
            raise
        raise InputError("archive", type(error).__name__, "a whole ZIP or JSON archive of lessons") from error


def _lesson(coach: Coach, raw: Mapping[str, Any], files: Mapping[str, bytes], folder: str, now: datetime) -> Lesson:
    if raw.get("format") != FORMAT:
        raise InputError("format", raw.get("format"), f"{FORMAT}; a newer one needs a newer Instavis")
    if unknown := set(raw) - PARTS:
        raise InputError(sorted(unknown)[0], "present", "one of " + ", ".join(sorted(PARTS)))
    told = raw["lesson"]
    if told["station"] not in STATIONS:
        raise InputError("lesson.station", told["station"], "one of " + ", ".join(STATIONS))
    lesson = Lesson.objects.create(
        academy=coach.academy,
        coach=coach,
        student=_student(coach, raw["student"]),
        started_at=_moment(told["started_at"]),
        ended_at=_moment(told["ended_at"]),
        station=told["station"],
        club=read_club(told["club"]).id,
        minutes=int(told["minutes"]),
        school=told["school"],
        knowledge_version=coach.academy.knowledge_versions.first(),
    )
    if raw["intake"]:
        extra = {"by_student": bool(raw["intake"]["by_student"]), "updated_at": _moment(raw["intake"]["updated_at"])}
        answers = {k: v for k, v in raw["intake"].items() if k not in extra}
        Intake.objects.create(lesson=lesson, **read_answers(answers), **extra)
    for row in raw["setups"]:
        SetupNote.objects.create(lesson=lesson, coach=coach, **_row(row, SetupNote))
    _grades(lesson, coach, raw["grades"])
    corrections = [_correction(lesson, row) for row in raw["corrections"]]
    shots = _blocks(lesson, raw["blocks"], corrections)
    for row in raw["recordings"]:
        recording = Recording(lesson=lesson, shot=shots.get(row["ball"]), **_row(row, Recording, leave=("ball",)))
        swing = swing_of_columns({name: np.array(values, float) for name, values in recording.columns.items()})
        find_moments(swing, recording.marks)
        recording.save()
    for row in raw["stills"]:
        _still(lesson, row, files, folder)
    if raw["take_home"]:
        _take_home(lesson, raw["take_home"])
    for row in raw["practices"]:
        _practice(lesson, row)
    return lesson


def _student(coach: Coach, raw: Mapping[str, Any]) -> Student:
    values = {name: raw[name] for name in STUDENT}
    values["born"] = date.fromisoformat(raw["born"]) if raw["born"] else None
    if values["hand"] not in ("right", "left") or not str(values["name"]).strip():
        raise InputError("student.hand", values["hand"], "right or left, and a name")
    same = coach.academy.students.filter(name=values["name"], hand=values["hand"], born=values["born"]).first()
    return same or Student.objects.create(academy=coach.academy, consented_at=_moment(raw["consented_at"]), **values)


def _grades(lesson: Lesson, coach: Coach, rows: list[dict]) -> None:
    checks = load_knowledge().checks
    for row in rows:
        known = checks.get(row["check_id"])
        if known is not None and row["grade"] not in (*known.grades, NOT_SEEN):
            raise InputError(f"grades.{row['check_id']}", row["grade"], "one of " + ", ".join(known.grades))
        CheckGrade.objects.create(lesson=lesson, coach=coach, **_row(row, CheckGrade, leave=("coach",)))


def _correction(lesson: Lesson, raw: dict) -> Correction:
    row = Correction(lesson=lesson, **_row(raw, Correction, leave=("own_effect", "begun_in"), only=CORRECTION))
    read_correction(row.to_document(), lesson.golfer, load_knowledge().clubs[lesson.club])
    if raw["begun_in"]:
        # The lesson it goes on with may be in the same archive, be here already, or be gone.
        row.begun_in = lesson.student.lessons.filter(started_at=_moment(raw["begun_in"])).first()
    row.save()
    if raw["own_effect"]:
        own = _row(raw["own_effect"], OwnEffect, only=OWN_EFFECT)
        OwnEffect.objects.create(student=lesson.student, correction=row, **own)
    return row


def _take_home(lesson: Lesson, raw: dict) -> None:
    words = TakeHome(lesson=lesson, **_row(raw, TakeHome, only=TAKE_HOME))
    words.sections = read_own_lines(words.sections)
    words.moves = _moves(words.moves)
    words.save()


def _moves(raw: Any) -> dict[str, str]:
    try:
        return {date.fromisoformat(a).isoformat(): date.fromisoformat(b).isoformat() for a, b in raw.items()}
    except (AttributeError, TypeError, ValueError):
        raise InputError("take_home.moves", raw, "days as planned, each with the day it is now") from None


def _practice(lesson: Lesson, raw: dict) -> None:
    values = _row(raw, Practice, only=PRACTICE)
    read_entry({**raw, "sent_at": raw["ended_at"]}, values["ended_at"])
    Practice.objects.create(lesson=lesson, **values)


def _blocks(lesson: Lesson, rows: list[dict], corrections: list[Correction]) -> dict[int, Shot]:
    """The blocks with their balls; balls by number."""
    shots: dict[int, Shot] = {}
    for raw in rows:
        if raw["purpose"] not in Block.Purpose.values:
            raise InputError("blocks.purpose", raw["purpose"], "one of " + ", ".join(Block.Purpose.values))
        block = Block.objects.create(
            lesson=lesson,
            purpose=raw["purpose"],
            stage=raw["stage"],
            opened_at=_moment(raw["opened_at"]),
            correction=corrections[raw["correction"]] if raw["correction"] is not None else None,
        )
        if raw["open"]:
            lesson.open_block = block
        if raw["trial"]:
            Trial.objects.create(lesson=lesson, block=block, **_row(raw["trial"], Trial))
        for told in raw["shots"]:
            shot = Shot(
                academy_id=lesson.academy_id,
                lesson=lesson,
                block=block,
                number=int(told["number"]),
                received_at=_moment(told["received_at"]),
                set_aside=told["set_aside"],
                **fields_of(read_shot(told["record"]), lesson.club, raw["stage"]),
            )
            if shot.number in shots:
                raise InputError("blocks.shots.number", shot.number, "every number once")
            shots[shot.number] = shot
    Shot.objects.bulk_create(shots.values(), batch_size=500)
    lesson.last_ball = max(shots, default=0)
    lesson.save(update_fields=["open_block", "last_ball"])
    return {s.number: s for s in lesson.shots.all()}


def _still(lesson: Lesson, raw: dict, files: Mapping[str, bytes], folder: str) -> None:
    name = str(PurePosixPath(folder) / raw["file"])
    if name not in files:
        raise InputError(raw["file"], "missing", "the picture in the archive")
    _, width, height = read_picture(files[name])
    read_clicks(raw["points"], width, height)
    read_scale(raw["scale"], width, height)
    # The picture was written by us and is small: it is kept byte for byte, so that nothing is lost by travelling.
    Still.objects.create(lesson=lesson, image=files[name], **_row(raw, Still, leave=("file",)))


def _row(raw: Mapping[str, Any], model, leave: tuple[str, ...] = (), only: tuple[str, ...] | None = None) -> dict:
    """Values of a row for a model, moments and days read; fields it does not have are refused."""
    names = {f.name for f in model._meta.concrete_fields} - {"id", "lesson", "coach", "shot", "block", "image"}
    values = {}
    for name, value in raw.items():
        if name in leave:
            continue
        if name not in names or (only is not None and name not in only):
            raise InputError(name, value, "one of " + ", ".join(sorted(only or names)))
        kind = model._meta.get_field(name).get_internal_type()
        if value is not None and kind == "DateTimeField":
            value = _moment(value)
        elif value is not None and kind == "DateField":
            value = date.fromisoformat(value)
        values[name] = value
    return values


def _moment(value: str | None) -> datetime | None:
    if value is None:
        return None
    moment = datetime.fromisoformat(value)
    if moment.tzinfo is None:
        raise InputError("time", value, "a moment with its zone")
    return moment

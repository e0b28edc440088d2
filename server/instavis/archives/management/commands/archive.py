"""`manage.py archive export|import …`: lessons, students and balls between files and the database."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any, TypeVar

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.utils import timezone

from instavis.accounts.models import Coach, Student
from instavis.archives.incoming import bring_in
from instavis.archives.outgoing import lesson_archive, student_archive
from instavis.capture.shots.selectors import as_record, shots_of
from instavis.capture.shots.services import import_shots
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Refused
from instavis_core.errors import InputError
from instavis_io.ball_files import read_balls
from instavis_io.tables import TableErrors, write_table

BALLS = {".csv", ".json", ".ndjson"}


Row = TypeVar("Row", Lesson, Student)


class Command(BaseCommand):
    """Import and export with the same checks as the screens."""

    help = __doc__
    requires_system_checks = ()  # they load every route; the tests check

    def add_arguments(self, parser: CommandParser) -> None:
        action = parser.add_subparsers(dest="action", required=True)
        out = action.add_parser("export", help="write a lesson or a student to a file")
        out.add_argument("what", choices=["lesson", "student"])
        out.add_argument("key", type=int, help="number of the lesson or student, as in its address")
        out.add_argument("file", type=Path, help=".zip for an archive; .csv or .json for a lesson's balls")
        come = action.add_parser("import", help="import an archive, or balls into a lesson")
        come.add_argument("file", type=Path)
        come.add_argument("--coach", help="user name of the importing coach; otherwise the head coach")
        come.add_argument("--lesson", type=int, help="lesson for the balls of a .csv, .json or .ndjson file")

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            result = self._export(options) if options["action"] == "export" else self._import(options)
        except TableErrors as errors:
            raise CommandError("\n".join(f"line {e.line}: {e.message}" for e in errors.errors[:10])) from errors
        except (InputError, Refused, OSError) as error:
            raise CommandError(str(error)) from error
        self.stdout.write(result)

    def _export(self, options: dict[str, Any]) -> str:
        file: Path = options["file"]
        if options["what"] == "student":
            data = student_archive(_there(Student.objects.filter(pk=options["key"]).first(), options))
        else:
            lesson = _there(Lesson.objects.filter(pk=options["key"]).first(), options)
            if file.suffix in BALLS:
                records = [as_record(s) for s in shots_of(lesson)]
                text = write_table(records) if file.suffix == ".csv" else json.dumps(records, indent=1)
                file.write_text(text, encoding="utf-8")
                return f"{len(records)} balls written to {file}"
            data = lesson_archive(lesson)
        file.write_bytes(data)
        return f"{len(data)} bytes written to {file}"

    def _import(self, options: dict[str, Any]) -> str:
        named = {"username": options["coach"]} if options["coach"] else {"role": Coach.Role.HEAD}
        coach = Coach.objects.filter(**named).order_by("pk").first()
        if coach is None:
            raise CommandError(f"There is no coach {options['coach'] or 'yet'}.")
        file: Path = options["file"]
        data = file.read_bytes()
        if options["lesson"] is None:
            lessons = bring_in(coach, data, timezone.now())
            return "lessons " + ", ".join(str(lesson.pk) for lesson in lessons) + " brought in"
        lesson = lesson_of(coach, options["lesson"])
        records = read_balls(data, file.name)
        stored = import_shots(lesson, records, "baseline", timezone.now())
        return f"{stored} balls stored, {len(records) - stored} known already"


def _there(row: Row | None, options: dict[str, Any]) -> Row:
    if row is None:
        raise CommandError(f"There is no {options['what']} {options['key']}.")
    return row

"""Archives: exported and imported without loss, refused when incomplete, erased and restored."""

from __future__ import annotations

import io
import json
import re
import subprocess
import sys
import zipfile
from datetime import timedelta
from pathlib import Path

import pytest
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.utils import timezone
from jsonschema import Draft202012Validator
from referencing import Registry, Resource

from instavis.accounts.models import AuditLine, Student
from instavis.archives.outgoing import document_of, lesson_archive
from instavis.capture.files.models import Draft
from instavis.capture.files.services import keep_draft
from instavis.capture.shots.models import Shot
from instavis.lessons.models import Lesson
from instavis.lessons.services import start_lesson
from instavis_core.errors import InputError
from instavis_io.practice import read_log


def send(caller, data: bytes, status: int = 201):
    response = caller.client.post("/api/v1/archives", {"file": SimpleUploadedFile("a.zip", data)})
    assert response.status_code == status, response.content
    return response.json()


def document_of_lesson(lesson) -> dict:
    """A lesson's document, as JSON brings it."""
    return json.loads(json.dumps(document_of(lesson)))


def test_lesson_archive_round_trips(api, full):
    before = document_of_lesson(full)
    assert any(recording["errors_at"] for recording in before["recordings"])
    assert before["stills"]
    assert before["corrections"][0]["own_effect"] or before["corrections"][0]["log_odds"] is not None
    (key,) = send(api, lesson_archive(full))["lesson_ids"]
    restored = Lesson.objects.get(pk=key)
    assert document_of_lesson(restored) == before
    assert restored.student_id == full.student_id
    assert bytes(restored.stills.get().image) == bytes(full.stills.get().image)
    for name in ("cause", "proof", "reading", "take-home", "trials"):
        a, b = (api("get", f"/v1/lessons/{pk}/{name}") for pk in (full.pk, key))
        assert _without_keys(a) == _without_keys(b)


def _without_keys(value):
    if isinstance(value, dict):
        return {k: _without_keys(v) for k, v in value.items() if k not in ("id", "ball_ids", "shot_id", "lesson_id")}
    return [_without_keys(v) for v in value] if isinstance(value, list) else value


def test_import_into_another_academy_uses_its_own_people(stranger, full):
    (key,) = send(stranger, lesson_archive(full))["lesson_ids"]
    restored = Lesson.objects.get(pk=key)
    assert restored.academy_id == stranger.coach.academy_id
    assert restored.student_id != full.student_id
    assert restored.student.name == full.student.name


def test_student_survives_export_deletion_and_import(api, full, coach):
    student = full.student
    archive = api("get", f"/v1/students/{student.pk}/archive").content
    before = document_of_lesson(full)
    api("post", f"/v1/students/{student.pk}/erase", {"name": "Somebody"}, 422)
    line = api("post", f"/v1/students/{student.pk}/erase", {"name": student.name})
    assert student.name not in line["text"]
    assert not Student.objects.filter(pk=student.pk).exists()
    assert not Lesson.objects.filter(pk=full.pk).exists()
    assert not Shot.objects.exists()
    (key,) = send(api, archive)["lesson_ids"]
    assert document_of_lesson(Lesson.objects.get(pk=key)) == before
    lines = [row["text"] for row in api("get", "/v1/audit")]
    assert line["text"] in lines
    assert "1 lessons imported from an archive." in lines
    assert any(text.startswith("Everything of student") for text in lines)


def test_only_the_head_coach_deletes_students(api, coach, student):
    coach.role = coach.Role.COACH
    coach.save()
    api("post", f"/v1/students/{student.pk}/erase", {"name": student.name}, 403)
    assert Student.objects.filter(pk=student.pk).exists()
    assert not AuditLine.objects.exists()


def changed(archive: bytes, change) -> bytes:
    """The same archive with its document changed."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(archive)) as old, zipfile.ZipFile(out, "w") as new:
        for name in old.namelist():
            data = old.read(name)
            if name.endswith("lesson.json"):
                document = json.loads(data)
                change(document)
                data = json.dumps(document).encode()
            new.writestr(name, data)
    return out.getvalue()


def put(*path, value):
    def change(document):
        for step in path[:-1]:
            document = document[step]
        document[path[-1]] = value

    return change


@pytest.mark.parametrize(
    ("change", "field"),
    [
        (put("format", value="instavis.lesson/2"), "format"),
        (put("colour", value="red"), "colour"),
        (put("lesson", "station", value="bar"), "station"),
        (put("lesson", "club", value="banana"), "club"),
        (put("blocks", 1, "shots", 0, "record", "path_deg", value=9000), "path_deg"),
        (put("blocks", 1, "shots", 1, "number", value=1), "number"),
        (put("blocks", 0, "purpose", value="fun"), "purpose"),
        (put("grades", 0, "grade", value="sideways"), "seat-line"),
        (put("corrections", 0, "gate", value={"path_deg": [3, -1]}), "gate"),
        (put("recordings", 0, "columns", value={"time_s": [0, 1]}), "time_s"),
        (put("stills", 0, "file", value="../../etc/passwd"), "passwd"),
        (put("stills", 0, "points", value={"seat": [99999, 1]}), "points.seat"),
        (put("student", "hand", value="both"), "hand"),
        (put("blocks", value="none"), "lesson.json"),
        (put("intake", "contact", value=["soup"]), "contact"),
    ],
)
def test_invalid_document_is_refused_by_place_and_nothing_is_stored(api, full, change, field):
    lessons, students, balls = Lesson.objects.count(), Student.objects.count(), Shot.objects.count()
    problem = send(api, changed(lesson_archive(full), change), 422)["errors"][0]
    assert field in problem["field"] + problem["message"]
    assert (Lesson.objects.count(), Student.objects.count(), Shot.objects.count()) == (lessons, students, balls)


def _climbing() -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("../../lesson.json", "{}")
    return out.getvalue()


def _bomb() -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("lesson.json", b" " * (90 * 1024 * 1024))
    return out.getvalue()


def test_non_archive_is_refused(api, full):
    complete = lesson_archive(full)
    empty = io.BytesIO()
    zipfile.ZipFile(empty, "w").close()
    for data in (
        b"",
        b"hello",
        complete[: len(complete) // 2],
        complete[:-30],
        _climbing(),
        _bomb(),
        empty.getvalue(),
        b"{",
        b'{"a": NaN}',
    ):
        send(api, data, 422)
    assert Lesson.objects.count() == 1


def test_bare_document_without_pictures_is_imported(api, lesson):
    (key,) = send(api, json.dumps(document_of(lesson)).encode())["lesson_ids"]
    assert document_of_lesson(Lesson.objects.get(pk=key)) == document_of_lesson(lesson)


def test_continued_correction_finds_its_first_lesson(api, full, coach, student, stranger):
    """Two lessons of one correction, taken out and brought in elsewhere: the second is measured from the first."""
    later = start_lesson(coach, student, "7i", timezone.now() + timedelta(days=7))
    first = full.corrections.get()
    api("post", f"/v1/lessons/{later.pk}/corrections", {"fault": first.fault, "variant": first.variant}, 201)
    assert later.corrections.get().begun_in == full
    send(stranger, api("get", f"/v1/students/{student.pk}/archive").content)
    there = Lesson.objects.filter(academy=stranger.coach.academy).order_by("started_at")
    assert there[1].corrections.get().begun_in == there[0]
    assert document_of_lesson(there[1])["corrections"] == document_of_lesson(later)["corrections"]


@pytest.mark.parametrize(
    ("part", "change", "field"),
    [
        ("practices", {"felt": -1}, "felt"),
        ("practices", {"pain": "soul"}, "pain"),
        ("take_home", {"moves": {"soon": "later"}}, "take_home.moves.soon"),
        ("take_home", {"sections": {"weather": ["x"]}}, "sections"),
    ],
)
def test_imported_practice_and_plan_are_validated(full, stranger, part, change, field):
    document = {**document_of_lesson(full), "stills": []}
    row = document[part][0] if part == "practices" else document[part]
    row |= change
    error = send(stranger, json.dumps(document).encode(), 422)
    assert error["errors"][0]["field"].endswith(field)
    assert not Lesson.objects.filter(academy=stranger.coach.academy).exists()


@pytest.fixture(scope="module")
def schemas():
    """schemas(name) gives a validator of a schema of the docs; schemas may speak of each other."""
    folder = Path(__file__).parents[3] / "docs" / "schemas"
    known = {file.name: json.loads(file.read_text()) for file in folder.glob("*.json")}
    registry = Registry().with_resources([(name, Resource.from_contents(schema)) for name, schema in known.items()])
    return lambda name: Draft202012Validator(known[f"{name}.schema.json"], registry=registry)


def test_archive_matches_its_schema(full, schemas):
    document = document_of_lesson(full)
    assert list(schemas("lesson").iter_errors(document)) == []
    for wrong in (
        {**document, "format": "instavis.lesson/2"},
        {**document, "weather": {}},
        {k: v for k, v in document.items() if k != "student"},
        {**document, "student": {**document["student"], "hand": "both"}},
        {**document, "corrections": [{**document["corrections"][0], "gate": {"path_deg": [1]}}]},
    ):
        assert list(schemas("lesson").iter_errors(wrong)), wrong.keys()


def test_the_schema_of_practice_and_the_reader_agree(schemas):
    now = timezone.now()
    good = {
        "entry_id": "entry-0001",
        "day": now.date().isoformat(),
        "started_at": (now - timedelta(minutes=9)).isoformat(),
        "ended_at": now.isoformat(),
        "felt": 3,
        "balls": [{"contact": "thin"}],
        "pain": "",
    }
    check = schemas("practice").is_valid

    def log(**changes):
        return {"sent_at": now.isoformat(), "entries": [good | changes]}

    assert check(log())
    read_log(log(), now)
    for change in (
        {"felt": -1},
        {"felt": 1.5},
        {"pain": "soul"},
        {"entry_id": "x"},
        {"balls": [{}]},
        {"note": "n" * 301},
    ):
        assert not check(log(**change)), change
        with pytest.raises(InputError):
            read_log(log(**change), now)


def test_archives_are_exported_and_imported_by_command(full, tmp_path):
    def run(*arguments: str) -> str:
        text = io.StringIO()
        call_command("archive", *arguments, stdout=text)
        return text.getvalue()

    file, balls = tmp_path / "lesson.zip", tmp_path / "balls.csv"
    run("export", "lesson", str(full.pk), str(file))
    assert zipfile.is_zipfile(file)
    document = run("import", str(file), "--coach", full.coach.username)
    lesson = re.search(r"lessons (\d+)", document).group(1)
    run("export", "lesson", lesson, str(balls))
    assert "0 balls stored" in run("import", str(balls), "--coach", full.coach.username, "--lesson", lesson)
    for wrong in (
        ("export", "lesson", "99999", str(file)),
        ("import", str(balls), "--coach", "nobody"),
        ("import", str(balls)),
        ("import", str(tmp_path / "nothing.zip")),
    ):
        with pytest.raises(CommandError):
            run(*wrong)


def rezipped(archive: bytes, change) -> bytes:
    """The same archive with its files changed by name."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(archive)) as old, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new:
        for name in old.namelist():
            new.writestr(name, change(name, old.read(name)))
    return out.getvalue()


def test_imported_pictures_are_reencoded(api, full):
    def commented(name: str, data: bytes) -> bytes:
        secret = b"Bayside secret place"
        comment = b"\xff\xfe" + (len(secret) + 2).to_bytes(2, "big") + secret
        return data[:2] + comment + data[2:] + b"appended secret" if name.endswith(".jpg") else data

    sent = rezipped(lesson_archive(full), commented)
    (key,) = send(api, sent)["lesson_ids"]
    assert b"secret" not in bytes(Lesson.objects.get(pk=key).stills.get().image)
    assert b"secret" not in lesson_archive(Lesson.objects.get(pk=key))


def test_picture_with_extreme_compression_is_not_unpacked(api, full):
    sent = rezipped(lesson_archive(full), lambda name, data: bytes(30_000_000) if name.endswith(".jpg") else data)
    assert len(sent) < 200_000
    assert "bytes out of" in send(api, sent, 422)["errors"][0]["value"]


def test_waiting_files_are_deleted_with_the_student(api, full, student):
    draft = keep_draft(full, full.coach, "balls.csv", [b"carry,path\n150,2\n"], timezone.now())
    assert default_storage.exists(f"drafts/{draft.key}")
    api("post", f"/v1/students/{student.pk}/erase", {"name": student.name})
    assert not default_storage.exists(f"drafts/{draft.key}")
    assert not Draft.objects.exists()


BOMBS = {
    "empty lists": b'{"format": "instavis.lesson/1", "grades": [' + b"[]," * 7_000_000 + b"[]]}",
    "numbers": b'{"format": "instavis.lesson/1", "grades": [' + b"1," * 10_000_000 + b"1]}",
}


@pytest.mark.parametrize("kind", BOMBS)
def test_half_megabyte_archive_uses_little_memory(kind):
    """Measured in a process of its own: what a document costs is refused before it is parsed."""
    program = (
        "import re, sys\n"
        "from pathlib import Path\n"
        "from instavis_io.archive import read_lesson\n"
        "from instavis_core.errors import InputError\n"
        "data = sys.stdin.buffer.read()\n"
        "most = lambda: re.search(r'VmHWM:\\s+(\\d+)', Path('/proc/self/status').read_text())[1]\n"
        "before = most()\n"
        "try:\n    read_lesson(data)\nexcept InputError as error:\n    print(error.field)\n"
        "print(most(), before)\n"
    )
    done = subprocess.run([sys.executable, "-c", program], input=BOMBS[kind], capture_output=True, check=True)
    field, numbers = done.stdout.decode().splitlines()
    after, before = map(int, numbers.split())
    assert field == "document"
    assert after < 500_000  # kB
    assert after - before < 50_000

"""Lesson documents of every earlier release are read, and errors name their place."""

from __future__ import annotations

import json
import zipfile
from pathlib import Path

import pytest

from instavis_core.errors import InputError
from instavis_io.archive import read_lesson

DATA = Path(__file__).parent / "data"


def document(name: str = "lesson-0.4.0.zip") -> dict:
    with zipfile.ZipFile(DATA / name) as archive:
        return json.loads(archive.read(next(n for n in archive.namelist() if n.endswith("lesson.json"))))


@pytest.mark.parametrize("file", sorted(DATA.glob("*.zip")), ids=lambda f: f.name)
def test_archives_of_every_earlier_release_are_read(file):
    """Made by those releases themselves, of their sample academies."""
    raw = document(file.name)
    lesson = read_lesson(json.dumps(raw).encode())
    assert sum(1 for _ in lesson.balls()) == sum(len(b["shots"]) for b in raw["blocks"]) > 0
    assert lesson.hand == raw["student"]["hand"]
    assert len(lesson.corrections) == len(raw["corrections"])


def put(raw: dict, path: str, value) -> dict:
    row = raw
    *steps, last = [int(s) if s.isdigit() else s for s in path.split(".")]
    for step in steps:
        row = row[step]
    row[last] = value
    return raw


@pytest.mark.parametrize(
    ("path", "value", "place"),
    [
        ("format", "instavis.lesson/2", "format"),
        ("colour", "red", "colour"),
        ("student.name", "  ", "student.name"),
        ("student.name", "half \ud800", "document"),
        ("student.handicap", True, "student.handicap"),
        ("student.born", "0001-01-01", "student.born"),
        ("lesson.minutes", "55", "lesson.minutes"),
        ("lesson.started_at", "2026-05-04T09:00:00", "lesson.started_at"),
        ("lesson.started_at", "9999-12-31T23:59:59-12:00", "lesson.started_at"),
        ("lesson.school", {"opening": "sideways"}, "lesson.school"),
        ("blocks.0.shots.0.record.path_deg", 9000, "blocks[0].shots[0].record.path_deg"),
        ("blocks.0.shots.0.record.note", "zero\0", "blocks[0].shots[0].record.note"),
        ("blocks.0.shots.1.number", 1, "blocks.shots.number"),
        ("blocks.0.shots.1.number", 10**400, "blocks[0].shots[1].number"),
        ("blocks.0.correction", 7, "blocks[0].correction"),
        ("blocks.0.purpose", "trial", "blocks[0]"),
        ("corrections.0.gate", {"path_deg": [3, -1]}, "corrections[0].correction.gate.path_deg"),
        ("corrections.0.outcome", "splendid", "corrections[0].outcome"),
        ("corrections.0.log_odds", 1e308, "corrections[0].log_odds"),
        ("take_home", {"paused_for": True}, "take_home.paused_for"),
        ("take_home", {"moves": {"soon": "later"}}, "take_home.moves.soon"),
        ("practices", {"a": 1}, "practices"),
    ],
)
def test_invalid_archive_names_the_place(path, value, place):
    with pytest.raises(InputError) as caught:
        read_lesson(json.dumps(put(document(), path, value)).encode())
    assert caught.value.field == place
    assert len(caught.value.message) < 400
    caught.value.message.encode()


@pytest.mark.parametrize("data", [b"", b"{", b"[]", b"\xff\xfe", b"[" * 5000, b'{"format": NaN}', b"null"])
def test_non_document_is_refused(data):
    with pytest.raises(InputError):
        read_lesson(data)

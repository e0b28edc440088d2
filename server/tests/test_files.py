"""Imported files: columns guessed and mapped, stored completely or not at all, remembered, canceled."""

from __future__ import annotations

from pathlib import Path

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone

from instavis.capture.files import services
from instavis.capture.files.models import Draft, SourceMapping
from instavis.capture.files.selectors import draft_of, progress_of, proposal_of
from instavis.capture.shots.models import Shot
from instavis.lessons.models import LessonEvent
from instavis.platform.file_storage import DRAFTS
from instavis.project.retention import carry_out
from instavis.work import services as works
from instavis_io.tables import write_table

TABLES = Path(__file__).parents[2] / "formats" / "tests" / "data" / "tables"
FOREIGN = (TABLES / "hall_three.csv").read_bytes()


@pytest.fixture
def send(api, lesson):
    """send(bytes, status=201) sends a file and gives the answer."""

    def make(data: bytes, status: int = 201, name: str = "balls.csv"):
        answer = api.client.post(
            f"/api/v1/lessons/{lesson.pk}/drafts", {"file": SimpleUploadedFile(name, data, "text/csv")}
        )
        assert answer.status_code == status, answer.content
        return answer.json()

    return make


@pytest.fixture
def store(lesson, coach):
    """store(bytes, leave_out_bad=False) has a worker store a file here and now: its draft and how it went."""

    def make(data: bytes, leave_out_bad: bool = False, called_off: bool = False):
        draft = services.keep_draft(lesson, coach, "balls.csv", [data], timezone.now())
        draft = services.ask_to_store(draft, coach, proposal_of(draft)[1], leave_out_bad, timezone.now())
        if called_off:
            services.drop_draft(draft)
        works.do(draft.work_id, timezone.now())
        draft = draft_of(coach, draft.pk)
        return draft, progress_of(draft)

    return make


def test_foreign_file_is_previewed_without_storing(send):
    result = send(FOREIGN)
    assert result["preview"]["count"] == 14
    assert result["preview"]["skipped_count"] == 3
    assert len(result["preview"]["balls"]) == 12
    assert {c["use"]["field"] for c in result["columns"]} >= {"path_deg", "side_m", "club"}
    assert not result["own_format"]
    assert Shot.objects.count() == 0


def test_another_mapping_changes_balls_and_doubts(send, api):
    result = send(FOREIGN)
    mapping = result["mapping"]
    for column in mapping["columns"]:
        if column["field"] == "ball_speed_mps":
            column["unit"] = "mps"
    preview = api("post", f"/v1/drafts/{result['id']}/preview", mapping, 200)
    assert preview["problem_count"] == 14  # 156 m/s is no ball
    assert preview["problems"][0]["field"] == "Ballgeschwindigkeit"


def test_import_runs_in_background_with_progress_once(
    send, api, lesson, django_capture_on_commit_callbacks, monkeypatch
):
    called: list[int] = []
    monkeypatch.setattr(works, "_calls", [lambda work_id, queue: called.append(work_id)])
    result = send(FOREIGN)
    store = (f"/v1/drafts/{result['id']}/store", {"mapping": result["mapping"]})
    assert api("get", f"/v1/drafts/{result['id']}/progress")["state"] == "waiting"
    with django_capture_on_commit_callbacks(execute=True):
        assert api("post", *store, 202)["state"] == "reading"
    api("post", *store, 409)
    [work_id] = called
    works.do(work_id, timezone.now())
    progress = api("get", f"/v1/drafts/{result['id']}/progress")
    assert (progress["state"], progress["stored"], progress["done"]) == ("done", 14, progress["total"])
    works.do(work_id, timezone.now())  # a second call finds nothing to do
    assert len(api("get", f"/v1/lessons/{lesson.pk}/shots")) == 14
    api("delete", f"/v1/drafts/{result['id']}", status=204)
    assert not Draft.objects.exists()


def test_repeated_file_adds_nothing_and_mapping_is_remembered(store, send, lesson):
    store(FOREIGN)
    _, progress = store(FOREIGN)
    assert (progress.stored, progress.known) == (0, 14)
    assert lesson.shots.count() == 14
    assert SourceMapping.objects.count() == 1
    assert send(FOREIGN)["remembered"]


def test_one_bad_row_stops_the_import_unless_skipped(store, lesson):
    bad = FOREIGN.replace(b"127,7", b"flott")
    _, progress = store(bad)
    assert progress.state == "failed"
    assert (progress.problems[0]["line"], progress.problems[0]["field"]) == (5, "Schlägerkopfgeschwindigkeit")
    assert lesson.shots.count() == 0
    _, progress = store(bad, leave_out_bad=True)
    assert (progress.state, progress.stored, progress.left_out) == ("done", 13, 1)


def test_canceled_import_stores_nothing(store, lesson):
    lines = FOREIGN.decode("cp1252").splitlines()
    long = "\n".join(lines[:4] + lines[4:10] * 300).encode("cp1252")
    _, progress = store(long, called_off=True)
    assert progress.state == "cancelled"
    assert lesson.shots.count() == 0


def test_left_handed_file_is_refused_for_a_right_hander(store, lesson):
    text = "club,hand,path_deg,carry_m\n7i,left,3,130\n7i,left,2,131\n"
    _, progress = store(text.encode())
    assert progress.state == "failed"
    assert progress.problems[0]["field"] == "hand"


@pytest.mark.parametrize(
    "data",
    [b"", b"hello\nworld", b"\x89PNG\r\n\x1a\n\0\0\0", b"club,club speed\n" * 3],
    ids=["empty", "prose", "picture", "headers"],
)
def test_non_table_is_refused_or_empty(send, data):
    answer = send(data, 201 if data.startswith(b"club") else 422)
    if "errors" in answer:
        assert answer["errors"][0]["field"] == "file"
        assert not Draft.objects.exists()
        return
    assert answer["preview"]["count"] == 0


def test_old_drafts_are_deleted_with_their_bytes(lesson, coach):
    now = timezone.now()
    old = services.keep_draft(lesson, coach, "old.csv", [FOREIGN], now - services.KEEP_FOR * 2)
    services.keep_draft(lesson, coach, "new.csv", [FOREIGN], now)
    assert carry_out(now)["files that were not brought in"] == 1
    assert Draft.objects.get().name == "new.csv"
    with pytest.raises(FileNotFoundError):
        DRAFTS.open(old.key)


def test_any_text_is_imported_unchanged(store, lesson):
    note = "100 % \"quoted\" it's \\ a 'note'; -- ☂"
    cell = note.replace('"', '""')
    _, progress = store(f'club,path_deg,carry_m,note\n7i,1,140,"{cell}"\n7i,2,141,\n'.encode())
    assert (progress.state, progress.stored) == ("done", 2)
    first, second = lesson.shots.order_by("number")
    assert (first.note, second.note) == (note, "")
    assert (first.hand, first.extra, first.turf) == ("", {}, "")
    assert first.received_at.tzinfo is not None


def test_thousands_of_balls_cause_one_screen_notification(api, lesson, balls):
    """One event a ball in one statement once ended in an answer of 500."""
    ours = balls(50)
    many = write_table({**ours[n % 50], "shot_id": f"ball-{n}"} for n in range(5000)).encode()
    answer = api.client.post(f"/api/v1/lessons/{lesson.pk}/import", {"file": SimpleUploadedFile("balls.csv", many)})
    assert answer.status_code == 201, answer.content
    assert answer.json()["stored"] == Shot.objects.filter(lesson=lesson).count() == 5000
    assert LessonEvent.objects.filter(lesson=lesson).count() < 60

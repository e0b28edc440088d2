"""Clips: sent, measured by a worker, stored as recording and film; failures give a reason."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from django.conf import settings
from django.core.files.storage import FileSystemStorage, default_storage, storages
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase
from django.utils import timezone

from instavis.accounts.models import Academy
from instavis.accounts.services import change_filming
from instavis.archives.services import forget_student
from instavis.assessment.clips import services
from instavis.assessment.clips.models import Clip
from instavis.assessment.recordings.models import Recording
from instavis.platform import file_storage
from instavis.platform.addresses import FilesAddress
from instavis.platform.file_storage import CLIPS, FILMS
from instavis.project.retention import carry_out
from instavis.work import services as works
from instavis.work.models import Work
from instavis_camera import clip as looking
from instavis_camera import film as taking
from instavis_camera.film import Film
from instavis_core.camera import PoseSeries
from instavis_core.errors import InputError
from instavis_io.poses import read_pose

from .conftest import POSE, filmed

SAMPLES = Path(__file__).parents[2] / "standins" / "instavis_standins" / "clips"
ALONG = "bero-down-the-line.mp4"


@pytest.fixture(autouse=True)
def no_clips_of_other_tests():
    for key in stored_files():
        CLIPS.drop(key)
    for key in count_films():
        FILMS.drop(key)


@pytest.fixture
def send(api, lesson):
    """send(bytes, name, query) posts a clip of a student who agreed to be filmed."""
    change_filming(lesson.student, True, timezone.now())

    def make(data: bytes, name="swing.mp4", query="", status=201):
        path = f"/api/v1/lessons/{lesson.pk}/clips{query}"
        answer = api.client.post(path, {"file": SimpleUploadedFile(name, data, "video/mp4")})
        assert answer.status_code == status, answer.content
        return answer.json()

    return make


@pytest.fixture
def clips(api, lesson):
    return lambda: api("get", f"/v1/lessons/{lesson.pk}/clips")


def measured(number: int | None = None) -> None:
    """Let a worker do what waits, here and now."""
    for work in Work.objects.filter(kind=services.CLIP).order_by("pk")[:number]:
        works.do(work.pk, timezone.now())


def stored_files() -> list[str]:
    return default_storage.listdir("clips")[1] if default_storage.exists("clips") else []


def count_films() -> list[str]:
    return default_storage.listdir("films")[1] if default_storage.exists("films") else []


@pytest.fixture(scope="module")
def landmarks() -> PoseSeries:
    """The landmarks of a sample clip, as the networks found them."""
    return read_pose(json.loads(POSE.read_text()))


@pytest.fixture
def quick(landmarks, monkeypatch):
    """Clips are looked at in no time, whatever is in them."""
    monkeypatch.setattr(services, "_networks", lambda: None)
    monkeypatch.setattr(looking, "landmarks_of", lambda *_: landmarks)
    pictures = Film(width=64, height=36, times=[0.5, 1.5], pictures=[b"one", b"two"])
    monkeypatch.setattr(taking, "film_of", lambda *_: pictures)


@pytest.fixture
def files_away():
    """files_away(kind) takes the place of files away, files_away() brings it back."""
    patch = pytest.MonkeyPatch()

    def change(kind: str = "") -> None:
        patch.undo()
        file_storage._failures.cache_clear()
        if kind == "bucket":
            patch.setenv("AWS_ACCESS_KEY_ID", "made-up")
            patch.setenv("AWS_SECRET_ACCESS_KEY", "made-up")
            address = FilesAddress.read("s3://nobody/here?endpoint=http://127.0.0.1:1&region=here").for_django()
            patch.setattr(file_storage, "default_storage", storages.create_storage(address))
            patch.setitem(settings.STORAGES, "default", address)
        if kind == "folder":
            storage = FileSystemStorage(location="/dev/null/files")  # takes no folder and no file
            patch.setattr(file_storage, "default_storage", storage)

    yield change
    change()


@pytest.mark.parametrize("kind", ["bucket", "folder"])
def test_unreachable_file_storage_loses_nothing(send, quick, clips, files_away, kind):
    files_away(kind)
    result = send(b"swing", status=503)
    assert "Nothing was saved" in result["errors"][0]["message"]
    assert clips() == []
    files_away()
    send(b"swing")
    files_away(kind)
    for _ in range(works.MAX_BEGINNINGS + 1):
        measured()
        assert [clip["state"] for clip in clips()] == ["waiting"]
    files_away()
    measured()
    assert clips() == []
    assert Recording.objects.count() == 1


def test_clip_proposes_answers_beside_other_instruments(send, quick, clips, api, lesson):
    result = send((SAMPLES / ALONG).read_bytes(), ALONG)
    assert (result["state"], result["view"], result["problem"]) == ("waiting", "", None)
    assert [c["id"] for c in clips()] == [result["id"]]
    measured()
    assert clips() == stored_files() == []
    answer = api("get", f"/v1/lessons/{lesson.pk}/recordings")
    [row] = answer["recordings"]
    assert (row["name"], row["view"], row["adjusted"]) == (ALONG, "down-the-line", False)
    assert answer["proposals"] == []
    seat = next(p for p in answer["seen"] if p["check"] == "seat-line")
    assert seat["grade"] == "leaves-early"
    assert all(r["error"] > 1.0 for r in seat["readings"] if r["unit"] == "cm")
    read = api("get", f"/v1/recordings/{row['id']}")
    assert set(read["curves"]) == {"thrust_cm", "lift_cm", "bend_deg", "head_lift_cm", "hands_thrust_cm"}
    assert read["moments"]["set_by_hand"] == []
    assert any("height" in note for note in read["notes"])
    film = api("get", f"/v1/recordings/{row['id']}/film")
    assert (film["times"], film["sizes"]) == ([0.5, 1.5], [3, 3])


def test_camera_answer_is_stored_with_its_source(send, quick, api, lesson):
    send(b"film")
    measured()
    path = f"/v1/lessons/{lesson.pk}/checks"
    api("put", path, {"grades": {"seat-line": "leaves-early"}, "source": "camera"})
    assert api("get", path)["seen"][0]["source"] == "camera"


def test_clip_belongs_to_its_ball(send, quick, api, with_baseline):
    lesson = with_baseline
    send(b"film", query="?ball=3&view=down-the-line")
    measured()
    [row] = api("get", f"/v1/lessons/{lesson.pk}/recordings")["recordings"]
    assert row["ball"] == 3
    send(b"film", query="?ball=999", status=404)
    send(b"film", query="?view=from-above", status=422)
    assert stored_files() == []


def test_camera_moments_are_set_by_hand_in_order_only(send, quick, api, lesson):
    send(b"film")
    measured()
    recording = Recording.objects.get()
    path = f"/v1/recordings/{recording.pk}"
    at = recording.found["at"]
    moved = api("patch", path, {"marks": {"top": at["top"] + 0.02}})["moments"]
    assert moved["at"]["top"] == pytest.approx(at["top"] + 0.02)
    assert (moved["at"]["impact"], moved["set_by_hand"], moved["error"]["top"]) == (at["impact"], ["top"], 0)
    api("patch", path, {"marks": {"top": at["impact"] + 0.1}}, 422)
    api("patch", path, {"marks": {"noon": 1.0}}, 422)


@pytest.mark.parametrize("data", [b"no film", (SAMPLES / "ansa-face-on.json").read_bytes()])
def test_failed_clip_shows_its_reason_until_deleted(send, clips, api, data):
    result = send(data, "holiday.mp4")
    measured()
    [clip] = clips()
    assert "unreadable" in clip["problem"]["value"]
    assert clip["state"] == "failed"
    assert "video" in clip["problem"]["message"]
    assert stored_files() == []
    assert not Recording.objects.exists()
    api("delete", f"/v1/clips/{result['id']}", None, 204)
    assert clips() == []


def test_clip_with_two_people_names_the_reason(send, clips, monkeypatch):
    def two(*_):
        raise InputError("clip", "two people", "one golfer in the picture")

    monkeypatch.setattr(looking, "landmarks_of", two)
    send(b"film")
    measured()
    assert "two people" in clips()[0]["problem"]["message"]


def test_deleted_clip_is_not_measured(send, quick, api):
    result = send(b"film")
    api("delete", f"/v1/clips/{result['id']}", None, 204)
    measured()
    assert not Recording.objects.exists()
    assert stored_files() == []
    assert Work.objects.get().state == Work.State.CANCELLED


def test_clip_deleted_while_measured_leaves_nothing(send, landmarks, quick, monkeypatch):
    send(b"film")

    def taken_away(*_):
        services.forget_clip(Clip.objects.get())
        return landmarks

    monkeypatch.setattr(looking, "landmarks_of", taken_away)
    measured()
    assert not Recording.objects.exists()
    assert count_films() == []


def test_academy_without_films_keeps_measurements(send, quick, lesson):
    Academy.objects.update(keep_films_days=0)
    send(b"film")
    measured()
    assert Recording.objects.filter(film=None).count() == 1
    assert count_films() == []


def test_repeated_task_stores_one_recording(send, quick):
    send(b"film")
    measured()
    Work.objects.update(state=Work.State.RUNNING)  # the worker was killed before it could say that it had ended
    measured()
    assert Recording.objects.count() == 1


def test_clips_queue_up_to_a_limit(send, clips, lesson, monkeypatch):
    monkeypatch.setattr(services, "MAX_WAITING", 2)
    first, second = send(b"one"), send(b"two")
    refused = send(b"three", status=409)
    assert "2 clips are already waiting" in refused["errors"][0]["message"]
    assert [c["id"] for c in clips()] == [first["id"], second["id"]]
    assert len(stored_files()) == 2


def test_another_academy_sees_and_changes_nothing(send, stranger, lesson):
    result = send(b"film")
    stranger("get", f"/v1/lessons/{lesson.pk}/clips", None, 404)
    stranger("delete", f"/v1/clips/{result['id']}", None, 404)
    assert Clip.objects.count() == 1


def test_clips_are_deleted_after_a_week_and_with_their_student(send, lesson):
    send(b"old")
    Clip.objects.update(added_at=timezone.now() - services.KEEP_FOR * 2)
    send(b"new")
    assert carry_out(timezone.now())["clips that were not measured"] == 1
    assert len(stored_files()) == 1
    forget_student(lesson.student, timezone.now())
    assert stored_files() == []


def test_clip_without_consent_is_refused_and_not_stored(api, lesson):
    path = f"/api/v1/lessons/{lesson.pk}/clips"
    answer = api.client.post(path, {"file": SimpleUploadedFile("swing.mp4", b"film", "video/mp4")})
    assert answer.status_code == 409
    assert answer.json()["errors"][0]["field"] == "filming"
    assert (Clip.objects.count(), stored_files()) == (0, [])


def test_confirmed_withdrawal_deletes_films_and_clips(api, lesson, send):
    send(b"film")
    recording = filmed(lesson, timezone.now())
    path = f"/v1/students/{lesson.student_id}/filming"
    refused = api("put", path, {"given": False}, 409)
    assert refused["errors"][0]["field"] == "films"
    assert "Films: 1. Clips not measured yet: 1." in refused["errors"][0]["message"]
    assert (Clip.objects.count(), len(stored_files()), len(count_films())) == (1, 1, 2)
    with TestCase.captureOnCommitCallbacks(execute=True):
        result = api("put", path, {"given": False, "confirmed": True})
    assert result["filming_agreed_at"] is None
    assert (Clip.objects.count(), stored_files(), count_films()) == (0, [], [])
    recording.refresh_from_db()  # what was measured stays
    assert not hasattr(recording, "film")
    api("put", path, {"given": True})
    assert api("put", path, {"given": False})["filming_agreed_at"] is None  # nothing to confirm


def test_film_measured_after_withdrawal_is_deleted(lesson, send):
    clip = Clip.objects.get(pk=send((SAMPLES / ALONG).read_bytes())["id"])
    lesson.student.filming_agreed_at = None
    lesson.student.save()
    with pytest.raises(works.Cancelled):
        services.measure_clip(clip.work, lambda _: None)
    assert not lesson.recordings.exists()
    assert count_films() == []

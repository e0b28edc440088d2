"""Cameras of a bay: paired by a code, told of each ball, films stored once and only with consent."""

from __future__ import annotations

from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.utils import timezone

from instavis.assessment.cameras.models import Camera, Sending
from instavis.assessment.clips.models import Clip

from .conftest import Caller, in_sequence, monitor_in

HERE = {"filming": True, "waiting": 0}


@pytest.fixture
def phone():
    """A browser that nobody signed in."""
    return Caller(Client())


@pytest.fixture
def paired(api, bay, phone):
    """paired(view) pairs a camera and gives its token."""

    def make(view: str = "face-on") -> str:
        code = api("post", f"/v1/bays/{bay.pk}/cameras", {"view": view}, 201)["code"]
        return phone("post", "/v1/filming", {"code": code})["token"]

    return make


@pytest.fixture
def agreed(api, lesson):
    api("put", f"/v1/students/{lesson.student_id}/filming", {"given": True})
    return lesson


@pytest.fixture
def hit(bay, balls):
    """hit(n) hits balls in the bay."""
    monitor, sent = monitor_in(bay), []

    def make(count: int = 1) -> None:
        monitor(in_sequence(balls(count, None, 5 + len(sent)), 100 * len(sent)))
        sent.append(count)

    return make


def here(phone: Caller, token: str, status: int = 200, **says):
    """Say how the camera is."""
    return phone("post", "/v1/filming/here", {**HERE, **says}, status, Authorization=f"Bearer {token}")


def film(phone: Caller, token: str, status: int = 201, data: bytes = b"a film", **fields):
    """Send a film."""
    values = {"lesson": 0, "ball": 1, "key": "a-key-of-its-own", "about": "6.20"} | fields
    file = SimpleUploadedFile("ball.webm", data, "video/webm")
    bearer = {"Authorization": f"Bearer {token}"}
    answer = phone.client.post("/api/v1/filming/films", {"file": file, **values}, headers=bearer)
    assert answer.status_code == status, answer.content
    return answer.json()


def test_code_pairs_one_camera(api, bay, phone, paired):
    code = api("post", f"/v1/bays/{bay.pk}/cameras", {"view": "face-on"}, 201)["code"]
    token = phone("post", "/v1/filming", {"code": f" {code} "})["token"]
    phone("post", "/v1/filming", {"code": code}, 404)
    assert token not in str(Camera.objects.values_list())
    (camera,) = api("get", f"/v1/bays/{bay.pk}/cameras")
    assert (camera["view"], camera["heard"]) == ("face-on", False)
    here(phone, token, waiting=2, problem="the phone slept")
    (camera,) = api("get", f"/v1/bays/{bay.pk}/cameras")
    assert (camera["heard"], camera["filming"], camera["waiting"], camera["problem"]) == (
        True,
        True,
        2,
        "the phone slept",
    )
    api("delete", f"/v1/cameras/{camera['id']}", status=204)
    here(phone, token, status=401)
    assert api("get", f"/v1/bays/{bay.pk}/cameras") == []


def test_late_or_guessed_code_pairs_nothing(api, bay, phone):
    code = api("post", f"/v1/bays/{bay.pk}/cameras", {"view": "face-on"}, 201)["code"]
    Camera.objects.update(code_until=timezone.now() - timedelta(seconds=1))
    phone("post", "/v1/filming", {"code": code}, 404)
    for _ in range(12):
        phone("post", "/v1/filming", {"code": "000000"}, 404 if _ < 11 else 429)


def test_new_code_replaces_the_old_and_unknown_view_is_refused(api, bay, phone):
    first = api("post", f"/v1/bays/{bay.pk}/cameras", {"view": "face-on"}, 201)["code"]
    api("post", f"/v1/bays/{bay.pk}/cameras", {"view": "down-the-line"}, 201)
    phone("post", "/v1/filming", {"code": first}, 404)
    problem = api("post", f"/v1/bays/{bay.pk}/cameras", {"view": "from-above"}, 422)["errors"][0]
    assert (problem["field"], problem["value"]) == ("view", "'from-above'")


def test_cameras_per_bay_are_limited(api, bay, paired):
    for _ in range(4):
        paired()
    api("post", f"/v1/bays/{bay.pk}/cameras", {"view": "face-on"}, 409)


def test_camera_films_only_with_consent_and_gets_the_newest_ball(api, bay, phone, paired, lesson, hit):
    token = paired()
    hit()
    result = here(phone, token)
    assert not result["may_film"]
    assert result["why_not"] == "Perrin has not agreed to be filmed."
    api("put", f"/v1/students/{lesson.student_id}/filming", {"given": True})
    result = here(phone, token)
    assert result["may_film"]
    assert (result["lesson"], result["ball"], result["hand"], result["first_name"]) == (lesson.pk, 1, "right", "Perrin")
    assert 0 <= result["ago"] < 20
    lesson.shots.update(received_at=timezone.now() - timedelta(minutes=5))
    assert here(phone, token)["ball"] is None
    bay.lesson = None
    bay.save()
    assert here(phone, token)["why_not"] == "No lesson in this bay."


def test_junior_needs_the_guardians_consent(api, lesson):
    lesson.student.born = timezone.now().date() - timedelta(days=365 * 12)
    lesson.student.save()
    problem = api("put", f"/v1/students/{lesson.student_id}/filming", {"given": True}, 422)["errors"][0]
    assert problem["field"] == "guardian_consent"
    lesson.student.guardian_consent = "Maud Oakenshaw"
    lesson.student.save()
    assert api("put", f"/v1/students/{lesson.student_id}/filming", {"given": True})["filming_agreed_at"]
    assert api("put", f"/v1/students/{lesson.student_id}/filming", {"given": False})["filming_agreed_at"] is None


def test_repeated_film_is_stored_once(phone, paired, agreed, hit):
    token = paired("down-the-line")
    hit(2)
    assert film(phone, token, lesson=agreed.pk, ball=2)["taken"]
    assert not film(phone, token, lesson=agreed.pk, ball=2)["taken"]
    (clip,) = Clip.objects.all()
    assert (clip.view, clip.shot.number, clip.about) == ("down-the-line", 2, 6.2)
    # Also after it was measured and its row is gone.
    clip.delete()
    assert not film(phone, token, lesson=agreed.pk, ball=2)["taken"]
    assert film(phone, token, lesson=agreed.pk, ball=2, key="another-key")["taken"]


def test_two_cameras_film_the_same_ball(phone, paired, agreed, hit):
    tokens = [paired(), paired("down-the-line")]
    hit()
    for token in tokens:
        assert film(phone, token, lesson=agreed.pk)["taken"]
    assert set(Clip.objects.values_list("view", flat=True)) == {"face-on", "down-the-line"}


def test_film_without_consent_or_from_another_bay_is_not_stored(api, phone, paired, lesson, hit):
    token = paired()
    hit()
    problem = film(phone, token, 409, lesson=lesson.pk)["errors"][0]
    assert problem["message"] == "The student has not agreed to be filmed. The film was not stored."
    film(phone, token, 404, lesson=lesson.pk, ball=99)
    film(phone, token, 404, lesson=lesson.pk + 1)
    assert (Clip.objects.count(), Sending.objects.count()) == (0, 0)


def test_film_of_a_lesson_that_left_the_bay_is_stored(phone, paired, agreed, bay, hit):
    token = paired()
    hit()
    bay.lesson = None
    bay.save()
    assert film(phone, token, lesson=agreed.pk)["taken"]


def test_another_academys_camera_cannot_be_disconnected(api, stranger, bay, paired):
    paired()
    (camera,) = api("get", f"/v1/bays/{bay.pk}/cameras")
    stranger("delete", f"/v1/cameras/{camera['id']}", status=404)
    stranger("get", f"/v1/bays/{bay.pk}/cameras", status=404)
    stranger("post", f"/v1/bays/{bay.pk}/cameras", {"view": "face-on"}, 404)

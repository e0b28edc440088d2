"""Stored films: single frames, comparison, on the take-home page, deleted when due."""

from __future__ import annotations

import functools
import io
import json
from datetime import timedelta
from types import SimpleNamespace

import pytest
from django.core.files.storage import default_storage
from django.test import Client
from django.utils import timezone
from PIL import Image
from pypdf import PdfReader

from instavis.accounts.services import change_filming
from instavis.archives.services import forget_student
from instavis.assessment.films import services
from instavis.assessment.films.models import Film, Pair
from instavis.assessment.recordings.models import Recording
from instavis.demo import films as demo
from instavis.demo.films import film
from instavis.lessons.models import Lesson
from instavis.lessons.services import start_lesson
from instavis.practice.services import make_home_link
from instavis.project.retention import carry_out
from instavis_camera.film import film_of
from instavis_core.camera import body_of
from instavis_io.poses import read_pose

from .conftest import student_of

MOMENTS = ["address", "halfway-back", "top", "transition", "halfway-down", "impact", "through", "finish"]


@pytest.fixture(autouse=True)
def no_films_of_other_tests():
    for key in stored_files():
        default_storage.delete(f"films/{key}")


@pytest.fixture(autouse=True)
def bytes_go_at_once(monkeypatch):
    """A test's transaction is never committed."""
    monkeypatch.setattr(services, "transaction", SimpleNamespace(on_commit=lambda drop: drop()))


@functools.cache
def pictures(path):
    """A film's pictures are the same in every test."""
    pose = read_pose(json.loads(path.with_suffix(".pose.json").read_text()))
    return film_of(path, pose, body_of(pose).moments)


@pytest.fixture(autouse=True)
def taken_out_once(monkeypatch):
    monkeypatch.setattr(demo, "film_of", lambda path, *_: pictures(path))


@pytest.fixture
def filmed(with_baseline):
    """A lesson whose first ball was filmed before the correction and whose second with it."""
    lesson = with_baseline
    change_filming(lesson.student, True, timezone.now())
    return lesson, filmed_ball(lesson, "before", 1), filmed_ball(lesson, "done", 2)


def filmed_ball(lesson, name: str, number: int):
    ball = lesson.shots.get(number=number)
    return film(lesson, name, ball.received_at, ball)


def stored_files() -> list[str]:
    return default_storage.listdir("films")[1] if default_storage.exists("films") else []


def test_film_has_every_frame_with_landmarks_and_lines(api, filmed):
    _, before, _ = filmed
    result = api("get", f"/v1/recordings/{before.pk}/film")
    assert (result["view"], result["hand"], list(result["moments"])) == ("down-the-line", "left", MOMENTS)
    frames = len(result["times"])
    assert frames == len(result["sizes"]) == len(result["landmarks"]["nose"]) > 80
    assert result["times"] == sorted(result["times"])
    pictures = api.client.get(f"/api/v1/recordings/{before.pk}/film/pictures").content
    assert len(pictures) == sum(result["sizes"])
    last = Image.open(io.BytesIO(pictures[-result["sizes"][-1] :]))
    assert last.size == (result["width"], result["height"]) == (720, 404)
    # A left-hander seen from behind the hands: the seat is to the right of the feet, behind them.
    lines = result["lines"]
    assert lines["lead_hip"] is None
    assert lines["seat"] > lines["feet"][0]
    x, y, wide, high = lines["head"]
    nose = result["landmarks"]["nose"][0]
    assert abs(nose[0] - x) < wide
    assert abs(nose[1] - y) < high


def test_frame_at_a_time_is_the_nearest(api, filmed):
    _, before, _ = filmed
    result = api("get", f"/v1/recordings/{before.pk}/film")
    film = api.client.get(f"/api/v1/recordings/{before.pk}/film/pictures").content
    for moment in ("top", "impact"):
        place = min(range(len(result["times"])), key=lambda i: abs(result["times"][i] - result["moments"][moment]))
        start = sum(result["sizes"][:place])
        got = api.client.get(f"/api/v1/recordings/{before.pk}/film/at/{moment}")
        assert got["Content-Type"] == "image/jpeg"
        assert got.content == film[start : start + result["sizes"][place]]
    api("get", f"/v1/recordings/{before.pk}/film/at/noon", None, 422)


def test_landmarks_are_exported_in_the_open_format(api, filmed):
    _, before, _ = filmed
    record = api("get", f"/v1/recordings/{before.pk}/film/pose")
    assert record["format"] == "instavis.pose/1"
    assert read_pose(record).hand == "left"


def test_compared_swings_differ_where_the_golfer_did(api, filmed):
    _, before, now = filmed
    rows = api("get", f"/v1/recordings/{before.pk}/beside/{now.pk}")
    assert {r["at"] for r in rows} == set(MOMENTS)
    thrust = next(r for r in rows if (r["series"], r["at"]) == ("thrust_cm", "halfway-down"))
    # The made-up golfer went 4.2 cm toward the ball before and 1.0 cm away from it now.
    low, high = thrust["range"]
    assert low < -5.2 < high
    assert thrust["clear"]
    assert thrust["difference"] == pytest.approx(thrust["now"] - thrust["before"])
    top = next(r for r in rows if (r["series"], r["at"]) == ("thrust_cm", "top"))
    assert not top["clear"]
    assert all(r["difference"] == 0 and not r["clear"] for r in api("get", f"/v1/recordings/{now.pk}/beside/{now.pk}"))


def test_film_list_has_ball_block_and_side(api, filmed):
    lesson, before, now = filmed
    rows = api("get", f"/v1/students/{lesson.student_id}/films")
    assert [(r["id"], r["ball"], r["purpose"]) for r in rows] == [(now.pk, 2, "baseline"), (before.pk, 1, "baseline")]
    api("patch", f"/v1/recordings/{now.pk}", {"dropped": True})
    assert [r["id"] for r in api("get", f"/v1/students/{lesson.student_id}/films")] == [before.pk]


def test_pair_is_on_page_and_pdf_after_films_are_deleted(api, filmed):
    lesson, before, now = filmed
    path = f"/v1/lessons/{lesson.pk}/pair"
    result = api("put", path, {"before": before.pk, "now": now.pk, "moment": "halfway-down"})
    assert result["lines"][0].startswith("Thrust: 3.5 cm before, ")
    services.forget_films(Film.objects.all())
    page = api("get", f"/v1/lessons/{lesson.pk}/take-home")
    assert page["pair"] == result
    paper = PdfReader(io.BytesIO(api.client.get(f"/api/v1/lessons/{lesson.pk}/take-home.pdf").content))
    assert "Before and now: Halfway down" in "".join(p.extract_text() for p in paper.pages)
    assert sum(len(p.images) for p in paper.pages) >= 2
    _, token = make_home_link(lesson, lesson.coach, timezone.now())
    for side in ("before", "now"):
        mine = api.client.get(f"/api/v1/lessons/{lesson.pk}/pair/{side}")
        theirs = Client().get(f"/api/v1/home/{token}/pair/{side}")
        assert theirs.content == mine.content == bytes(getattr(Pair.objects.get(), f"{side}_image"))
    api("delete", path, None, 204)
    assert api("get", f"/v1/lessons/{lesson.pk}/take-home")["pair"] is None
    api("get", f"/v1/lessons/{lesson.pk}/pair/now", None, 404)


def test_pair_needs_one_student_side_and_moment(api, filmed, coach):
    lesson, before, now = filmed
    path = f"/v1/lessons/{lesson.pk}/pair"
    api("put", path, {"before": before.pk, "now": now.pk, "moment": "noon"}, 422)
    api("put", path, {"before": before.pk, "now": 999_999, "moment": "top"}, 404)
    when = timezone.now()
    other = start_lesson(coach, student_of(coach), "7i", when)
    change_filming(other.student, True, when)
    foreign = film(other, "before", when)
    refused = api("put", path, {"before": foreign.pk, "now": now.pk, "moment": "top"}, 422)
    assert refused["errors"][0]["field"] == "before"
    api("get", f"/v1/recordings/{foreign.pk}/beside/{now.pk}", None, 422)
    Recording.objects.filter(pk=now.pk).update(view="face-on")
    refused = api("put", path, {"before": before.pk, "now": now.pk, "moment": "top"}, 422)
    assert refused["errors"][0]["field"] == "now"
    assert not Pair.objects.exists()


def test_films_and_pairs_follow_their_retention_rules(api, filmed):
    lesson, before, now = filmed
    when = timezone.now()
    api("put", f"/v1/lessons/{lesson.pk}/pair", {"before": before.pk, "now": now.pk, "moment": "top"})
    assert carry_out(when)["films"] == 0
    Film.objects.filter(recording=before).update(kept_at=when - timedelta(days=181))
    assert carry_out(when)["films"] == 1
    assert len(stored_files()) == 2
    api("get", f"/v1/recordings/{before.pk}/film", None, 404)
    assert api("get", f"/v1/recordings/{before.pk}")["curves"]
    api("patch", "/v1/academy", {"keep_films_days": 0, "keep_pictures_days": 30})
    Pair.objects.update(chosen_at=when - timedelta(days=31))
    assert carry_out(when)["films"] == 2
    assert stored_files() == []
    assert not services.films_wanted(Lesson.objects.get(pk=lesson.pk))


def test_film_without_bytes_is_missing(api, filmed):
    _, before, _ = filmed
    for key in stored_files():
        default_storage.delete(f"films/{key}")
    for path in ("", "/pictures", "/pose", "/at/top"):
        api("get", f"/v1/recordings/{before.pk}/film{path}", None, 404)


def test_long_lesson_keeps_first_and_newest_films(filmed, monkeypatch):
    lesson, before, _ = filmed
    monkeypatch.setattr(services, "FIRST", 1)
    monkeypatch.setattr(services, "NEWEST", 2)
    for number in (3, 4, 5):
        filmed_ball(lesson, "missed", number)
    left = [f.recording for f in Film.objects.order_by("pk")]
    assert [r.shot.number for r in left] == [1, 4, 5]
    assert len(stored_files()) == 2 * len(left)


def test_deleted_student_leaves_no_film(filmed):
    lesson, _, _ = filmed
    assert len(stored_files()) == 4
    forget_student(lesson.student, timezone.now())
    assert stored_files() == []


def test_another_academy_sees_none_of_it(stranger, filmed):
    lesson, before, now = filmed
    for path in ("film", "film/pictures", "film/pose", "film/at/top", f"beside/{now.pk}"):
        stranger("get", f"/v1/recordings/{before.pk}/{path}", None, 404)
    stranger("get", f"/v1/students/{lesson.student_id}/films", None, 404)
    stranger("put", f"/v1/lessons/{lesson.pk}/pair", {"before": before.pk, "now": now.pk, "moment": "top"}, 404)

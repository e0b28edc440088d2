"""Balls from devices are stored once, in order of arrival, whatever the device does."""

from __future__ import annotations

import threading
from datetime import timedelta

import pytest
from django.db import connection, connections
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from instavis.capture.devices.models import Bay, Device
from instavis.capture.devices.services import issue_device, receive_shots, revoke_device, take_bay
from instavis.capture.shots.models import Shot
from instavis.lessons.models import LessonEvent


def test_balls_reach_the_active_lesson(device, lesson, balls, numbered, api):
    answer = device(numbered(balls(3)))
    assert answer == {"stored": 3, "known": 0, "refused": []}
    shown = api("get", f"/v1/lessons/{lesson.pk}/shots")
    assert [s["number"] for s in shown] == [1, 2, 3]


def test_repeated_balls_are_recognized(device, lesson, balls, numbered):
    batch = numbered(balls(4))
    device(batch)
    assert device(batch)["known"] == 4
    assert device(batch[2:] + numbered(balls(1, seed=5), 4))["stored"] == 1
    assert lesson.shots.count() == 5


def test_duplicate_ball_in_a_batch_is_stored_once(device, lesson, balls, numbered):
    (ball,) = numbered(balls(1))
    assert device([ball, ball]) == {"stored": 1, "known": 1, "refused": []}
    assert lesson.shots.count() == 1


def test_late_balls_and_wrong_clocks_are_ordered_by_arrival(device, lesson, balls, numbered):
    future = [{**b, "at": "2099-01-01T00:00:00Z"} for b in numbered(balls(1), 7)]
    device(future)
    device(numbered(balls(1, seed=2), 3))
    assert list(lesson.shots.values_list("device_sequence", flat=True).order_by("number")) == [7, 3]
    assert (timezone.now() - lesson.shots.first().received_at).total_seconds() < 60


@pytest.mark.parametrize(
    ("bad", "field"),
    [
        ({"path_deg": "sideways"}, "path_deg"),
        ({"path_deg": 400}, "path_deg"),
        ({"club": "8w"}, "club"),
        ({"hand": "left"}, "hand"),
        ({"at": "yesterday"}, "at"),
        ({"device_sequence": -1}, "device_sequence"),
        ({"device_sequence": "9"}, "device_sequence"),
        ({"device_sequence": True}, "device_sequence"),
        ({"nested": {"a": 1}}, "nested"),
        ({"note": "x" * 501}, "note"),
    ],
)
def test_bad_ball_is_refused_alone(device, lesson, balls, numbered, bad, field):
    good, wrong = numbered(balls(2))
    answer = device([{**wrong, **bad}, good])
    assert answer["stored"] == 1
    (refused,) = answer["refused"]
    assert (refused["index"], refused["field"]) == (0, field)
    assert refused["expected"]
    assert lesson.shots.count() == 1


@pytest.mark.parametrize("body", [[], "x", {"shots": "x"}, {"shots": [None]}, {"shots": [{}] * 201}, {"other": []}])
def test_invalid_batch_is_answered_and_stores_nothing(bay, client, body):
    import json

    _, token = issue_device(bay, "Odd")
    response = client.post(
        "/api/device/v1/shots",
        json.dumps(body),
        content_type="application/json",
        headers={"Authorization": f"Bearer {token}"},
    )
    assert response.status_code in (200, 422)
    assert Shot.objects.count() == 0
    assert "errors" in response.json() or response.json()["refused"]


def test_wrong_and_revoked_tokens_are_refused_at_once(device, balls, numbered):
    device(numbered(balls(1)), 401, token="iv_wrong")
    revoke_device(device.device, timezone.now())
    device(numbered(balls(1)), 401)
    assert Shot.objects.count() == 0


def test_tokens_are_case_sensitive(bay, device, balls, numbered):
    _, token = issue_device(bay, "Cased")
    device(numbered(balls(1)), 401, token=token.swapcase())


def test_balls_without_a_lesson_are_unassigned(device, bay, lesson, balls, numbered, api):
    bay.lesson = None
    bay.save()
    assert device(numbered(balls(2)))["stored"] == 2
    assert lesson.shots.count() == 0
    assert api("get", "/v1/bays")[0]["tray"] == 2
    assert device(numbered(balls(2)))["known"] == 2


def test_bay_shows_student_and_last_ball(device, bay, lesson, balls, numbered, api):
    (before,) = api("get", "/v1/bays")
    assert (before["student"], before["hand"], before["last_at"]) == (lesson.student.name, lesson.hand, None)
    device(numbered(balls(1)))
    assert api("get", "/v1/bays")[0]["last_at"] == api("get", "/v1/bays")[0]["devices"][0]["seen_at"] is not None
    api("put", f"/v1/lessons/{lesson.pk}/bay", {"bay_id": None})
    (after,) = api("get", "/v1/bays")
    assert (after["student"], after["hand"]) == ("", "")


def test_hello_returns_the_device_identity(device, bay, client):
    _, token = issue_device(bay, "Polite")
    result = client.get("/api/device/v1/hello", headers={"Authorization": f"Bearer {token}"}).json()
    assert (result["device"], result["bay"], result["listening"]) == ("Polite", "Mat one", True)


def test_queries_do_not_grow_with_the_batch(device, balls, numbered, django_assert_max_num_queries):
    with django_assert_max_num_queries(24):
        device(numbered(balls(60)))


@pytest.mark.django_db(transaction=True)
def test_overlapping_retries_store_every_ball_once(device, lesson, balls, numbered):
    batch = numbered(balls(8))
    row = Device.objects.get(pk=device.device.pk)
    results, ready = [], threading.Barrier(4)

    def send():
        ready.wait(5)
        try:
            results.append(receive_shots(row, batch, timezone.now()))
        finally:
            connections.close_all()

    threads = [threading.Thread(target=send) for _ in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(20)
    assert sum(r.stored for r in results) == 8
    assert sum(r.known for r in results) == 24
    assert list(lesson.shots.order_by("number").values_list("number", flat=True)) == list(range(1, 9))


def test_bays_are_always_locked_in_one_order(lesson, bay):
    """Two who lock the same bays in two orders stop each other."""
    other = Bay.objects.create(academy=lesson.academy, name="Mat two")
    for first, second in ((bay, other), (other, bay)):
        take_bay(lesson, first)
        with CaptureQueriesContext(connection) as asked:
            take_bay(lesson, second)
        locks = [q["sql"] for q in asked if "FOR UPDATE" in q["sql"] and "devices_bay" in q["sql"].split("WHERE")[0]]
        assert len(locks) == 1
        assert "ORDER BY `devices_bay`.`id` ASC" in locks[0]
        assert all(f"{key}" in locks[0] for key in sorted((bay.pk, other.pk)))


def test_clock_jumping_back_keeps_the_order(device, lesson, balls, numbered, api, monkeypatch):
    """The server's own clock is set right in the middle of a lesson: balls and screens stay in the order they came."""
    clock = timezone.now()
    for back in (timedelta(0), timedelta(hours=-3), timedelta(hours=2)):
        monkeypatch.setattr("instavis.capture.devices.api.timezone.now", lambda moment=clock + back: moment)
        device(numbered(balls(2, seed=back.seconds + 1), lesson.shots.count()))
    shown = api("get", f"/v1/lessons/{lesson.pk}/shots")
    assert [s["number"] for s in shown] == [1, 2, 3, 4, 5, 6]
    cursors = list(LessonEvent.objects.filter(lesson=lesson).order_by("pk").values_list("cursor", flat=True))
    assert cursors == sorted(set(cursors))
    assert api("get", f"/v1/lessons/{lesson.pk}/proof") is not None


def test_ball_with_only_a_number_is_refused_and_stored(device, lesson):
    result = device(
        [{"device_sequence": 1}, {"device_sequence": 2, "club": "7i"}, {"device_sequence": 3, "path_deg": 1.0}]
    )
    assert (result["stored"], [r["index"] for r in result["refused"]]) == (1, [0, 1])
    assert "at least one measured value" in result["refused"][0]["message"]
    assert lesson.shots.count() == 1

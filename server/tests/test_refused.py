"""Refused records are stored as sent with a reason, and can be accepted later in their place, once."""

from __future__ import annotations

import json

import pytest
from django.utils import timezone

from instavis.accounts.models import Student
from instavis.capture.devices import services
from instavis.capture.devices.models import RefusedBall
from instavis.capture.shots.models import Shot
from instavis.lessons.services import start_lesson

GOOD = {"path_deg": 1.0, "face_deg": -1.0, "strike_toe_mm": 4.0}


def shown(api, lesson) -> dict:
    return api("get", f"/v1/lessons/{lesson.pk}")


def test_other_hand_balls_are_stored_and_added_mirrored(api, device, lesson, balls, numbered, bay):
    batch = numbered(balls(8, hand="left"))
    answer = device(batch)
    assert (answer["stored"], len(answer["refused"])) == (0, 8)
    assert lesson.events.filter(kind="lesson", data__changed="refused").count() == 1
    (group,) = shown(api, lesson)["refused"]
    assert (group["reason"], group["count"]) == ("other-hand", 8)
    assert group["text"] == "8 balls came marked left-handed, but Perrin Oakenshaw plays right-handed. They are stored."
    assert len(device(batch)["refused"]) == 8  # the device heard no answer
    assert RefusedBall.objects.count() == 8

    body = {"bay_id": bay.pk, "refused_ids": group["ids"], "how": "mirrored"}
    taken = api("post", f"/v1/lessons/{lesson.pk}/refused", body)
    assert [s["number"] for s in taken] == list(range(1, 9))
    for sent, ball in zip(batch, taken, strict=True):
        assert ball["path_deg"] == -sent["path_deg"]
        assert ball["strike_toe_mm"] == -sent["strike_toe_mm"]
        assert ball["attack_deg"] == sent["attack_deg"]
        assert ball["hand"] == ""
    assert shown(api, lesson)["refused"] == []
    assert device(batch) == {"stored": 0, "known": 8, "refused": []}
    problem = api("post", f"/v1/lessons/{lesson.pk}/refused", body, 422)["errors"][0]
    assert problem["field"] == "refused_ids"
    assert lesson.shots.count() == 8
    api("get", f"/v1/lessons/{lesson.pk}/reading")


def test_other_hand_balls_go_to_the_student_who_hit_them(api, device, lesson, coach, balls, numbered, bay):
    left = Student.objects.create(academy=coach.academy, name="Sinna Vole", hand="left")
    device(numbered(balls(3, hand="left")))
    theirs = start_lesson(coach, left, "7i", timezone.now())
    api("put", f"/v1/lessons/{theirs.pk}/bay", {"bay_id": bay.pk})
    (group,) = shown(api, theirs)["refused"]
    body = {"bay_id": bay.pk, "refused_ids": group["ids"], "how": "as-it-is"}
    assert {s["hand"] for s in api("post", f"/v1/lessons/{theirs.pk}/refused", body)} == {"left"}
    assert (theirs.shots.count(), lesson.shots.count()) == (3, 0)


ODD = [
    {"shot_id": "Ball"},
    {"shot_id": "BALL"},
    {"shot_id": "b\u00e1ll"},
    {"shot_id": "ball "},
    {"shot_id": "half \ud800"},
    {"note": "half \udfff"},
    {"intent": "zero\u0000"},
    {"mood \ud800": 1},
    {"at": "0001-01-01T00:00:00+14:00"},
    {"at": "9999-12-31T23:59:59-12:00"},
    {"path_deg": 10**399},
    {"mood": 10**399},
    {"device_sequence": 10**399},
    {"device_sequence": 2**63},
    {"path_deg": [[[[[]]]]]},
    {"club": {"a": 1}},
    {"hand": ["left"]},
]


def test_odd_ball_does_not_block_the_next(device, lesson):
    batch = [{**GOOD, "shot_id": "ball", "device_sequence": 0}]
    batch += [{"device_sequence": i, **GOOD, **odd} for i, odd in enumerate(ODD, start=1)]
    batch += [None, "ball", 7, [], {**GOOD, "device_sequence": 99, "shot_id": "last"}]
    answer = device(batch)
    # Only in case, accent or a blank at the end: different balls.
    assert set(lesson.shots.values_list("shot_id", flat=True)) == {"ball", "Ball", "BALL", "b\u00e1ll", "ball ", "last"}
    assert answer["stored"] == 6
    assert len(answer["refused"]) == len(batch) - 6
    assert RefusedBall.objects.count() == len(batch) - 6
    again = device(batch)
    assert (again["stored"], again["known"]) == (0, 6)
    assert RefusedBall.objects.count() == len(batch) - 6


@pytest.mark.parametrize(
    "body",
    [
        b"no JSON at all",
        b'{"shots": [{"path_deg": 1',
        b'{"shots": ' + b"[" * 5000 + b"]" * 5000 + b"}",
        b'{"shots": [{"note": "\xff\xfe"}]}',
        b'{"shots": [{"device_sequence": 1, "path_deg": ' + b"9" * 5000 + b"}]}",
    ],
)
def test_batch_that_is_not_json_is_stored_unchanged(device, lesson, bay, body):
    headers = {"Authorization": f"Bearer {device.token}"}
    client = device.caller.client
    for _ in range(2):
        response = client.post("/api/device/v1/shots", body, content_type="application/json", headers=headers)
        assert response.status_code == 200, response.content
        assert len(response.json()["refused"]) == 1
    assert RefusedBall.objects.get().bay == bay
    assert device([{**GOOD, "device_sequence": 5}])["stored"] == 1


def test_only_the_ball_the_database_refuses_is_left_out(device, lesson, bay, api, monkeypatch):
    store = services.record_shots

    def moody(lesson, records, now, origin):
        if any(r.shot_id == "odd" for r in records):
            raise OverflowError("no such number")
        return store(lesson, records, now, origin)

    monkeypatch.setattr(services, "record_shots", moody)
    batch = [{**GOOD, "shot_id": name, "device_sequence": i} for i, name in enumerate(["a", "odd", "b", "c"])]
    answer = device(batch)
    assert (answer["stored"], [r["index"] for r in answer["refused"]]) == (3, [1])
    assert list(lesson.shots.values_list("shot_id", "number")) == [("a", 1), ("b", 2), ("c", 3)]
    monkeypatch.undo()
    (group,) = shown(api, lesson)["refused"]
    body = {"bay_id": bay.pk, "refused_ids": group["ids"], "how": "as-it-is"}
    api("post", f"/v1/lessons/{lesson.pk}/refused", body)
    assert list(lesson.shots.order_by("number").values_list("shot_id", flat=True)) == ["a", "odd", "b", "c"]
    assert [e.cursor for e in lesson.events.all()] == list(range(1, lesson.events.count() + 1))


def test_late_balls_are_inserted_in_order(api, device, lesson, balls, numbered, bay):
    first, odd, then = numbered(balls(3)), numbered(balls(2, seed=4), 3), numbered(balls(4, seed=5), 5)
    device(first)
    device([{**odd[0], "path_deg": "left a bit"}, {**odd[1], "spin_rpm": -5, "club": "putter"}, *then[:2]])
    block = api("post", f"/v1/lessons/{lesson.pk}/blocks", {"purpose": "baseline", "stage": "half"})
    device(then[2:])
    (group,) = shown(api, lesson)["refused"]
    assert group["reason"] == "unreadable"
    assert "path_deg is 'left a bit'; expected a number" in group["text"]
    api("get", f"/v1/bays/{bay.pk}/refused")
    body = {"bay_id": bay.pk, "refused_ids": group["ids"], "how": "without"}
    api("post", f"/v1/lessons/{lesson.pk}/refused", {**body, "how": "as-it-is"}, 422)
    assert lesson.shots.count() == 7
    taken = api("post", f"/v1/lessons/{lesson.pk}/refused", body)
    assert [s["number"] for s in taken] == [4, 5]
    assert (taken[0]["path_deg"], taken[0]["face_deg"]) == (None, odd[0]["face_deg"])
    rows = list(lesson.shots.order_by("number").values_list("number", "device_sequence", "block_id"))
    assert [r[0] for r in rows] == list(range(1, 10))
    assert [r[1] for r in rows] == list(range(9))
    assert [r[2] == block["id"] for r in rows] == [False] * 7 + [True] * 2
    assert device(numbered(balls(1, seed=9), 9))["stored"] == 1
    assert lesson.shots.order_by("-number").first().number == 10


def test_restarted_numbering_is_reported_and_loses_nothing(api, device, lesson, balls, numbered, bay):
    device(numbered(balls(3)))
    lost = [{k: v for k, v in b.items() if k != "shot_id"} for b in numbered(balls(2, seed=8))]
    answer = device(lost)
    assert (answer["stored"], answer["known"], len(answer["refused"])) == (0, 0, 2)
    (group,) = shown(api, lesson)["refused"]
    assert group["reason"] == "number-taken"
    assert "restarted" in group["text"]
    body = {"bay_id": bay.pk, "refused_ids": group["ids"], "how": "as-it-is"}
    assert len(api("post", f"/v1/lessons/{lesson.pk}/refused", body)) == 2
    assert lesson.shots.count() == 5


def test_dismissed_records_can_be_restored(api, device, lesson, bay):
    device([{"path_deg": "x", "device_sequence": 1}])
    (group,) = shown(api, lesson)["refused"]
    api("post", f"/v1/bays/{bay.pk}/refused/leave", {"refused_ids": group["ids"]}, 204)
    assert shown(api, lesson)["refused"] == []
    assert next(b for b in api("get", "/v1/bays") if b["id"] == bay.pk)["refused_count"] == 0
    api("post", f"/v1/bays/{bay.pk}/refused/leave", {"refused_ids": group["ids"], "left": False}, 204)
    assert shown(api, lesson)["refused"] == [group]
    (stored,) = api("get", f"/v1/bays/{bay.pk}/refused")
    assert json.loads(stored["raw"]) == {"path_deg": "x", "device_sequence": 1}


def test_another_academy_cannot_see_or_add_refused_records(stranger, api, device, lesson, bay):
    device([{"path_deg": "x", "device_sequence": 1}])
    (stored,) = api("get", f"/v1/bays/{bay.pk}/refused")
    own = start_lesson(
        stranger.coach, Student.objects.create(academy=stranger.coach.academy, name="A"), "7i", timezone.now()
    )
    body = {"bay_id": bay.pk, "refused_ids": [stored["id"]], "how": "without"}
    stranger("get", f"/v1/bays/{bay.pk}/refused", status=404)
    stranger("post", f"/v1/lessons/{own.pk}/refused", body, 404)
    stranger("post", f"/v1/bays/{bay.pk}/refused/leave", {"refused_ids": [stored["id"]]}, 404)
    assert Shot.objects.count() == 0


def test_deleting_a_student_deletes_refused_records(api, device, lesson, student, bay):
    device([{"path_deg": "x", "device_sequence": 1}, {"path_deg": "y", "device_sequence": 2}])
    one, _ = api("get", f"/v1/bays/{bay.pk}/refused")
    body = {"bay_id": bay.pk, "refused_ids": [one["id"]], "how": "without"}
    api("post", f"/v1/lessons/{lesson.pk}/refused", body)
    api("post", f"/v1/students/{student.pk}/erase", {"name": student.name})
    assert RefusedBall.objects.count() == 0

"""Rows from a bridge become balls after a coach has set the columns, once each, none lost."""

from __future__ import annotations

import json
from datetime import timedelta

import pytest
from django.test import Client
from django.utils import timezone

from instavis.accounts.models import Student
from instavis.capture.bridges.models import SeenBall, Source, WaitingRow
from instavis.capture.bridges.services import drop_old_identities
from instavis.capture.devices.models import Bay
from instavis.capture.devices.services import take_bay
from instavis.capture.shots.models import Shot
from instavis.lessons.services import start_lesson

from .conftest import Caller

HEAD = ["Session of today", "Club;Club Speed [mph];Path (in-out +);Face;Carry [yd];Smash"]
ROWS = [
    "7 Iron;79,4;3,1;1,2;141,0;1,31",
    "7 Iron;80,1;4,4;2,9;139,5;1,30",
    "7 Iron;78,8;2,6;0,4;142,2;1,32",
    "Average;79,4;3,4;1,5;140,9;1,31",
]


@pytest.fixture
def anyone() -> Caller:
    return Caller(Client())


@pytest.fixture
def code(api, bay) -> str:
    return api("post", f"/v1/bays/{bay.pk}/bridges", {}, 201)["code"]


@pytest.fixture
def bridge(anyone, code):
    """bridge(rows, first=0, head=HEAD) sends rows as a paired bridge does, and gives the answer."""
    token = anyone("post", "/device/v1/pair", {"code": code, "name": "Bay computer"})["token"]

    def send(rows, first=0, head=HEAD, status=200, name="today.csv", path="rows", **more):
        body = {
            "name": name,
            "head": head,
            "rows": [{"device_sequence": first + i, "text": text} for i, text in enumerate(rows)],
            **more,
        }
        return anyone("post", f"/device/v1/{path}", body, status, Authorization=f"Bearer {token}")

    send.token = token
    return send


@pytest.fixture
def confirm(api):
    """Confirm the columns as they are proposed, with changes by header."""

    def confirmed(**changes) -> dict:
        source = Source.objects.get(mapping__isnull=True)
        shown = api("get", f"/v1/sources/{source.pk}")
        mapping = shown["mapping"]
        for column in mapping["columns"]:
            column.update(changes.get(column["header"], {}))
        return api("put", f"/v1/sources/{source.pk}/mapping", mapping)

    return confirmed


def test_rows_become_balls_after_columns_are_confirmed(bridge, api, lesson, confirm):
    assert bridge([*HEAD, *ROWS]) == {"stored": 0, "known": 0, "waiting": 4, "no_balls": 2, "refused": []}
    shown = api("get", f"/v1/lessons/{lesson.pk}")["waiting_sources"]
    assert [w["waiting"] for w in shown] == [4]
    assert "today.csv" in shown[0]["text"]
    assert lesson.shots.count() == 0
    assert confirm() == {"stored": 3}
    balls = api("get", f"/v1/lessons/{lesson.pk}/shots")
    assert [b["path_deg"] for b in balls] == [3.1, 4.4, 2.6]
    assert balls[0]["club"] == "7i"
    assert balls[0]["carry_m"] == pytest.approx(141 * 0.9144, abs=0.01)
    assert api("get", f"/v1/lessons/{lesson.pk}")["waiting_sources"] == []
    assert not WaitingRow.objects.exists()
    # From now on a row is a ball at once.
    assert bridge(["7 Iron;81,0;5,5;3,3;138,0;1,29"], 20)["stored"] == 1


def test_repeated_rows_are_stored_once(bridge, lesson, confirm):
    bridge(ROWS)
    bridge(ROWS)
    assert WaitingRow.objects.count() == 4
    confirm()
    assert bridge(ROWS) == {"stored": 0, "known": 3, "waiting": 0, "no_balls": 1, "refused": []}
    assert lesson.shots.count() == 3


def test_ball_from_a_second_file_or_bridge_is_recognized(bridge, lesson, confirm, anyone, api, bay):
    bridge(ROWS[:1])
    confirm()
    assert bridge(ROWS[:2], 10, name="all.csv")["known"] == 1
    assert lesson.shots.count() == 2
    code = api("post", f"/v1/bays/{bay.pk}/bridges", {}, 201)["code"]
    other = anyone("post", "/device/v1/pair", {"code": code, "name": "Laptop"})["token"]
    body = {"name": "x", "head": HEAD, "rows": [{"device_sequence": 1, "text": ROWS[0]}]}
    assert anyone("post", "/device/v1/rows", body, Authorization=f"Bearer {other}")["known"] == 1
    assert lesson.shots.count() == 2


def test_rows_with_few_digits_are_never_merged(bridge, lesson, confirm):
    head = ["Club Speed [mph],Path"]
    bridge(["79,3", "79,3"], head=head)
    confirm()
    assert bridge(["79,3"], 9, head=head)["stored"] == 1
    assert lesson.shots.count() == 3


def test_new_header_asks_again_and_loses_nothing(bridge, lesson, confirm):
    bridge(ROWS[:1])
    confirm()
    wider = [HEAD[1] + ";Spin Rate"]
    assert bridge(["7 Iron;80,1;4,4;2,9;139,5;1,30;5400"], 5, head=wider)["waiting"] == 1
    assert confirm() == {"stored": 1}
    assert lesson.shots.get(device_sequence=5).spin_rpm == 5400


def test_row_with_extra_cells_is_stored_with_the_reason(bridge, bay, confirm, lesson):
    bridge(ROWS[:1])
    confirm()
    (refused,) = bridge([ROWS[1] + ";5400"], 7)["refused"]
    assert refused["field"] == "row"
    assert bay.refused.get().device_sequence == 7


def test_unreadable_value_can_be_left_out(bridge, api, lesson, bay, confirm):
    bridge(ROWS[:1])
    confirm()
    (refused,) = bridge(["7 Iron;80,1;sideways;2,9;139,5;1,30"], 7)["refused"]
    assert refused["index"] == 0
    stored = bay.refused.get()
    body = {"bay_id": bay.pk, "refused_ids": [stored.pk], "how": "without"}
    (ball,) = api("post", f"/v1/lessons/{lesson.pk}/refused", body)
    assert ball["path_deg"] is None
    assert ball["face_deg"] == 2.9


def test_each_kind_of_object_is_its_own_source(bridge, lesson, confirm, api):
    balls = [
        {"kind": "ball", "club": "7i", "data": {"path": 3.5, "face angle": 1.0, "carry": 130.5}, "n": 1},
        {"kind": "ball", "club": "7i", "data": {"path": 2.5, "face angle": None, "carry": 131.5}, "n": 2},
    ]
    lines = [json.dumps(b) for b in balls]
    beat = json.dumps({"alive": 12, "battery": 93})
    assert bridge([lines[0], beat, lines[1]], head=[beat, *lines])["waiting"] == 3
    beats, shots = Source.objects.order_by("name", "pk").filter(headers__contains="alive"), Source.objects.all()
    assert shots.count() == 2
    api("put", f"/v1/sources/{beats.get().pk}/left", {"left": True}, 204)
    Source.objects.filter(pk=beats.get().pk).update(mapping={})  # so that one is left without a mapping
    confirm()
    assert [s.path_deg for s in lesson.shots.order_by("number")] == [3.5, 2.5]
    fewer = json.dumps({"kind": "ball", "club": "7i", "data": {"path": 1.5}})
    assert bridge([fewer, beat], 10, head=[fewer])["stored"] == 1
    assert lesson.shots.count() == 3


def test_garbage_rows_do_not_stop_the_bridge(bridge, bay):
    answer = bridge(["\x01\x02", "{{{", '{"a": [1', "ÿþ 12 9"], head=["\x01\x02", "{{{"])
    assert answer["stored"] == 0
    assert answer["no_balls"] + len(answer["refused"]) + answer["waiting"] == 4
    assert bridge([], head=[]) == {"stored": 0, "known": 0, "waiting": 0, "no_balls": 0, "refused": []}


def test_old_rows_are_examples_only(bridge, api, bay, confirm, lesson):
    assert bridge(ROWS, example=True)["no_balls"] == 4
    (source,) = api("get", f"/v1/bays/{bay.pk}/sources")
    assert (source["waiting"], source["confirmed_at"]) == (0, None)
    assert api("get", f"/v1/sources/{source['id']}")["preview"]["count"] == 3
    assert confirm() == {"stored": 0}
    assert bridge(ROWS[:1], 4)["stored"] == 1


def test_rows_without_a_lesson_become_unassigned_balls(bridge, confirm, bay, lesson):
    take_bay(lesson, None)
    bridge(ROWS)
    confirm()
    assert Shot.objects.filter(bay=bay, lesson=None).count() == 3


def test_rows_of_an_earlier_lesson_never_go_to_the_next_student(bridge, confirm, bay, lesson, coach):
    bridge(ROWS[:2])
    other = start_lesson(
        coach, Student.objects.create(academy=coach.academy, name="Next one", hand="left"), "7i", timezone.now()
    )
    take_bay(other, bay)
    bridge(ROWS[2:3], 10)
    confirm(**{"Path (in-out +)": {"sign": "golfer"}})
    assert lesson.shots.count() == 0
    assert [s.path_deg for s in other.shots.all()] == [-2.6]
    unassigned = Shot.objects.filter(bay=bay, lesson=None).order_by("device_sequence")
    assert [(s.path_deg, s.hand) for s in unassigned] == [(3.1, "right"), (4.4, "right")]


def test_in_to_out_columns_follow_the_golfers_hand(bridge, confirm, lesson):
    lesson.hand = "left"
    lesson.save()
    bridge(ROWS[:1])
    confirm(**{"Path (in-out +)": {"sign": "golfer"}})
    assert lesson.shots.get().path_deg == -3.1


def test_times_without_a_zone_use_the_academys(bridge, confirm, lesson):
    lesson.academy.time_zone = "America/Bogota"
    lesson.academy.save()
    bridge(["04.05.2026 09:12:31;3,1;1,2"], head=["Zeit;Pfad;Fläche;"])
    Source.objects.get()
    confirm(Pfad={"field": "path_deg", "unit": "deg"}, Fläche={"field": "face_deg", "unit": "deg"})
    assert lesson.shots.get().at.isoformat() == "2026-05-04T14:12:31+00:00"


def test_columns_without_headers_are_numbered(bridge, api):
    bridge(["7i,3.1,1.2", "7i,2.2,0.3"], head=["7i,3.1,1.2", "7i,2.2,0.3"])
    source = Source.objects.get()
    assert source.headers == ["Column 1", "Column 2", "Column 3"]
    shown = api("get", f"/v1/sources/{source.pk}")
    assert [c["use"]["field"] for c in shown["columns"]] == ["", "", ""]


def test_code_pairs_once_and_disconnected_bridge_is_refused(bridge, anyone, api, bay, code):
    anyone("post", "/device/v1/pair", {"code": code, "name": "again"}, 404)
    (shown,) = api("get", f"/v1/bays/{bay.pk}/bridges")
    assert (shown["name"], shown["heard"]) == ("Bay computer", False)
    result = {"source": "C:/balls", "waiting": 3, "clock": timezone.now().isoformat(), "problem": ""}
    here = anyone("post", "/device/v1/here", result, Authorization=f"Bearer {bridge.token}")
    assert here["bay"] == bay.name
    (shown,) = api("get", f"/v1/bays/{bay.pk}/bridges")
    assert (shown["heard"], shown["waiting"], shown["source"]) == (True, 3, "C:/balls")
    assert abs(shown["clock_off_s"]) < 5
    api("delete", f"/v1/bridges/{shown['id']}", None, 204)
    bridge(ROWS, status=401)
    assert api("get", f"/v1/bays/{bay.pk}/bridges") == []


def test_waiting_rows_are_limited_and_stay_with_the_bridge(bridge, monkeypatch):
    monkeypatch.setattr("instavis.capture.bridges.services.MAX_WAITING", 5)
    bridge(ROWS)
    bridge([ROWS[0], ROWS[1]], 10, status=409)
    assert WaitingRow.objects.count() == 4


def test_unused_sources_of_a_bay_are_deleted(bridge, api, bay, monkeypatch):
    monkeypatch.setattr("instavis.capture.bridges.services.MAX_SOURCES", 2)
    bridge(ROWS[:1], head=["A;B;C;D;E;F"])
    bridge(ROWS[:1], 10, head=["B;C;D;E;F;G"])
    bridge(ROWS[:1], 20, head=["C;D;E;F;G;H"], status=409)
    oldest = bay.sources.order_by("seen_at").first()
    api("put", f"/v1/sources/{oldest.pk}/left", {"left": True}, 204)
    assert bridge(ROWS[:1], 20, head=["C;D;E;F;G;H"])["waiting"] == 1
    assert not bay.sources.filter(pk=oldest.pk).exists()


def test_old_ball_identities_are_deleted(bridge, confirm, lesson, api):
    bridge(ROWS)
    confirm()
    assert SeenBall.objects.count() == 3
    assert drop_old_identities(timezone.now() + timedelta(days=9)) == 3
    source = Source.objects.get()
    assert source.examples == []
    shown = api("get", f"/v1/sources/{source.pk}")
    assert (shown["preview"]["count"], shown["remembered"], shown["hand"]) == (0, True, lesson.hand)


def test_mapping_is_reused_in_the_next_bay(bridge, confirm, api, bay, anyone, lesson):
    bridge(ROWS)
    confirm(Face={"field": "", "unit": ""})
    other = Bay.objects.create(academy=bay.academy, name="Other bay")
    code = api("post", f"/v1/bays/{other.pk}/bridges", {}, 201)["code"]
    token = anyone("post", "/device/v1/pair", {"code": code, "name": "x"})["token"]
    body = {"name": "y", "head": HEAD, "rows": [{"device_sequence": 1, "text": "7 Iron;70,4;1,1;1,9;101,0;1,2"}]}
    assert anyone("post", "/device/v1/rows", body, Authorization=f"Bearer {token}")["waiting"] == 1
    shown = api("get", f"/v1/sources/{other.sources.get().pk}")
    assert shown["remembered"]
    assert "face_deg" not in [c["field"] for c in shown["mapping"]["columns"]]


EARLY = "7 Iron;;;;141,3;;104,7;17,9;3120,4"
FULL = "7 Iron;79,4;3,1;1,2;141,3;1,31;104,7;17,9;3120,4"
WIDE = [f"{HEAD[1]};Ball Speed [mph];Launch Angle;Spin Rate"]


@pytest.mark.parametrize("together", [True, False])
def test_a_row_with_club_data_a_second_later_fills_the_ball(bridge, lesson, confirm, together):
    bridge(["7 Iron;81,2;4,4;2,9;139,5;1,30;105,2;18,3;3050,6"], head=WIDE)
    confirm()
    rows = [[EARLY, FULL]] if together else [[EARLY], [FULL]]
    for number, some in enumerate(rows):
        bridge(some, 10 + number, head=WIDE)
    assert lesson.shots.count() == 2
    ball = lesson.shots.last()
    assert (ball.path_deg, ball.face_deg, ball.launch_angle_deg) == (3.1, 1.2, 17.9)
    # Sent again, whole or in part, it is still that ball; another one is another.
    for number in (10, 11):
        assert bridge([EARLY if number == 10 else FULL], number, head=WIDE)["known"] == 1
    Shot.objects.update(received_at=timezone.now() - timedelta(hours=1))
    assert bridge([FULL], 11, head=WIDE)["known"] == 1
    assert bridge([FULL.replace("104,7", "104,8")], 12, head=WIDE)["stored"] == 1
    assert lesson.shots.count() == 3


def test_completed_ball_is_sent_to_its_screens(bridge, lesson, confirm):
    bridge([EARLY], head=WIDE)
    confirm()
    bridge([FULL], 1, head=WIDE)
    events = lesson.events.filter(kind="ball")
    assert [event.data["path_deg"] for event in events] == [None, 3.1]
    assert len({event.data["id"] for event in events}) == 1


def test_different_balls_in_whole_numbers_are_all_stored(bridge, lesson, confirm):
    """However they are printed: four numbers such as 104.0 do not tell two balls apart."""
    head = ["Club Speed [mph];Ball Speed [mph];Launch Angle;Carry [yd]"]
    bridge(["79.0;104.0;18.0;140.0"], head=head)
    confirm()
    assert bridge(["79.0;104.0;18.0;140.0", "79.0;104.0;18.0;140.0"], 1, head=head)["stored"] == 2


def test_a_heading_between_balls_names_their_club(bridge, lesson, confirm):
    head = ["Club Speed [mph],Ball Speed [mph],Launch Angle,Carry [yd]"]
    bridge(["79.1,104.2,18.3,140.4"], head=[*head, "7 Iron,,,"])
    assert WaitingRow.objects.get().club == "7i"
    confirm()
    bridge(["101.1,148.2,12.3,240.4"], 1, head=[*head, "Driver,,,"])
    bridge(["80.1,105.2,18.9,141.4"], 2, head=head)
    assert [shot.club for shot in lesson.shots.all()] == ["7i", "D", lesson.club]


def test_nested_objects_are_guessed_by_their_inner_names(bridge, lesson, confirm, api):
    ball = {"clubData": {"pathDeg": 3.1, "speedMph": 79.4}, "ballData": {"launchAngle": 17.9, "carryYd": 141.2}}
    bridge([json.dumps(ball)], head=["{}"])
    confirm()
    (stored,) = lesson.shots.all()
    assert (stored.path_deg, stored.launch_angle_deg) == (3.1, 17.9)
    assert stored.club_speed_mps == pytest.approx(79.4 * 0.44704, abs=0.01)


def test_a_header_that_names_a_side_without_plus_is_uncertain_for_a_left_hander(bridge, lesson, api, student):
    student.hand = "left"
    student.save()
    lesson.hand = "left"
    lesson.save()
    bridge(["80.1;4.2;2.1"], head=["Club Speed [mph];Path In-Out;Face Open"])
    shown = api("get", f"/v1/sources/{Source.objects.get().pk}")
    sides = {c["use"]["header"]: (c["use"]["sign"], c["sure"]) for c in shown["columns"]}
    assert sides["Path In-Out"] == sides["Face Open"] == ("golfer", False)


def test_day_and_time_columns_make_one_time(bridge, lesson, confirm):
    head = ["Date;Time;Club Speed [mph];Ball Speed [mph]"]
    bridge(["04.05.2026;14:12:31;79.1;104.2"], head=head)
    confirm()
    assert lesson.shots.get().at.isoformat() == "2026-05-04T14:12:31+00:00"

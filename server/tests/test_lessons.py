"""A lesson from the first question to the take-home page, over the API."""

from __future__ import annotations

import pytest

from instavis.capture.shots.models import Shot
from instavis.corrections.models import Correction
from instavis_io.tables import write_table

from .conftest import MIXED

FAULT = "early-extension/from-inside"


def test_a_whole_lesson(api, corrected, device, balls, numbered):
    path = f"/v1/lessons/{corrected.pk}"
    api(
        "put",
        f"{path}/intake",
        {"misses": {"irons": {"start": "right", "curve": "left"}}, "contact": ["heel"], "limits": {"knee": "pain"}},
    )
    ranking = api("get", f"{path}/cause")
    assert ranking["faults"][0]["id"] == "early-extension"
    device(numbered([{**r, "mark_basis": "blind"} for r in balls(14, FAULT, 9, marks=[*MIXED] * 5)]))
    proof = api("get", f"{path}/proof")
    assert proof["proof"]["status"] == "verified"
    assert len(proof["ball_ids"]) == len(proof["proof"]["verdicts"]) == 14
    api("put", f"{path}/take-home", {"note": "Slow.", "minutes": 12, "days_a_week": 3})
    page = api("get", f"{path}/take-home")
    proven = next(section["lines"] for section in page["sections"] if section["id"] == "proven")
    assert proven[0].startswith("Proven today")
    assert page["drill"]
    assert any("Not medical advice" in c for c in page["cautions"])
    stations = {s["id"]: s for s in api("get", path)["stations"]}
    assert all(stations[s]["ready"] for s in ("ask", "check", "correct", "prove", "take-home"))


def test_marking_an_earlier_ball_judges_everything_again(api, corrected, device, balls, numbered):
    path = f"/v1/lessons/{corrected.pk}"
    device(numbered([{**r, "mark_basis": "blind"} for r in balls(18, FAULT, 9, marks=[*MIXED] * 6)]))
    shots = [s for s in api("get", f"{path}/shots") if s["movement"]]
    before = api("get", f"{path}/proof")["proof"]
    for shot in shots:
        api("patch", f"/v1/shots/{shot['id']}", {"movement": "missed"})
    after = api("get", f"{path}/proof")["proof"]
    assert before["status"] == "verified"
    assert after["status"] == "compensated"
    api("patch", f"/v1/shots/{shots[0]['id']}", {"set_aside": "phone rang"})
    assert api("get", f"{path}/proof")["proof"]["verdicts"][0]["verdict"] == "unclear"
    api("patch", f"/v1/shots/{shots[0]['id']}", {"set_aside": ""})
    assert api("get", f"{path}/proof")["proof"]["verdicts"] == after["verdicts"]


def test_a_correction_that_failed_lowers_its_fault(api, corrected):
    path = f"/v1/lessons/{corrected.pk}"
    before = api("get", f"{path}/cause")["faults"][0]
    correction = api("get", f"{path}/proof")["correction"]
    Correction.objects.filter(pk=correction["id"]).update(outcome="not-supported")
    after = next(f for f in api("get", f"{path}/cause")["faults"] if f["id"] == before["id"])
    assert after["probability"] < before["probability"]
    assert any(e["kind"] == "trial" for e in after["evidence"])
    assert api("get", f"{path}/proof")["correction"] is None
    assert api("get", f"{path}/corrections")["tried"][0]["outcome"] == "not-supported"


def test_gate_moved_after_balls_starts_the_claim_again(api, corrected, device, balls, numbered):
    correction = api("get", f"/v1/lessons/{corrected.pk}/proof")["correction"]
    address = f"/v1/corrections/{correction['id']}"
    gate = {correction["primary"]: [-2, 2]}
    assert api("patch", address, {"gate": gate})["gate"] == {correction["primary"]: [-2.0, 2.0]}
    api("patch", address, {"gate": {correction["primary"]: [2, -2]}}, 422)
    device(numbered(balls(1)))
    assert api("patch", address, {"gate": gate})["id"] == correction["id"]
    anew = api("patch", address, {"gate": {correction["primary"]: [-1, 3]}})
    assert anew["id"] != correction["id"]
    result = api("get", f"/v1/lessons/{corrected.pk}/proof")
    assert result["correction"]["id"] == anew["id"]
    assert result["ball_ids"] == []
    tried = api("get", f"/v1/lessons/{corrected.pk}/corrections")["tried"]
    assert [(t["id"], t["outcome"]) for t in tried] == [(correction["id"], "stopped")]


def test_lesson_may_use_another_school_than_its_coach(api, corrected):
    path = f"/v1/lessons/{corrected.pk}"
    assert api("patch", path, {"school": {"opening": "result"}})["school"] == {"opening": "result"}
    assert api("patch", path, {"school": {"opening": "sideways"}}, 422)["errors"][0]["field"] == "school.opening"
    drills = api("get", f"{path}/corrections")["candidates"][0]["drills"]
    assert drills[0]["follows_school"]


def test_proving_without_a_correction_is_refused(api, lesson):
    api("post", f"/v1/lessons/{lesson.pk}/blocks", {"purpose": "prove"}, 409)


def test_lessons_resume_at_their_station(api, lesson):
    api("patch", f"/v1/lessons/{lesson.pk}", {"station": "check", "club": "PW"})
    again = api("get", f"/v1/lessons/{lesson.pk}")
    assert (again["station"], again["club"]) == ("check", "PW")
    api("patch", f"/v1/lessons/{lesson.pk}", {"ended": True})
    assert api("get", "/v1/lessons")[0]["ended_at"]
    api("patch", f"/v1/lessons/{lesson.pk}", {"ended": False})
    assert api("get", f"/v1/lessons/{lesson.pk}")["ended_at"] is None


def test_juniors_need_a_guardian(api):
    body = {"name": "Small", "born": "2015-05-05"}
    result = api("post", "/v1/students", body, 422)["errors"][0]
    assert result["field"] == "guardian_consent"
    api("post", "/v1/students", {**body, "guardian_consent": "Parent Small"}, 201)


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("post", "/students", {"name": "  "}),
        ("post", "/students", {"name": "A", "hand": "both"}),
        ("post", "/students", {"name": "A", "handicap": 99}),
        ("post", "/students", {"name": "A", "born": "1700-01-01"}),
        ("post", "/students", {"name": "A", "extra": 1}),
        ("patch", "/lessons/{id}", {"station": "nowhere"}),
        ("patch", "/lessons/{id}", {"club": "8w"}),
        ("put", "/lessons/{id}/intake", {"misses": {"irons": {"start": "up"}}}),
        ("put", "/lessons/{id}/intake", {"limits": {"ear": "pain"}}),
        ("put", "/lessons/{id}/intake", {"limits": {"knee": "sad"}}),
        ("put", "/lessons/{id}/intake", {"misses": {"putters": {}}}),
        ("put", "/lessons/{id}/intake", {"misses": {"irons": {"off_m": 9999}}}),
        ("put", "/lessons/{id}/intake", {"old_faults": ["bad-luck"]}),
        ("put", "/lessons/{id}/intake", {"kit": ["trebuchet"]}),
        ("patch", "/lessons/{id}", {"minutes": 3}),
        ("post", "/lessons/{id}/balls", {"start": "up", "curve": "left"}),
        ("post", "/lessons/{id}/setups", {}),
        ("post", "/lessons/{id}/setups", {"ball_cm": 900}),
        ("post", "/lessons/{id}/marks", {"shot_ids": [12345], "note": "x"}),
        ("put", "/lessons/{id}/checks", {"grades": {"seat-line": "gone"}}),
        ("put", "/lessons/{id}/checks", {"grades": {"sight-line": "on-line"}}),
        ("put", "/lessons/{id}/take-home", {"minutes": 0}),
        ("get", "/lessons/{id}/reading?balls=1,x", None),
        ("post", "/lessons/{id}/blocks", {"purpose": "party"}),
        ("patch", "/session", {"school": {"height": "flying"}}),
    ],
)
def test_bad_input_is_refused_in_the_common_shape(api, lesson, method, path, body):
    result = api(method, "/v1" + path.replace("{id}", str(lesson.pk)), body, 422)
    assert result["errors"][0]["field"]
    assert result["errors"][0]["message"]


@pytest.mark.parametrize(
    ("text", "line", "field"),
    [
        (b"path_deg,wobble\n1,2\n", 1, "wobble"),
        (b"path_deg\n1\nNaN\n", 3, "path_deg"),
        (b"path_deg\n1\n999\n", 3, "path_deg"),
        (b"club_speed_mph\n90\n800\n", 3, "club_speed_mph"),
        (b"", 1, "file"),
        (b"hand,path_deg\nright,1\nleft,2\n", None, "ball 2.hand"),
    ],
)
def test_bad_file_names_the_line_and_stores_nothing(api, lesson, text, line, field, bring):
    result = bring(text, status=422)["errors"][0]
    assert (result.get("line"), result["field"]) == (line, field)
    assert Shot.objects.count() == 0
    assert lesson.blocks.count() == 1


def test_repeated_file_adds_balls_once_and_exports_the_same(api, lesson, balls, bring):
    data = write_table(balls(9)).encode()
    assert bring(data) == {"stored": 9, "known": 0}
    assert bring(data) == {"stored": 0, "known": 9}
    assert bring(data, "same.csv") == {"stored": 0, "known": 9}
    out = api("get", f"/v1/lessons/{lesson.pk}/export.json")
    assert [r["path_deg"] for r in out] == [r["path_deg"] for r in balls(9)]
    table = api.client.get(f"/api/v1/lessons/{lesson.pk}/export.csv").content
    assert table.count(b"\n") == 10


def test_unknown_addresses_answer_in_the_common_shape(api, db):
    assert api("get", "/v1/nowhere", None, 404)["errors"][0]["field"] == "address"


def test_lists_need_a_fixed_number_of_queries(api, coach, lesson, django_assert_num_queries):
    for n in range(5):
        student = api("post", "/v1/students", {"name": f"S{n}"}, 201)
        api("post", "/v1/lessons", {"student_id": student["id"]}, 201)
    with django_assert_num_queries(8):  # session, coach, lessons; whose, whom they were with, open blocks
        assert len(api("get", "/v1/lessons")) == 6
    with django_assert_num_queries(3):
        assert len(api("get", "/v1/students")) == 6

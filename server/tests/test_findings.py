"""Readings of blocks and single balls, and what-if, over the API."""

from __future__ import annotations

import pytest


@pytest.fixture
def hit(lesson, device, balls, numbered, api):
    """hit(n, …) posts balls of a simulated golfer and gives the lesson's balls as the interface shows them."""

    def make(n: int = 12, drop: tuple[str, ...] = (), **options) -> list[dict]:
        records = [{k: v for k, v in b.items() if k not in drop} for b in balls(n, **options)]
        device(numbered(records))
        return api("get", f"/v1/lessons/{lesson.pk}/shots")

    return make


CLUB_VALUES = (
    "club_speed_mps",
    "path_deg",
    "face_deg",
    "attack_deg",
    "dynamic_loft_deg",
    "strike_toe_mm",
    "strike_high_mm",
)


def test_reading_separates_measured_from_inferred(api, lesson, hit):
    hit(12, drop=CLUB_VALUES, fault="upper-body-first")
    result = api("get", f"/v1/lessons/{lesson.pk}/reading")
    assert result["reading"]["metrics"]["path_deg"]["origin"] == "inferred"
    assert len(result["inferred"]["path_deg"]) == len(result["ball_ids"]) == 12
    assert "launch_direction_deg" not in result["inferred"]


def test_ball_detail_names_its_causes(api, hit):
    shots = hit(10, fault="upper-body-first")
    result = api("get", f"/v1/shots/{shots[3]['id']}/reading")
    assert {v["origin"] for v in result["values"]} == {"measured"}
    assert sum(result["shares"]["curve"].values()) == pytest.approx(shots[3]["spin_axis_deg"], abs=1e-6)
    assert result["sentences"]


def test_what_if_uses_the_median_or_one_ball(api, lesson, hit):
    shots = hit(10, fault="upper-body-first")
    address = f"/v1/lessons/{lesson.pk}/what-if"
    middle = api("post", address, {"changes": {"path_deg": 0.0}})
    assert abs(middle["after"]["curve_m"]) < abs(middle["before"]["curve_m"])
    one = api("post", address, {"shot_id": shots[0]["id"], "changes": {}})
    assert one["before"]["delivery"]["path_deg"] == pytest.approx(shots[0]["path_deg"])


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"carry_m": 100.0}, "changes.carry_m"),
        ({"path_deg": 400.0}, "changes.path_deg"),
        ({"wish": 1.0}, "changes.wish"),
    ],
)
def test_invalid_what_if_is_refused(api, lesson, changes, field):
    errors = api("post", f"/v1/lessons/{lesson.pk}/what-if", {"changes": changes}, 422)["errors"]
    assert errors[0]["field"] == field
    assert errors[0]["expected"]


def test_what_if_without_balls_starts_from_a_usual_ball(api, lesson):
    result = api("post", f"/v1/lessons/{lesson.pk}/what-if", {"changes": {"face_deg": 4.0}})
    assert result["after"]["side_m"] > 5


def test_answer_records_whether_the_ranking_was_seen(api, lesson):
    path = f"/v1/lessons/{lesson.pk}"
    api("put", f"{path}/checks", {"grades": {"seat-line": "on-line"}})
    api("patch", path, {"station": "cause"})
    api("patch", path, {"station": "check"})
    result = api("put", f"{path}/checks", {"grades": {"first-mover": "pelvis"}})["seen"]
    assert {s["check"]: s["after_board"] for s in result} == {"seat-line": False, "first-mover": True}

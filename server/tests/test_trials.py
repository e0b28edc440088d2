"""Proof sets and cue trials: random orders, balls that ignore the call, judged once; and second screens."""

from __future__ import annotations

from datetime import timedelta

import pytest
from django.test import Client
from django.utils import timezone

from instavis.corrections.trials.models import Trial
from instavis.display.screens.models import Screen
from instavis.platform.pairing import MAX_GUESSES

from .conftest import FAULT, Caller


@pytest.fixture
def path(with_baseline):
    return f"/v1/lessons/{with_baseline.pk}"


@pytest.fixture
def begin(api, path):
    def make(balls=8, status=201, **body):
        return api("post", f"{path}/trials", {"primary": "path_deg", "balls": balls, **body}, status)

    return make


@pytest.fixture
def hit(device, bay, with_baseline, balls, numbered):
    """hit(trial, wrong=()) sends the balls of a trial as called: the new move takes the fault away."""
    bay.lesson = with_baseline
    bay.save()

    def make(trial_id: int, count=None, start=0):
        order = Trial.objects.get(pk=trial_id).order[start : start + (count or 99)]
        marks = ["done" if new else "missed" for new in order]
        records = [
            {k: v for k, v in r.items() if k != "movement"} for r in balls(len(order), FAULT, 40 + start, marks=marks)
        ]
        device(numbered(records, 1000 * trial_id + start))

    return make


def test_balls_are_called_in_a_balanced_order_and_judged_when_all_are_hit(api, path, begin, hit):
    trial = begin(12)
    assert trial["next_call"] in ("old", "new")
    hit(trial["id"], 11)
    result = api("get", f"{path}/trials")[0]
    assert result["result"] is None
    assert "11 of 12" in result["sentence"]
    hit(trial["id"], 1, 11)
    result = api("get", f"{path}/trials")[0]
    assert result["next_call"] == ""
    assert result["result"]["balls_new"] == result["result"]["balls_old"] == 6
    assert result["result"]["effect"] < -1.5
    assert result["result"]["p"] < 0.05
    assert "do change" in result["sentence"]


def test_ball_against_the_call_is_marked_and_excluded(api, path, begin, hit):
    trial = begin(8)
    hit(trial["id"])
    ball = api("get", f"{path}/trials")[0]["balls"][0]
    other = "old" if ball["called"] == "new" else "new"
    api("patch", f"/v1/shots/{ball['shot_id']}", {"intent": other})
    result = api("get", f"{path}/trials")[0]
    assert result["balls"][0] | {"value": None} == ball | {"hit": other, "counts": False, "value": None}
    assert result["result"]["miscalled"] == 1
    assert "against the call" in result["sentence"]


def test_trial_balls_count_neither_as_baseline_nor_as_proof(api, path, begin, hit):
    before = api("get", f"{path}/reading")["reading"]["clean"]
    hit(begin(8)["id"])
    assert api("get", f"{path}/reading")["reading"]["clean"] == before


def test_ended_trial_is_judged_and_restores_the_block(api, path, begin, hit, with_baseline):
    trial = begin(12)
    hit(trial["id"], 7)
    result = api("post", f"/v1/trials/{trial['id']}/end")
    assert result["ended"]
    assert result["result"]["balls_old"] + result["result"]["balls_new"] == 7
    with_baseline.refresh_from_db()
    assert with_baseline.open_block.purpose == "baseline"


def test_trial_with_too_few_balls_has_no_result(api, begin, hit):
    trial = begin(8)
    hit(trial["id"], 2)
    result = api("post", f"/v1/trials/{trial['id']}/end")
    assert result["result"] is None
    assert "No verdict yet" in result["sentence"]


def test_two_cues_are_compared_by_their_names(api, path, begin, hit):
    trial = begin(8, first="Post and turn", second="Turn, then post")
    assert trial["next_call"] in ("Post and turn", "Turn, then post")
    hit(trial["id"])
    assert "Turn, then post" in api("get", f"{path}/trials")[0]["sentence"]


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"balls": 7}, "balls"),
        ({"balls": 40}, "balls"),
        ({"first": "same", "second": "Same"}, "second"),
        ({"first": " ", "second": "x"}, "second"),
        ({"primary": "colour"}, "primary"),
    ],
)
def test_invalid_comparisons_are_refused(begin, body, field):
    assert begin(status=422, **body)["errors"][0]["field"] == field


def test_one_trial_at_a_time(begin):
    begin()
    assert begin(status=409)["errors"][0]["field"] == "trial"


def test_trial_plan_uses_the_baseline_spread(api, path):
    large, small = (api("get", f"{path}/trials/plan?primary=path_deg&effect={e}") for e in (6, 1))
    assert large["balls"] < small["balls"] == 20
    assert api("get", f"{path}/trials/plan?primary=path_deg&effect=0", None, 422)["errors"][0]["field"] == "effect"
    assert api("get", f"{path}/trials/plan?primary=colour&effect=2", None, 422)["errors"][0]["field"] == "primary"


@pytest.fixture
def visitor(db):
    client = Client()
    client.get("/")
    return Caller(client)


def test_second_screen_shows_no_ball_at_a_stage_without_balls(api, corrected, device, balls, numbered):
    lesson = corrected
    device(numbered(balls(1, fault="early-extension", marks=["done"]), 500))
    correction = lesson.corrections.get()
    code = api("post", f"/v1/lessons/{lesson.pk}/screens", {}, 201)["code"]
    token = api("post", "/v1/mat", {"code": code})["token"]
    shown = api("get", f"/v1/mat/{token}")
    assert (shown["task"], shown["ball"] > 0) == ("", True)
    api("patch", f"/v1/corrections/{correction.pk}", {"stage": "rehearse"})
    shown = api("get", f"/v1/mat/{token}")
    assert (shown["ball"], shown["moved"], shown["answered"], shown["verdict"]) == (0, "", "", "")
    assert shown["task"].startswith("No ball.")


def test_second_screen_shows_only_move_and_result(api, visitor, corrected, balls, device, bay, numbered):
    path = f"/v1/lessons/{corrected.pk}"
    code = api("post", f"{path}/screens", None, 201)["code"]
    token = visitor("post", "/v1/mat", {"code": code})["token"]
    bay.lesson = corrected
    bay.save()
    device(numbered(balls(1, FAULT, 9, marks=["done"])))
    shot = api("get", f"{path}/shots")[-1]
    api("patch", f"/v1/shots/{shot['id']}", {"movement": "done"})
    result = visitor("get", f"/v1/mat/{token}")
    assert (result["moved"], result["ball"]) == ("yes", shot["number"])
    assert result["answered"] in ("yes", "no")
    assert result["first_name"] == "Perrin"
    assert "Oakenshaw" not in str(result)
    words = "first_name language cue stage ball moved answered verdict hits need of more advice call task ended"
    assert set(result) == set(words.split())


def test_code_pairs_once_within_five_minutes(api, visitor, lesson):
    path = f"/v1/lessons/{lesson.pk}"
    code = api("post", f"{path}/screens", None, 201)["code"]
    visitor("post", "/v1/mat", {"code": code})
    visitor("post", "/v1/mat", {"code": code}, 404)
    code = api("post", f"{path}/screens", None, 201)["code"]
    Screen.objects.update(code_until=timezone.now() - timedelta(seconds=1))
    visitor("post", "/v1/mat", {"code": code}, 404)


def test_disconnected_screen_shows_nothing(api, visitor, lesson):
    path = f"/v1/lessons/{lesson.pk}"
    token = visitor("post", "/v1/mat", {"code": api("post", f"{path}/screens", None, 201)["code"]})["token"]
    assert visitor("get", f"/v1/mat/{token}")["ball"] == 0
    api("delete", f"{path}/screens", None, 204)
    visitor("get", f"/v1/mat/{token}", None, 404)
    visitor("get", "/v1/mat/nonsense", None, 404)


def test_guessing_codes_is_slowed_down(visitor, lesson, api):
    from django.core.cache import cache

    cache.clear()
    for _ in range(MAX_GUESSES):
        visitor("post", "/v1/mat", {"code": "123"}, 404)
    good = api("post", f"/v1/lessons/{lesson.pk}/screens", None, 201)["code"]
    visitor("post", "/v1/mat", {"code": good}, 429)
    cache.clear()


def test_screens_store_only_hashes(api, visitor, lesson):
    code = api("post", f"/v1/lessons/{lesson.pk}/screens", None, 201)["code"]
    token = visitor("post", "/v1/mat", {"code": code})["token"]
    stored = str([vars(s) for s in Screen.objects.all()])
    assert code not in stored
    assert token not in stored


def test_unmeasured_number_is_marked_inferred(api, path, begin, device, bay, with_baseline, balls, numbered):
    bay.lesson = with_baseline
    bay.save()
    trial = begin(4)
    keep = {
        "shot_id",
        "at",
        "club",
        "hand",
        "ball_speed_mps",
        "launch_angle_deg",
        "launch_direction_deg",
        "spin_rpm",
        "spin_axis_deg",
    }
    device(numbered([{k: v for k, v in r.items() if k in keep} for r in balls(4, FAULT, 60)], 7000))
    api("post", f"/v1/trials/{trial['id']}/end")
    result = api("get", f"{path}/trials")[0]
    assert all(b["inferred"] for b in result["balls"] if b["value"] is not None)
    assert result["result"] is None or "inferred from the flight" in result["sentence"]

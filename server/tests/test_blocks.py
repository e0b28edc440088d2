"""Balls by hand, split and merged blocks, other clubs, turns in a bay, unassigned balls."""

from __future__ import annotations

import dataclasses

import numpy as np
import pytest
from django.utils import timezone

from instavis.accounts.models import Student
from instavis.capture.devices.models import Bay
from instavis.capture.shots.selectors import balls_among, balls_of, shots_of
from instavis.lessons.services import end_lesson, start_lesson


@pytest.fixture
def hit(lesson, device, balls, numbered, api):
    """hit(n) posts balls; gives the lesson's balls."""

    def make(n: int, start: int = 0, **options) -> list[dict]:
        device(numbered(balls(n, **options), start))
        return api("get", f"/v1/lessons/{lesson.pk}/shots")

    return make


def test_hand_entered_balls_are_marked_and_read_as_such(api, lesson):
    for curve in ("right", "hard-right", "right", "right", "straight", "right", "right", "right"):
        api("post", f"/v1/lessons/{lesson.pk}/balls", {"start": "left", "curve": curve, "contact": "clean"}, 201)
    reading = api("get", f"/v1/lessons/{lesson.pk}/reading")["reading"]
    assert reading["metrics"]["launch_direction_deg"]["origin"] == "by-hand"
    assert reading["metrics"]["path_deg"]["origin"] == "inferred"
    assert reading["metrics"]["path_deg"]["centre"] < -2
    assert reading["balls_needed"] == 0
    exported = api("get", f"/v1/lessons/{lesson.pk}/export.json")
    assert {ball["entered"] for ball in exported} == {"hand"}


def test_block_is_split_and_merged(api, lesson, hit):
    shots = hit(8)
    block = shots[0]["block_id"]
    later = api("post", f"/v1/blocks/{block}/split", {"shot_id": shots[5]["id"]})["id"]
    now = api("get", f"/v1/lessons/{lesson.pk}/shots")
    assert [s["block_id"] for s in now] == [block] * 5 + [later] * 3
    # The open block goes on at its end.
    assert hit(1, 100, seed=2)[-1]["block_id"] == later
    api("post", f"/v1/blocks/{later}/merge")
    assert {s["block_id"] for s in api("get", f"/v1/lessons/{lesson.pk}/shots")} == {block}
    assert hit(1, 200, seed=3)[-1]["block_id"] == block


@pytest.mark.parametrize("place", [0, None])
def test_block_cannot_be_split_at_its_first_or_a_foreign_ball(api, hit, place):
    shots = hit(3)
    shot = shots[place]["id"] if place is not None else 10**9
    api("post", f"/v1/blocks/{shots[0]['block_id']}/split", {"shot_id": shot}, 422)


def test_first_block_cannot_be_merged(api, hit):
    api("post", f"/v1/blocks/{hit(3)[0]['block_id']}/merge", status=409)


def test_other_clubs_are_read_separately(api, lesson, hit):
    shots = hit(10)
    ids = [s["id"] for s in shots[6:]]
    api("post", f"/v1/lessons/{lesson.pk}/marks", {"shot_ids": ids, "club": "D"})
    result = api("get", f"/v1/lessons/{lesson.pk}/reading")
    assert result["clubs"] == {"7i": 6, "D": 4}
    assert result["reading"]["balls"] == 6
    assert api("get", f"/v1/lessons/{lesson.pk}/reading?club=D")["reading"]["balls"] == 4
    api("get", f"/v1/lessons/{lesson.pk}/reading?club=broom", status=422)
    api("post", f"/v1/lessons/{lesson.pk}/marks", {"shot_ids": ids, "club": "broom"}, 422)


def test_marking_several_balls_is_all_or_none(api, lesson, hit):
    shots = hit(3)
    body = {"shot_ids": [shots[0]["id"], 10**9], "set_aside": "interrupted"}
    api("post", f"/v1/lessons/{lesson.pk}/marks", body, 422)
    assert {s["set_aside"] for s in api("get", f"/v1/lessons/{lesson.pk}/shots")} == {""}


def test_two_students_take_turns_in_one_bay(api, coach, lesson, bay, device, balls, numbered):
    other = start_lesson(coach, Student.objects.create(academy=coach.academy, name="Wyn Adder"), "7i", timezone.now())
    for one in (lesson, other):
        api("put", f"/v1/lessons/{one.pk}/bay", {"bay_id": bay.pk})
    device(numbered(balls(2)))
    assert (lesson.shots.count(), other.shots.count()) == (0, 2)
    turns = api("get", f"/v1/lessons/{lesson.pk}")["turns"]
    assert [(t["lesson_id"], t["hitting"]) for t in turns] == [(lesson.pk, False), (other.pk, True)]
    api("put", f"/v1/lessons/{lesson.pk}/bay", {"bay_id": bay.pk})
    device(numbered(balls(1, seed=2), 50))
    assert lesson.shots.count() == 1
    end_lesson(other, timezone.now(), True)
    assert len(api("get", f"/v1/lessons/{lesson.pk}")["turns"]) == 1


@pytest.fixture
def tray(bay, device, balls, numbered):
    """Four balls in the bay's tray."""
    Bay.objects.update(lesson=None)
    device(numbered(balls(4)))
    return bay


def test_unassigned_balls_are_added_once_in_order(api, lesson, tray):
    waiting = api("get", f"/v1/bays/{tray.pk}/tray")
    ids = [s["id"] for s in waiting]
    api("post", f"/v1/lessons/{lesson.pk}/claim", {"bay_id": tray.pk, "shot_ids": ids[::-1]})
    shots = api("get", f"/v1/lessons/{lesson.pk}/shots")
    assert [s["id"] for s in shots] == ids
    assert [s["number"] for s in shots] == [1, 2, 3, 4]
    assert shots[0]["club"] == "7i"
    assert api("get", f"/v1/bays/{tray.pk}/tray") == []
    api("post", f"/v1/lessons/{lesson.pk}/claim", {"bay_id": tray.pk, "shot_ids": ids}, 422)


def test_left_hander_cannot_add_right_handed_balls(api, lesson, tray):
    lesson.hand = "left"
    lesson.save()
    ids = [s["id"] for s in api("get", f"/v1/bays/{tray.pk}/tray")]
    api("post", f"/v1/lessons/{lesson.pk}/claim", {"bay_id": tray.pk, "shot_ids": ids}, 422)
    assert lesson.shots.count() == 0


def test_selection_is_exported_and_earlier_baselines_are_listed(api, coach, student, lesson, hit):
    shots = hit(9)
    keys = ",".join(str(s["id"]) for s in shots[:2])
    assert len(api("get", f"/v1/lessons/{lesson.pk}/export.json?balls={keys}")) == 2
    api("get", f"/v1/lessons/{lesson.pk}/export.json?balls=1;drop", status=422)
    later = start_lesson(coach, student, "7i", timezone.now())
    (earlier,) = api("get", f"/v1/lessons/{later.pk}/earlier")
    assert earlier["lesson_id"] == lesson.pk
    assert "path_deg" in earlier["centres"]


def test_new_token_replaces_the_old_and_continues_numbering(api, device, balls, numbered, lesson):
    shots = numbered(balls(3))
    device(shots[:2])
    api.coach.role = "head"
    api.coach.save()
    result = api("post", f"/v1/devices/{device.device.pk}/roll")
    device(shots, 401)
    answer = device(shots, 200, result["token"])
    assert (answer["stored"], answer["known"]) == (1, 2)
    assert lesson.shots.count() == 3


def test_column_reading_equals_ball_by_ball_reading(full, api):
    """Marks, notes, doses, balls by hand and other clubs: nothing is read by one way that the other does not see."""
    api("post", f"/v1/lessons/{full.pk}/balls", {"start": "left", "curve": "right", "contact": "thin"}, 201)
    first = full.shots.order_by("number").first()
    first.movement_dose, first.movement_dose_sd, first.set_aside = 0.7, 0.1, "A bird."
    first.save()
    full.shots.filter(number__in=(2, 3)).update(club="PW")
    found = []
    for club in ("", "PW"):
        by_columns = balls_of(shots_of(full), full, club)
        one_by_one = balls_among([s for s in shots_of(full) if s.club in ("", club or full.club)], full, club)
        assert (by_columns.ids, by_columns.aside) == (one_by_one.ids, one_by_one.aside)
        for field in dataclasses.fields(by_columns.block):
            ours, theirs = (getattr(balls.block, field.name) for balls in (by_columns, one_by_one))
            np.testing.assert_equal(ours, theirs, err_msg=field.name)
        found.append(by_columns)
    own, other = found
    assert own.aside == {0}
    assert own.block.hand_entered().sum() == 1
    assert own.block.measured_doses[0] == 0.7
    assert (other.block.club.id, len(other.ids)) == ("PW", 2)

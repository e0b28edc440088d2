"""Conditions are asked once and stored with the balls; a proof says when they changed."""

from __future__ import annotations

import pytest

from instavis.lessons.models import Lesson

from .conftest import FAULT, MIXED

DRY, WET = {"lie": "dry", "turf": "mat"}, {"lie": "wet", "turf": "grass"}


def set_conditions(api, lesson, conditions: dict[str, str], status: int = 200):
    return api("put", f"/v1/lessons/{lesson.pk}/conditions", {"conditions": conditions}, status)


def test_earlier_balls_keep_their_conditions(api, lesson, device, bay, balls, numbered):
    set_conditions(api, lesson, DRY)
    assert lesson.blocks.count() == 1
    device(numbered(balls(3)))
    assert set_conditions(api, lesson, WET)["conditions"] == WET
    device(numbered(balls(2, seed=5), 10))
    assert [(b.conditions, b.shots.count()) for b in lesson.blocks.order_by("id")] == [(DRY, 3), (WET, 2)]
    set_conditions(api, lesson, WET)
    assert lesson.blocks.count() == 2
    # Two quick touches, each naming one: neither loses the other.
    set_conditions(api, lesson, {"tee": "low"})
    assert set_conditions(api, lesson, {"ball": "own", "turf": ""})["conditions"] == {
        "lie": "wet",
        "tee": "low",
        "ball": "own",
    }


@pytest.mark.parametrize(
    ("sent", "field"), [({"lie": "deep"}, "conditions.lie"), ({"weather": "fine"}, "conditions.weather")]
)
def test_unknown_condition_is_refused(api, lesson, sent, field):
    refused = set_conditions(api, lesson, {"turf": "mat", **sent}, 422)
    assert refused["errors"][0]["field"] == field
    assert Lesson.objects.get(pk=lesson.pk).conditions == {}


def test_proof_mentions_changed_conditions(api, lesson, bring, device, bay, balls, numbered, corrected):
    set_conditions(api, lesson, {})

    def alarms() -> list[str]:
        proof = api("get", f"/v1/lessons/{lesson.pk}/proof")["proof"]
        return [a["text"] for a in proof["alarms"] if a["id"] == "conditions"]

    lesson.blocks.filter(purpose="baseline").update(conditions=DRY)
    set_conditions(api, lesson, {"turf": "mat"})
    device(numbered(balls(8, FAULT, 82, marks=[*MIXED, *MIXED, "done", "done"]), 50))
    assert alarms() == []
    set_conditions(api, lesson, {"turf": "grass"})
    assert alarms() == []  # nothing was hit from it yet
    device(numbered(balls(1, FAULT, 83, marks=["done"]), 80))
    assert alarms() == ["Conditions differ from the baseline: turf."]


def test_low_spin_wedge_from_wet_lie_is_not_doubtful(api, lesson):
    """The lie reaches the physics: what it asks of a ball is the lesson's."""
    lesson.club = "LW"
    dry = lesson.club_row().friction
    lesson.conditions = {"lie": "wet"}
    assert lesson.club_row().friction < dry
    assert lesson.club_row("7i").friction == lesson.club_row().friction


def test_mark_is_not_blind_when_the_coach_sees_the_ball_fly(api, lesson, device, balls, numbered, corrected):
    set_conditions(api, lesson, {"flight": "hidden"})
    device(numbered(balls(1, FAULT, 82), 50))
    set_conditions(api, lesson, {"flight": "visible"})
    device(numbered(balls(1, FAULT, 83), 60))
    first, second = lesson.shots.order_by("-number")[:2][::-1]
    for shot, basis in ((first, "blind"), (second, "seen")):
        body = {"movement": "done", "mark_basis": "blind"}
        assert api("patch", f"/v1/shots/{shot.pk}", body)["mark_basis"] == basis


def test_aim_holds_a_claim_back_until_a_stick_lies_there(api, lesson, bay, device, balls, numbered, corrected):
    """Only the path is measured, so a new aim looks like the movement."""

    def proof(start: int, seed: int) -> dict:
        hit = balls(24, FAULT, seed, marks=[*MIXED] * 8)
        leave = ("face_deg", "launch_direction_deg", "spin_axis_deg", "side_m")
        rows = [{k: v for k, v in r.items() if k not in leave} | {"mark_basis": "blind"} for r in hit]
        device(numbered(rows, start))
        return api("get", f"/v1/lessons/{lesson.pk}/proof")["proof"]

    without = proof(100, 82)
    assert (without["status"], without["held_back_by"][:1]) == ("supported", ["aim"])
    assert "alignment stick" in without["reason"]
    set_conditions(api, lesson, {"aim": "stick"})
    assert proof(200, 84)["status"] == "verified"

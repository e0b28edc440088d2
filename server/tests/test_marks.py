"""How a mark was made and which balls were called for a proof: the server decides, whatever a client claims."""

from __future__ import annotations

import pytest

from instavis.capture.shots.models import Shot
from instavis.corrections.trials.models import Trial

from .conftest import FAULT


@pytest.fixture
def proving(corrected, bay, device, balls, numbered):
    """proving(count) brings unmarked balls of the correction and gives their keys."""
    bay.lesson = corrected
    bay.save()

    def make(count: int = 1, start: int = 700) -> list[int]:
        known = set(corrected.shots.values_list("pk", flat=True))
        records = [{k: v for k, v in r.items() if k != "movement"} for r in balls(count, FAULT, 82)]
        device(numbered(records, start))
        return [pk for pk in corrected.shots.order_by("number").values_list("pk", flat=True) if pk not in known]

    return make


def mark(api, shot: int, **marks) -> str:
    return api("patch", f"/v1/shots/{shot}", marks)["mark_basis"]


def test_mark_on_a_hidden_ball_is_blind(api, proving):
    (shot,) = proving()
    assert mark(api, shot, movement="done", mark_basis="blind") == "blind"
    assert mark(api, shot, turf="thin") == "blind"


@pytest.mark.parametrize(
    "before", [{"mark_basis": "seen"}, {"movement": "missed", "mark_basis": "blind"}, {"movement": "done"}]
)
def test_shown_or_marked_ball_is_never_blind_again(api, proving, before):
    (shot,) = proving()
    mark(api, shot, **before)
    assert mark(api, shot, movement="done", mark_basis="blind") == "seen"
    assert mark(api, shot, movement="") == "seen"
    assert mark(api, shot, movement="partly", mark_basis="blind") == "seen"


def test_excluded_or_never_hidden_ball_is_not_blind(api, corrected, proving):
    (shot,) = proving()
    assert mark(api, shot, set_aside="phone rang") == "seen"
    assert mark(api, shot, set_aside="") == "seen"
    assert mark(api, shot, movement="done", mark_basis="blind") == "seen"
    baseline = corrected.shots.filter(block__purpose="baseline").first()
    assert mark(api, baseline.pk, movement="done", mark_basis="blind") == "seen"


def test_other_marks_do_not_affect_the_movement(api, proving):
    (shot,) = proving()
    assert mark(api, shot, turf="thin", note="late") == ""
    assert mark(api, shot, movement="done", mark_basis="blind") == "blind"


def test_unknown_mark_basis_is_refused(api, proving):
    (shot,) = proving()
    problem = api("patch", f"/v1/shots/{shot}", {"movement": "done", "mark_basis": "guessed"}, 422)["errors"][0]
    assert problem["field"] == "mark_basis"
    assert Shot.objects.get(pk=shot).movement == ""


def test_claim_counts_blind_marks(api, corrected, proving):
    first, second, _ = proving(3)
    mark(api, first, movement="done", mark_basis="blind")
    mark(api, second, movement="done")
    proof = api("get", f"/v1/lessons/{corrected.pk}/proof")["proof"]
    assert proof["marks"] == {"blind": 1, "seen": 1, "measured": 0, "unmarked": 1}
    assert any("1 of 2 marks were made after the numbers were visible" in note for note in proof["notes"])


def test_basis_and_dose_are_exported_with_the_ball(api, corrected, bay, device, balls, numbered):
    bay.lesson = corrected
    bay.save()
    (record,) = balls(1, FAULT, 82)
    device(numbered([{**record, "mark_basis": "measured", "movement_dose": 0.8, "movement_dose_sd": 0.1}], 800))
    result = corrected.shots.order_by("-number")[0].to_record()
    assert (result.mark_basis, result.movement_dose, result.movement_dose_sd) == ("measured", 0.8, 0.1)
    assert api("get", f"/v1/lessons/{corrected.pk}/proof")["proof"]["marks"]["measured"] == 1
    receipt = device(numbered([{**record, "shot_id": "another", "movement_dose": 1.2}], 801))
    assert (receipt["stored"], receipt["refused"][0]["field"]) == (0, "movement_dose")


def test_called_balls_belong_to_the_proof_and_end_by_themselves(api, corrected, proving):
    path = f"/v1/lessons/{corrected.pk}"
    proving(3)
    trial = api("post", f"{path}/calls", None, 201)
    assert (trial["balls_planned"], trial["next_call"] in ("old", "new")) == (8, True)
    assert sorted(Trial.objects.get().order) == [False] * 4 + [True] * 4
    called = proving(8, 710)
    intents = list(Shot.objects.filter(pk__in=called).order_by("number").values_list("intent", flat=True))
    assert sorted(intents) == ["new"] * 4 + ["old"] * 4
    proof = api("get", f"{path}/proof")
    assert proof["ball_ids"][-8:] == called
    assert proof["proof"]["marks"]["blind"] == 8
    assert proof["proof"]["in_gate"]["balls"] == 7  # not the four hit with the old move
    # The next ball proves the correction as before.
    assert Trial.objects.get().ended_at is not None
    (following,) = proving(1, 730)
    shot = Shot.objects.get(pk=following)
    assert (shot.intent, shot.block.purpose, shot.block.correction_id) == ("", "prove", proof["correction"]["id"])


def test_calls_need_a_correction_and_no_other_comparison(api, with_baseline, corrected):
    path = f"/v1/lessons/{corrected.pk}"
    api("post", f"{path}/calls", None, 201)
    assert api("post", f"{path}/calls", None, 409)["errors"][0]["field"] == "trial"
    api("post", f"/v1/trials/{Trial.objects.get().pk}/end")
    correction = api("get", f"{path}/proof")["correction"]
    api("patch", f"/v1/corrections/{correction['id']}", {"outcome": "stopped"})
    assert api("post", f"{path}/calls", None, 409)["errors"][0]["field"] == "correction"


@pytest.mark.parametrize("body", [b'{"note": "a\\ud800"}', b'{"note": "a\xed\xa0\x80"}'])
def test_note_with_half_a_character_is_refused(api, with_baseline, body):
    shot = with_baseline.shots.first()
    answer = api.client.patch(f"/api/v1/shots/{shot.pk}", body, content_type="application/json")
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == "note"
    shot.refresh_from_db()
    assert shot.note == ""


def test_character_beyond_the_basic_plane_is_stored(api, with_baseline):
    shot = with_baseline.shots.first()
    api("patch", f"/v1/shots/{shot.pk}", {"note": "⛳ 🏌"})
    shot.refresh_from_db()
    assert shot.note == "⛳ 🏌"

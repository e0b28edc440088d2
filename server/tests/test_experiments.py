"""The server computes a correction's prediction and outcome; clients cannot post them."""

from __future__ import annotations

from datetime import timedelta

import numpy as np
import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from instavis.capture.shots.services import mark_shot
from instavis.corrections.models import Correction, OwnEffect
from instavis.knowledge.services import save_version
from instavis.lessons.services import start_lesson
from instavis_core.terms import Purpose

from .conftest import MIXED
from .test_permissions import call, coach_endpoints, objects  # noqa: F401 (a fixture)

FAULT = "early-extension/from-inside"
OWN_DRILL = {
    "name": "Peat stack",
    "faults": ["early-extension"],
    "object": "a stack of peat",
    "setup": "Stand with the seat against the stack.",
    "cue": "Keep the peat warm.",
    "mark": "The seat stays on the stack until halfway down.",
    "fake": "Sitting down on it.",
    "wanted": "A low straight one.",
    "ugly": "Some thin ones.",
    "school": "",
    "kit": [],
    "matchups": [],
    "regions": ["hip"],
    "stages": ["feel", "half", "three-quarter", "full"],
    "home": True,
    "cautions": [],
}


@pytest.fixture
def hits(corrected, bay, device, balls, numbered):
    """hits(mark, count) brings balls whose movement was made or missed as marked, or now this and now that."""
    bay.lesson = corrected
    bay.save()
    seen = [0]

    def make(mark: str, count: int = 12, truly: str | None = None):
        marks = [MIXED[i % 3] if mark == "mixed" else mark for i in range(count)]
        records = balls(count, FAULT, 82 + seen[0], marks=[truly] * count if truly else marks)
        result = [{**r, "movement": m, "mark_basis": "blind"} for r, m in zip(records, marks, strict=True)]
        device(numbered(result, 500 + 100 * seen[0]))
        seen[0] += 1
        return corrected

    return make


def proof(api, lesson) -> dict:
    return api("get", f"/v1/lessons/{lesson.pk}/proof")


def test_prediction_is_computed_by_the_server(api, with_baseline):
    path = f"/v1/lessons/{with_baseline.pk}/corrections"
    candidate = api("get", path)["candidates"][0]
    wish = {"fault": candidate["id"], "drill": candidate["drills"][0]["drill"]["id"], "stage": "half"}
    for foreign in ("predicted", "primary", "direction", "cue", "outcome"):
        problem = api("post", path, {**wish, foreign: "decrease"}, 422)["errors"][0]
        assert problem["field"].endswith(foreign)
    assert Correction.objects.count() == 0
    taken = api("post", path, wish, 201)
    gate = candidate["gate"]
    for name in ("primary", "direction", "predicted", "guards"):
        assert taken[name] == gate[name]
    assert taken["gate"] == {gate["primary"]: gate["by_stage"]["half"]}
    assert taken["cue"] == candidate["drills"][0]["drill"]["cue"]
    assert taken["variant"] == candidate["variant"]
    # The ruler stands on the same middle as the prediction.
    known = gate["baseline"][gate["primary"]]
    assert known["centre"] == pytest.approx(np.median(known["values"]), abs=1.5)
    assert set(gate["baseline"]) == {gate["primary"], *gate["guards"]}


@pytest.mark.parametrize(
    ("wish", "field"),
    [
        ({"fault": "gout"}, "fault"),
        ({"fault": "early-extension", "variant": "from-the-moon"}, "variant"),
        ({"fault": "early-extension", "drill": "own-nothing"}, "drill"),
        ({"fault": "early-extension", "stage": "encore"}, "stage"),
        ({"fault": "early-extension", "gate": {"path_deg": [3, -1]}}, "correction.gate.path_deg"),
        ({"fault": "early-extension", "gate": {"colour": [1, 2]}}, "correction.gate.colour"),
    ],
)
def test_untestable_corrections_are_refused_completely(api, with_baseline, wish, field):
    path = f"/v1/lessons/{with_baseline.pk}/corrections"
    assert api("post", path, wish, 422)["errors"][0]["field"] == field
    assert Correction.objects.count() == 0


def test_no_prediction_without_balls(api, lesson):
    problem = api("post", f"/v1/lessons/{lesson.pk}/corrections", {"fault": "hip-stall"}, 409)["errors"][0]
    assert "import balls" in problem["message"]


@pytest.mark.parametrize("claimed", ["verified", "not-supported"])
def test_unproven_outcome_is_refused(api, hits, claimed):
    lesson = hits("done", 2)
    result = proof(api, lesson)
    assert result["proof"]["status"] not in ("verified", "not-supported")
    key = result["correction"]["id"]
    problem = api("patch", f"/v1/corrections/{key}", {"outcome": claimed}, 409)["errors"][0]
    assert problem["field"] == "outcome"
    assert "The balls do not support this" in problem["message"]
    api("patch", f"/v1/corrections/{key}", {"outcome": "splendid"}, 422)
    row = Correction.objects.get()
    assert (row.outcome, row.log_odds) == ("open", None)
    assert api("get", "/v1/outcomes")["rows"][0]["outcome"]["verified"] == 0
    assert api("patch", f"/v1/corrections/{key}", {"outcome": "stopped"})["outcome"] == "stopped"


def test_moving_the_gate_after_verified_starts_a_claim_without_outcome(api, hits):
    lesson = hits("mixed", 18)
    result = proof(api, lesson)
    assert result["proof"]["status"] == "verified"
    key, primary = result["correction"]["id"], result["correction"]["primary"]
    api("patch", f"/v1/corrections/{key}", {"outcome": "verified"})
    proven = Correction.objects.get()
    low, high = result["correction"]["gate"][primary]
    anew = api("patch", f"/v1/corrections/{key}", {"gate": {primary: [low - 1, high + 1]}})
    assert (anew["outcome"], anew["id"] != key) == ("open", True)
    assert Correction.objects.get(pk=anew["id"]).log_odds is None
    proven.refresh_from_db()
    assert (proven.outcome, proven.log_odds is not None) == ("verified", True)
    assert OwnEffect.objects.get().correction == proven
    # The balls from now on belong to the new claim.
    lesson.refresh_from_db()
    assert lesson.open_block.correction_id == anew["id"]
    assert proof(api, lesson)["ball_ids"] == []


def test_choosing_and_stepping_open_blocks(api, corrected):
    corrected.refresh_from_db()
    block = corrected.open_block
    assert (block.purpose, block.stage) == (Purpose.PROVE, "full")
    key = proof(api, corrected)["correction"]["id"]
    api("patch", f"/v1/corrections/{key}", {"stage": "half"})
    corrected.refresh_from_db()
    assert (corrected.open_block.stage, corrected.open_block.correction_id) == ("half", key)
    # A coach who asked for more baseline balls gets them: a step does not take the block back.
    api("post", f"/v1/lessons/{corrected.pk}/blocks", {"purpose": "baseline"})
    api("patch", f"/v1/corrections/{key}", {"stage": "full"})
    corrected.refresh_from_db()
    assert corrected.open_block.purpose == Purpose.BASELINE


LEAVE_A_LINE = ("/archive", "/audit.csv", "/lessons/{lesson_id}", "/history")
"""Who reads a person's record, or takes it away, is written down."""


def test_reading_never_writes(api, objects):  # noqa: F811
    looked = 0
    for method, path, spec in coach_endpoints():
        if method != "get":
            continue
        with CaptureQueriesContext(
            connection,
        ) as asked:
            call(api.client, method, path, spec, objects)
        for query in asked.captured_queries:
            if path.endswith(LEAVE_A_LINE) and query["sql"].startswith("INSERT INTO `archives_auditline`"):
                continue
            assert query["sql"].lstrip().upper().startswith(("SELECT", "SAVEPOINT", "RELEASE", "ROLLBACK")), (
                path,
                query,
            )
        looked += 1
    assert looked >= 30


@pytest.fixture
def own_drill(coach, lesson):
    """A lesson that began under a version with a drill of the academy's own."""
    version = save_version(coach, {"drill": {"own-peat": OWN_DRILL}}, "", timezone.now())
    lesson.knowledge_version = version
    lesson.save()
    return lesson


def test_own_drill_goes_through_correct_prove_and_take_home(api, own_drill, hits):
    path = f"/v1/lessons/{own_drill.pk}"
    candidate = api("get", f"{path}/corrections")["candidates"][0]
    assert "own-peat" in [d["drill"]["id"] for d in candidate["drills"]]
    wish = {"fault": "early-extension", "variant": "from-inside", "drill": "own-peat", "stage": "full"}
    taken = api("post", f"{path}/corrections", wish, 201)
    assert taken["cue"] == "Keep the peat warm."
    hits("mixed", 18)
    assert proof(api, own_drill)["proof"]["status"] == "verified"
    api("patch", f"/v1/corrections/{taken['id']}", {"stage": "three-quarter"})
    api("patch", f"/v1/corrections/{taken['id']}", {"stage": "full"})
    assert api("patch", f"/v1/corrections/{taken['id']}", {"outcome": "verified"})["outcome"] == "verified"
    page = api("get", f"{path}/take-home")
    assert page["drill_name"] == "Peat stack"
    assert api("get", f"{path}/take-home.pdf")["Content-Type"] == "application/pdf"
    token = api("post", f"{path}/home-link", {}, 201)["path"].removeprefix("/home/")
    assert api("get", f"/v1/home/{token}")["page"]["drill_name"] == "Peat stack"
    history = api("get", f"/v1/students/{own_drill.student_id}/history")
    assert history["lessons"][0]["tried"][-1]["drill"] == "Peat stack"
    save_version(own_drill.coach, {}, "", timezone.now())  # taken out again, it keeps its name in the record
    rows = api("get", "/v1/outcomes")["rows"]
    assert "Peat stack" in [row["drill_name"] for row in rows]


def standing(api, lesson) -> dict[int, dict]:
    numbers = {s["id"]: s["number"] for s in api("get", f"/v1/lessons/{lesson.pk}/shots")}
    return {numbers[row["shot_id"]]: row for row in proof(api, lesson)["tape"]}


def test_every_ball_has_its_purpose_and_who_excluded_it(api, hits, corrected, device, balls, numbered):
    shots = list(corrected.shots.order_by("number"))
    mark_shot(shots[0], {"set_aside": "phone rang"})
    mark_shot(shots[1], {"turf": "fat"})
    hits("done", 4)
    proving = corrected.shots.order_by("-number").first()
    mark_shot(proving, {"turf": "shank"})
    trial = api("post", f"/v1/lessons/{corrected.pk}/trials", {"primary": "path_deg", "balls": 4}, 201)
    device(numbered(balls(3, FAULT, 9), 900))
    mark_shot(corrected.shots.order_by("-number").first(), {"turf": "thin"})

    result = api("get", f"/v1/lessons/{corrected.pk}/shots")
    assert [s["purpose"] for s in result] == ["baseline"] * 14 + ["prove"] * 4 + ["trial"] * 3
    first = proof(api, corrected)["correction"]["id"]
    assert [s["correction_id"] for s in result] == [None] * 14 + [first] * 4 + [None] * 3
    rows = standing(api, corrected)
    assert (rows[1]["excluded"]["by"], rows[1]["excluded"]["text"]) == ("coach", "phone rang")
    assert (rows[2]["excluded"]["by"], rows[2]["excluded"]["code"]) == ("rule", "turf")
    assert rows[18]["excluded"]["code"] == "turf"
    assert rows[18]["verdict"] == "unclear"
    assert rows[21]["excluded"]["code"] == "turf"
    assert {n for n, row in rows.items() if row["verdict"]} == {15, 16, 17, 18}

    # An earlier correction's balls are neither baseline nor under the gate, and its mishits stay set apart.
    api("post", f"/v1/trials/{trial['id']}/end")
    band = proof(api, corrected)["band"]
    api("post", f"/v1/lessons/{corrected.pk}/corrections", {"fault": "early-extension", "stage": "full"}, 201)
    assert proof(api, corrected)["band"] == band
    rows = standing(api, corrected)
    assert rows[18]["excluded"]["code"] == "turf"
    assert all(row["verdict"] is None for row in rows.values())


def test_very_long_lesson_uses_the_same_proof_balls(api, hits, corrected, device, balls, numbered, monkeypatch):
    shots = list(corrected.shots.order_by("number"))
    mark_shot(shots[0], {"set_aside": "phone rang"})
    corrected.student.born = corrected.day - timedelta(days=13 * 365)  # a junior, whose balls are counted
    corrected.student.save()
    hits("mixed", 60)
    api("post", f"/v1/lessons/{corrected.pk}/trials", {"primary": "path_deg", "balls": 4}, 201)
    device(numbered(balls(3, FAULT, 9), 900))
    mark_shot(corrected.shots.order_by("-number").first(), {"turf": "thin"})
    short, rows = proof(api, corrected), standing(api, corrected)
    monkeypatch.setattr("instavis.corrections.proofs.hit.MAX_JUDGED", 6)
    long = proof(api, corrected)
    assert (long["proof"], long["band"], long["ball_ids"]) == (short["proof"], short["band"], short["ball_ids"])
    assert any(alarm["id"] == "ball-limit" for alarm in long["proof"]["alarms"])
    assert standing(api, corrected) == rows


def test_band_is_that_of_the_baseline(api, hits, coach, student, bring, balls):
    first = hits("done")
    begun = proof(api, first)
    primary = begun["correction"]["primary"]
    values = [s[primary] for s in api("get", f"/v1/lessons/{first.pk}/shots") if s["purpose"] == "baseline"]
    low, high = begun["band"][primary]
    assert low < np.median(values) < high
    assert (low + high) / 2 == pytest.approx(np.median(values), abs=1.0)
    later = start_lesson(coach, student, first.club, timezone.now() + timedelta(days=7))
    gate = api("get", f"/v1/lessons/{later.pk}/corrections")
    api("post", f"/v1/lessons/{later.pk}/corrections", {"fault": "early-extension", "stage": "full"}, 201)
    assert proof(api, later)["band"] == begun["band"]
    gates = [c["gate"] for c in gate["candidates"] if c["id"] == "early-extension"]
    assert [g["predicted"] for g in gates] == [begun["correction"]["predicted"]] * len(gates)

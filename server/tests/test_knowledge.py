"""An academy's knowledge: versions, the effect of a change, and lessons that keep their version."""

from __future__ import annotations

import pytest
from django.utils import timezone

from instavis.knowledge.models import KnowledgeVersion
from instavis.lessons.services import start_lesson

HIP_STALL = {"fault": {"hip-stall": {"prior": 0.45, "label": "Pelvis stops"}}}
OWN = {
    "label": "Trail heel at impact",
    "question": "Is the trail heel still down?",
    "moment": "impact",
    "view": "any",
    "seconds": 8,
    "grades": ["coming-up", "still-down"],
    "speaks": {"still-down": {"early-extension": 2}},
}
OWN_DRILL = {
    "name": "Slow gate",
    "faults": ["early-extension"],
    "school": "",
    "object": "a gate of two tees",
    "kit": ["rod"],
    "setup": "Set two tees a club head apart.",
    "cue": "Turn through the gate.",
    "mark": "The belt faces the target.",
    "fake": "Only the arms pass.",
    "wanted": "A short straight ball.",
    "ugly": "Pulls at first.",
    "matchups": [],
    "regions": [],
    "stages": ["rehearse", "half"],
    "home": True,
    "cautions": ["rods"],
}


def save(api, changes, status=201, note=""):
    return api("post", "/v1/knowledge/versions", {"changes": changes, "note": note}, status)


def label_of(api, fault):
    return next(c["label"] for c in api("get", "/v1/knowledge")["causes"] if c["id"] == fault)


def chance(api, lesson_id, fault="early-extension"):
    faults = api("get", f"/v1/lessons/{lesson_id}/cause")["faults"]
    return next(f["probability"] for f in faults if f["id"] == fault)


def test_versions_are_listed_and_defaults_restored(api):
    shipped = label_of(api, "hip-stall")
    assert save(api, HIP_STALL, note="Seen more often here.")["number"] == 1
    assert label_of(api, "hip-stall") == "Pelvis stops"
    assert save(api, {})["number"] == 2
    assert label_of(api, "hip-stall") == shipped
    result = api("get", "/v1/knowledge/versions")
    assert [v["number"] for v in result["versions"]] == [2, 1]
    assert result["versions"][1]["note"] == "Seen more often here."
    assert result["may_edit"]
    assert "effect" in result["editable"]["fault"]


def test_changes_do_not_affect_another_academy(api, stranger):
    save(api, HIP_STALL)
    assert label_of(stranger, "hip-stall") != "Pelvis stops"
    assert stranger("get", "/v1/knowledge/versions")["versions"] == []


def test_lesson_uses_the_version_it_started_with(api, with_baseline, coach, student):
    before = chance(api, with_baseline.pk)
    save(
        api,
        {"fault": {"early-extension/from-inside": {"prior": 0.001}, "early-extension/from-outside": {"prior": 0.001}}},
    )
    assert chance(api, with_baseline.pk) == pytest.approx(before)
    later = start_lesson(coach, student, "7i", timezone.now())
    assert later.knowledge_version.number == 1
    api("post", f"/v1/lessons/{with_baseline.pk}/judge-anew", None, 204)
    assert chance(api, with_baseline.pk) < before


def test_preview_shows_effect_on_stored_lessons(api, with_baseline):
    changes = {
        "fault": {"early-extension/from-inside": {"prior": 0.002}, "early-extension/from-outside": {"prior": 0.002}}
    }
    result = api("post", "/v1/knowledge/preview", {"changes": changes})
    assert result["lessons"] == 1
    (moved,) = result["moved"]
    assert moved["lesson_id"] == with_baseline.pk
    before, after = ({r["fault"]: r["probability"] for r in moved[k]} for k in ("before", "after"))
    assert after.get("early-extension", 0) < before["early-extension"]
    assert api("get", "/v1/knowledge/versions")["versions"] == []
    assert api("post", "/v1/knowledge/preview", {"changes": {}})["moved"] == []


def test_own_check_can_be_answered_and_counts(api, coach, student, bring, lesson):
    save(api, {"check": {"own-trail-heel": OWN}})
    later = start_lesson(coach, student, "7i", timezone.now())
    before = chance(api, later.pk)
    api("put", f"/v1/lessons/{later.pk}/checks", {"grades": {"own-trail-heel": "still-down"}})
    assert chance(api, later.pk) > before
    # The lesson that began before does not know the look.
    api("put", f"/v1/lessons/{lesson.pk}/checks", {"grades": {"own-trail-heel": "still-down"}}, 422)


def test_removed_check_breaks_nothing(api, coach, student):
    save(api, {"check": {"own-trail-heel": OWN}})
    later = start_lesson(coach, student, "7i", timezone.now())
    api("put", f"/v1/lessons/{later.pk}/checks", {"grades": {"own-trail-heel": "still-down"}})
    save(api, {})
    api("post", f"/v1/lessons/{later.pk}/judge-anew", None, 204)
    assert api("get", f"/v1/lessons/{later.pk}/cause")["faults"]


@pytest.mark.parametrize(
    ("changes", "word"),
    [
        ({"fault": {"hip-stall": {"prior": 2}}}, "prior"),
        ({"fault": {"hip-stall": {"effect": {"path_deg": "much"}}}}, "effect.path_deg"),
        ({"fault": {"no-such": {"prior": 0.1}}}, "no-such"),
        ({"club": {"7i": {"loft": 3}}}, "club"),
        ({"window": {"seat-early": {"above": None}}}, "above"),
        ({"check": {"own-x": {"label": "x"}}}, "own-x"),
    ],
)
def test_invalid_knowledge_is_refused_and_not_saved(api, changes, word):
    problem = save(api, changes, 422)["errors"][0]
    assert word in problem["message"] + problem["field"]
    api("post", "/v1/knowledge/preview", {"changes": changes}, 422)
    assert api("get", "/v1/knowledge/versions")["versions"] == []


def test_unchanged_knowledge_makes_no_version(api):
    save(api, HIP_STALL)
    save(api, HIP_STALL, 409)


def test_answers_of_two_coaches_count_as_one_check(api, with_baseline, coach):
    from django.test import Client

    from instavis.accounts.models import Coach

    from .conftest import Caller

    second = Coach.objects.create_user("second", password="x" * 12, name="Second", academy=coach.academy)
    client = Client()
    client.force_login(second)
    other = Caller(client, second)
    path = f"/v1/lessons/{with_baseline.pk}/checks"
    alone = chance(api, with_baseline.pk)
    result = other("put", path, {"grades": {"seat-line": "on-line"}})
    assert result["grades"]["seat-line"] == "on-line"
    assert api("get", path)["grades"]["seat-line"] == "leaves-early"
    assert {(s["coach"], s["grade"], s["mine"]) for s in api("get", path)["seen"]} == {
        (coach.name, "leaves-early", True),
        ("Second", "on-line", False),
    }
    differ = chance(api, with_baseline.pk)
    assert differ < alone
    other("put", path, {"grades": {"seat-line": "leaves-early"}})
    assert chance(api, with_baseline.pk) == pytest.approx(alone)
    other("put", path, {"grades": {"seat-line": "not-seen"}})
    assert chance(api, with_baseline.pk) == pytest.approx(alone)


def test_history_has_the_leader_after_every_check(api, with_baseline):
    path = f"/v1/lessons/{with_baseline.pk}"
    api("put", f"{path}/checks", {"grades": {"pelvis-open-impact": "open"}})
    steps = api("get", f"{path}/cause/history")
    assert [s["check"] for s in steps] == ["", "seat-line", "pelvis-open-impact"]
    now = api("get", f"{path}/cause")["faults"][0]
    assert steps[-1]["leader"] == now["id"]
    assert steps[-1]["probability"] == pytest.approx(now["probability"])


def test_fault_ball_shows_the_faults_effect(api, with_baseline):
    path = f"/v1/lessons/{with_baseline.pk}/cause"
    result = api("get", f"{path}/early-extension?variant=from-inside")
    assert result["ball"]["after"]["delivery"]["path_deg"] > result["ball"]["before"]["delivery"]["path_deg"] + 2
    assert ["seat-line", "leaves-early"] in result["shown_by"]
    assert ["seat-line", "on-line"] in result["refuted_by"]
    assert api("get", f"{path}/no-such-fault", None, 422)["errors"][0]["field"] == "fault"
    api("get", f"{path}/hip-stall?variant=sideways", None, 422)


def test_checks_are_drawn_for_both_hands(api):
    right, left = (api("get", f"/v1/figures/seat-line?hand={hand}") for hand in ("right", "left"))
    (shaft,), (mirrored,) = (
        [s["lines"] for s in picture["grades"][0]["strokes"] if s["ink"] == "shaft"] for picture in (right, left)
    )
    assert shaft[0][0][0] == -mirrored[0][0][0]
    api("get", "/v1/figures/no-such", None, 422)


def test_own_drill_with_unknown_caution_is_refused_when_saved(api):
    refused = save(api, {"drill": {"own-gate": OWN_DRILL | {"cautions": ["fire"]}}}, 422)
    (problem,) = refused["errors"]
    assert problem["field"] == "own-gate.cautions"
    assert "is 'fire', expected one of body-tests, junior, not-medical" in problem["message"]


def test_correct_works_with_an_own_drill_stored_before_references_were_checked(api, coach, with_baseline):
    version = KnowledgeVersion.objects.create(
        academy=coach.academy,
        number=1,
        changes={"drill": {"own-gate": OWN_DRILL | {"cautions": ["fire"], "stages": ["jump", "half"]}}},
        made_by=coach,
        made_at=timezone.now(),
    )
    with_baseline.knowledge_version = version
    with_baseline.save()
    candidates = api("get", f"/v1/lessons/{with_baseline.pk}/corrections")["candidates"]
    assert any(d["drill"]["id"] == "own-gate" for c in candidates for d in c["drills"])

"""The body screen is stored with the student and limits this lesson, the next, and how drills are felt."""

from __future__ import annotations

from datetime import timedelta

import pytest

from instavis.corrections.models import Correction
from instavis.lessons.services import start_lesson


@pytest.fixture
def path(lesson):
    return f"/v1/lessons/{lesson.pk}/body"


def results(body: dict) -> dict[str, str]:
    return {tested["part"]: tested["grade"] for tested in body["results"]}


def test_body_results_are_saved_changed_and_removed(api, path):
    assert results(api("get", path)) == {}
    api("put", path, {"results": {"squat": "short", "balance.lead": "free"}})
    body = api("put", path, {"results": {"squat": "free", "balance.lead": ""}})
    assert results(body) == {"squat": "free"}
    assert body["says"] == []
    text = api("put", path, {"results": {"hip-turn.trail-in": "short"}})["says"]
    assert text[0].startswith("The trail hip turns in only a little")


def test_body_results_apply_to_later_lessons_only(api, path, coach, student, lesson):
    before = start_lesson(coach, student, "7i", lesson.started_at - timedelta(days=9))
    after = start_lesson(coach, student, "7i", lesson.started_at + timedelta(days=9))
    api("put", path, {"results": {"squat": "short"}})
    assert results(api("get", f"/v1/lessons/{after.pk}/body")) == {"squat": "short"}
    assert results(api("get", f"/v1/lessons/{before.pk}/body")) == {}


@pytest.mark.parametrize(
    ("sent", "field"),
    [
        ({"hip": "short"}, "results.hip"),
        ({"squat": "deep"}, "results.squat"),
    ],
)
def test_invalid_body_result_is_refused_completely(api, path, sent, field):
    refused = api("put", path, {"results": {"balance.lead": "free", **sent}}, 422)
    assert refused["errors"][0]["field"] == field
    assert results(api("get", path)) == {}


def test_test_ruled_out_by_health_is_refused(api, path, lesson):
    api("put", f"/v1/lessons/{lesson.pk}/intake", {"health": ["balance"]})
    left_out = {t["test"]["id"]: t["left_out"] for t in api("get", path)["tests"]}
    assert left_out["balance"] == "Left out: dizziness or poor balance."
    assert left_out["squat"] is None
    refused = api("put", path, {"results": {"balance.lead": "free"}}, 422)
    assert refused["errors"][0]["field"] == "results.balance.lead"


def test_painful_part_removes_its_drills(api, with_baseline):
    path = f"/v1/lessons/{with_baseline.pk}"
    before = api("get", f"{path}/corrections")["candidates"]
    api("put", f"{path}/body", {"results": {"squat": "pain"}})
    after = api("get", f"{path}/corrections")["candidates"]
    assert any("hip" in d["drill"]["regions"] for c in before for d in c["drills"])
    assert not any({"hip", "knee"} & set(d["drill"]["regions"]) for c in after for d in c["drills"])
    assert [c["probability"] for c in sorted(after, key=lambda c: c["id"])] == [
        c["probability"] for c in sorted(before, key=lambda c: c["id"])
    ]


def test_feel_is_stored_and_printed(api, with_baseline):
    path = f"/v1/lessons/{with_baseline.pk}"
    candidate = api("get", f"{path}/corrections")["candidates"][0]
    drill = candidate["drills"][0]
    feel, other = (w["id"] for w in drill["felt_by"][:2])
    wish = {"fault": candidate["id"], "drill": drill["drill"]["id"], "felt_by": feel}
    refused = api("post", f"{path}/corrections", {**wish, "felt_by": "upside-down"}, 422)
    assert refused["errors"][0]["field"] == "felt_by"
    taken = api("post", f"{path}/corrections", wish, 201)
    assert taken["felt_by"] == feel
    changed = api("patch", f"/v1/corrections/{taken['id']}", {"felt_by": other})
    assert (changed["felt_by"], Correction.objects.get(pk=taken["id"]).felt_by) == (other, other)
    page = api("get", f"{path}/take-home")
    text = [line for section in page["sections"] for line in section["lines"]]
    assert any(line.startswith("Feel: ") for line in text)


def test_limited_balance_keeps_eyes_open_at_home(api, corrected):
    path = f"/v1/lessons/{corrected.pk}"

    def text() -> str:
        return " ".join(day["text"] for day in api("get", f"{path}/schedule")).lower()

    assert "eyes closed" in text()
    api("put", f"{path}/body", {"results": {"balance.lead": "short"}})
    assert "eyes closed" not in text()

"""The intake: carried over, filled in by link, used by the ranking; setup notes and the clock."""

from __future__ import annotations

from datetime import timedelta

import pytest
from django.test import Client
from django.utils import timezone

from instavis.assessment.findings.models import IntakeLink
from instavis.lessons.services import start_lesson

ANSWERS = {
    "misses": {"irons": {"start": "right", "curve": "left", "off_m": 12.5}, "driver": {"start": "both"}},
    "contact": ["heel"],
    "feels": ["stuck"],
    "good_feel": "Quiet.",
    "old_faults": ["early-extension"],
    "kit": ["wall"],
    "limits": {"knee": "injury"},
    "health": ["surgery"],
}


@pytest.fixture
def phone(api, lesson):
    """A visitor's browser and the address behind a fresh link."""
    link = api("post", f"/v1/lessons/{lesson.pk}/intake-link", status=201)
    client = Client()
    client.get("/")  # the page brings its token
    return client, "/api/v1" + link["path"]


def test_answers_round_trip(api, lesson):
    result = api("put", f"/v1/lessons/{lesson.pk}/intake", ANSWERS)
    assert result["asked"]
    assert result["answers"]["misses"]["irons"] == {"start": "right", "curve": "left", "off_m": 12.5}
    assert api("get", f"/v1/lessons/{lesson.pk}/intake") == result


def test_returning_student_starts_with_last_answers(api, coach, student, lesson):
    api("put", f"/v1/lessons/{lesson.pk}/intake", ANSWERS)
    later = start_lesson(coach, student, "7i", lesson.started_at + timedelta(days=9))
    result = api("get", f"/v1/lessons/{later.pk}/intake")
    assert not result["asked"]
    assert result["earlier_day"] == lesson.started_at.date().isoformat()
    assert result["answers"]["kit"] == ["wall"]


def test_miss_and_old_faults_feed_the_ranking(api, lesson):
    api("put", f"/v1/lessons/{lesson.pk}/intake", ANSWERS)
    cause = f"/v1/lessons/{lesson.pk}/cause"
    row = next(f for f in api("get", cause)["faults"] if f["id"] == "early-extension")
    assert {"old:early-extension", "start", "contact:heel"} <= {e["id"] for e in row["evidence"]}
    api("patch", f"/v1/lessons/{lesson.pk}", {"club": "D"})
    texts = [e["text"] for f in api("get", cause)["faults"] for e in f["evidence"] if e["id"] == "start"]
    assert texts
    assert all("both sides" in t for t in texts)


def test_student_answers_by_link_and_sees_nothing_else(phone, api, lesson):
    client, address = phone
    page = client.get(address).json()
    assert page["first_name"] == "Perrin"
    assert "Oakenshaw" not in str(page)
    answer = client.put(address, ANSWERS, content_type="application/json")
    assert answer.status_code == 200
    result = api("get", f"/v1/lessons/{lesson.pk}/intake")
    assert result["by_student"]
    assert result["answers"]["limits"] == {"knee": "injury"}
    assert client.get(f"/api/v1/lessons/{lesson.pk}/intake").status_code == 401


def test_links_end_when_revoked_replaced_expired_or_guessed(phone, api, lesson):
    client, address = phone
    assert client.get("/api/v1/ask/" + "x" * 43).status_code == 404
    second = "/api/v1" + api("post", f"/v1/lessons/{lesson.pk}/intake-link", status=201)["path"]
    assert (client.get(address).status_code, client.get(second).status_code) == (404, 200)
    IntakeLink.objects.update(expires_at=timezone.now() - timedelta(seconds=1))
    assert client.get(second).status_code == 404
    third = "/api/v1" + api("post", f"/v1/lessons/{lesson.pk}/intake-link", status=201)["path"]
    api("delete", f"/v1/lessons/{lesson.pk}/intake-link", status=204)
    assert client.put(third, ANSWERS, content_type="application/json").status_code == 404


def test_bad_answers_by_link_name_their_field(phone):
    client, address = phone
    answer = client.put(address, {"limits": {"ear": "pain"}}, content_type="application/json")
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == "limits"


def test_consent_is_recorded_and_a_juniors_needs_a_guardian(api, student):
    assert api("put", f"/v1/students/{student.pk}/consent", {"given": True})["consented_at"]
    assert api("put", f"/v1/students/{student.pk}/consent", {"given": False})["consented_at"] is None
    student.born = (timezone.now() - timedelta(days=365 * 12)).date()
    student.save()
    api("put", f"/v1/students/{student.pk}/consent", {"given": True}, 422)


def test_changed_setup_is_reported(api, lesson):
    address = f"/v1/lessons/{lesson.pk}/setups"
    assert api("post", address, {"ball_cm": 8, "stance_cm": 40, "aim_deg": 0}, 201)["changes"] == []
    result = api("post", address, {"ball_cm": 11, "stance_cm": 41, "aim_deg": -3}, 201)
    assert result["changes"] == [
        "The ball is 3 cm farther back than at the start.",
        "The aim is 3° farther left than at the start.",
    ]


def test_clock_divides_the_lesson_length(api, lesson):
    result = api("patch", f"/v1/lessons/{lesson.pk}", {"minutes": 30})["clock"]
    assert result["boxes"][-1]["ends"] == 30
    assert [b["station"] for b in result["boxes"]][0] == "ask"
    sizes = {b["station"]: b["ends"] - b["begins"] for b in result["boxes"]}
    assert max(sizes, key=sizes.get) == "prove"

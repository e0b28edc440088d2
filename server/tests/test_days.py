"""Days are the academy's: a lesson belongs to the local date where it was given."""

from __future__ import annotations

from datetime import UTC, date, datetime

import pytest
from django.utils import timezone

from instavis.accounts.models import Student
from instavis.lessons.services import end_lesson, start_lesson

EVENING = datetime(2026, 7, 3, 17, 30)


@pytest.fixture
def at(api, coach, student, monkeypatch):
    """at(zone) puts the academy into a zone and gives a lesson begun there at half past five in the afternoon."""

    def make(zone: str):
        from zoneinfo import ZoneInfo

        api("patch", "/v1/academy", {"time_zone": zone})
        coach.academy.refresh_from_db()
        moment = EVENING.replace(tzinfo=ZoneInfo(zone)).astimezone(UTC)
        monkeypatch.setattr(timezone, "now", lambda: moment)
        return start_lesson(coach, student, "7i", moment)

    return make


@pytest.mark.parametrize("zone", ["Pacific/Pago_Pago", "America/Denver", "UTC", "Europe/Riga", "Pacific/Kiritimati"])
def test_evening_lesson_counts_for_today_in_every_zone(api, at, zone):
    lesson = at(zone)
    assert lesson.day == date(2026, 7, 3)
    day = api("get", "/v1/day")
    assert day["day"] == "2026-07-03"
    assert [v["lesson_id"] for v in day["visits"]] == [lesson.pk]
    assert api("get", "/v1/session")["today"] == "2026-07-03"
    assert api("get", f"/v1/students/{lesson.student_id}/history")["lessons"][0]["day"] == "2026-07-03"
    assert api("get", f"/v1/lessons/{lesson.pk}/take-home")["day"] == "2026-07-03"
    # The next day it is yesterday's, and still open.
    later = api("get", "/v1/day?day=2026-07-04")
    assert later["visits"] == []
    assert {o["kind"] for o in later["open"]} == {"not-ended"}


@pytest.mark.parametrize("zone", ["", "Mars/Olympus", "../../etc/passwd", "x" * 64])
def test_unknown_time_zone_is_refused(api, coach, zone):
    problem = api("patch", "/v1/academy", {"time_zone": zone}, 422)["errors"][0]
    assert problem["field"] == "time_zone"
    coach.academy.refresh_from_db()
    assert coach.academy.time_zone == "UTC"


@pytest.mark.parametrize("zone", ["UTC", "Pacific/Kiritimati", "Pacific/Pago_Pago"])
@pytest.mark.parametrize("day", ["1970-01-01", "9999-12-31"])
def test_first_and_last_calendar_days_are_empty(api, coach, zone, day):
    coach.academy.time_zone = zone
    coach.academy.save()
    assert api("get", f"/v1/day?day={day}")["visits"] == []


@pytest.mark.parametrize("day", ["0001-01-01", "0001-02-28", "1969-12-31"])
def test_day_before_all_lessons_is_refused(api, day):
    (result,) = api("get", f"/v1/day?day={day}", status=422)["errors"]
    assert (result["field"], result["expected"]) == ("day", "a day from 1970-01-01 on")


def test_only_the_head_coach_changes_the_time_zone(api, coach):
    coach.role = "coach"
    coach.save()
    api("patch", "/v1/academy", {"time_zone": "Europe/Riga"}, 403)


@pytest.fixture
def open_lesson(with_baseline, api, balls):
    """An open lesson of a right-hander with balls that say so."""
    assert {s["hand"] for s in api("get", f"/v1/lessons/{with_baseline.pk}/shots")} == {"right"}
    return with_baseline


def test_change_of_hand_asks_about_open_lessons(api, open_lesson, student):
    path = f"/v1/students/{student.pk}"
    problem = api("put", path, {"name": student.name, "hand": "left"}, 409)["errors"][0]
    assert problem["field"] == "open_lessons"
    student.refresh_from_db()
    assert student.hand == "right"


@pytest.mark.parametrize(("choice", "hand"), [("keep", "right"), ("turn", "left")])
def test_every_choice_keeps_lessons_readable(api, open_lesson, student, choice, hand):
    lesson = f"/v1/lessons/{open_lesson.pk}"
    before = api("get", f"{lesson}/reading")["reading"]["metrics"]["path_deg"]["centre"]
    body = {"name": student.name, "hand": "left", "open_lessons": choice}
    assert api("put", f"/v1/students/{student.pk}", body)["hand"] == "left"
    assert api("get", lesson)["hand"] == hand
    for part in ("", "/reading", "/cause", "/corrections", "/proof", "/take-home", "/schedule", "/cold-test"):
        api("get", lesson + part)
    api("get", "/v1/day")
    api("get", f"/v1/students/{student.pk}/history")
    after = api("get", f"{lesson}/reading")["reading"]["metrics"]["path_deg"]["centre"]
    assert after == pytest.approx(before if choice == "keep" else -before)


def test_ended_lessons_keep_their_hand(api, open_lesson, student, coach):
    end_lesson(open_lesson, timezone.now(), True)
    api("put", f"/v1/students/{student.pk}", {"name": student.name, "hand": "left"})
    assert api("get", f"/v1/lessons/{open_lesson.pk}")["hand"] == "right"
    api("get", f"/v1/lessons/{open_lesson.pk}/reading")
    assert start_lesson(coach, Student.objects.get(pk=student.pk), "7i", timezone.now()).hand == "left"


def test_omitted_fields_are_unchanged(api, coach):
    left = Student.objects.create(academy=coach.academy, name="Sinna Vole", hand="left", handicap=7.0)
    api("put", f"/v1/students/{left.pk}", {"name": "Sinna Voleby"})
    left.refresh_from_db()
    assert (left.name, left.hand, left.handicap) == ("Sinna Voleby", "left", 7.0)

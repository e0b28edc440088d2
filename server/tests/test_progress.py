"""Practice days, their calendar, and the cold test of the next lesson."""

from __future__ import annotations

from datetime import UTC, date, datetime, time, timedelta

import pytest
import vobject
from django.utils import timezone

from instavis.lessons.services import start_lesson
from instavis_io.tables import write_table

from .conftest import FAULT


@pytest.fixture
def path(corrected):
    return f"/v1/lessons/{corrected.pk}"


def until(api, path, days, **words):
    day = (timezone.now().date() + timedelta(days=days)).isoformat()
    api("put", f"{path}/take-home", {"minutes": 12, "days_a_week": 3, "next_lesson": day, **words})


def test_schedule_fits_settings_and_days_until_next_lesson(api, path):
    until(api, path, 14)
    sessions = api("get", f"{path}/schedule")
    assert len(sessions) in (5, 6)
    assert {s["minutes"] for s in sessions} == {12}
    days = [date.fromisoformat(s["day"]) for s in sessions]
    assert timezone.now().date() < days[0]
    assert days[-1] < timezone.now().date() + timedelta(days=14)


def test_no_drill_no_schedule(api, lesson):
    assert api("get", f"/v1/lessons/{lesson.pk}/schedule") == []


def test_a_next_lesson_before_this_one_is_refused(api, path):
    for days in (-3, 0, 3000):
        day = (timezone.now().date() + timedelta(days=days)).isoformat()
        result = api("put", f"{path}/take-home", {"note": "x", "next_lesson": day}, 422)
        assert result["errors"][0]["field"] == "next_lesson"
    assert api("get", f"{path}/take-home")["note"] == ""


def test_calendar_is_read_correctly_by_another_parser(api, path):
    until(api, path, 14)
    sessions = api("get", f"{path}/schedule")
    response = api("get", f"{path}/schedule.ics")
    assert response["Content-Type"].startswith("text/calendar")
    calendar = vobject.readOne(response.content.decode())
    events = calendar.vevent_list
    assert [e.dtstart.value.isoformat() for e in events] == [s["day"] for s in sessions]
    # Whole days: a clock change between them cannot move one.
    assert all(type(e.dtstart.value) is date and e.dtend.value - e.dtstart.value == timedelta(days=1) for e in events)
    assert [e.description.value for e in events] == [s["text"] for s in sessions]
    assert len({e.uid.value for e in events}) == len(events)


@pytest.mark.parametrize("first", [date(2026, 3, 20), date(2026, 10, 16)])
def test_clock_changes_move_no_day(api, path, corrected, first):
    """Plans over the spring and the autumn change: every day once, in order, read back by another reader."""
    corrected.started_at = datetime.combine(first, time(23, 30), UTC)
    corrected.save(update_fields=["started_at"])
    api("put", f"{path}/take-home", {"days_a_week": 6, "next_lesson": (first + timedelta(days=21)).isoformat()})
    planned = [s["day"] for s in api("get", f"{path}/schedule")]
    calendar = vobject.readOne(api("get", f"{path}/schedule.ics").content.decode())
    days = [e.dtstart.value for e in calendar.vevent_list]
    assert [d.isoformat() for d in days] == planned == sorted(set(planned))
    assert first < days[0]
    assert days[-1] < first + timedelta(days=21)


def test_days_keep_their_uid_when_the_plan_changes(api, path):
    until(api, path, 14)
    first = vobject.readOne(api("get", f"{path}/schedule.ics").content.decode())
    again = vobject.readOne(api("get", f"{path}/schedule.ics").content.decode())
    assert [e.uid.value for e in first.vevent_list] == [e.uid.value for e in again.vevent_list]


@pytest.fixture
def next_lesson(api, corrected, balls, coach, student, device, bay, numbered):
    """next_lesson(held) proves the correction, then opens a lesson two weeks later whose balls keep it or not."""
    bay.lesson = corrected
    bay.save()
    records = [{**r, "movement": "done"} for r in balls(14, FAULT, 31, marks=["done"] * 14)]
    device(numbered(records, 300))

    def make(held: bool, count=10):
        later = start_lesson(coach, student, "7i", timezone.now() + timedelta(days=14))
        marks = ["done" if held else "missed"] * count
        cold = [{k: v for k, v in r.items() if k != "movement"} for r in balls(count, FAULT, 55, marks=marks)]
        from django.core.files.uploadedfile import SimpleUploadedFile

        file = SimpleUploadedFile("cold.csv", write_table(cold).encode())
        assert api.client.post(f"/api/v1/lessons/{later.pk}/import", {"file": file}).status_code == 201
        return api("get", f"/v1/lessons/{later.pk}/cold-test")["test"]

    return make


def test_retention_and_relapse_are_separated_after_two_weeks(next_lesson):
    held = next_lesson(True)
    assert held["days_ago"] == 14
    assert 7 <= held["cold_balls"] <= 10  # mishits stay out
    assert held["retention"]["word"] in ("kept", "partly")
    assert not held["retention"]["relapse"]
    lost = next_lesson(False)
    assert lost["retention"]["share"] < held["retention"]["share"] - 0.5
    assert lost["retention"]["word"] in ("relapsed", "open")
    assert "kept" not in lost["retention"]["word"]


def test_few_cold_balls_ask_for_more(next_lesson):
    assert "more ball" in next_lesson(True, 3)["retention"]["sentence"]


def test_a_first_lesson_has_no_cold_test(api, lesson):
    assert api("get", f"/v1/lessons/{lesson.pk}/cold-test")["test"] is None

"""A student's record over three lessons, the coach's day, and the academy's outcomes."""

from __future__ import annotations

import json
from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import OperationalError
from django.utils import timezone

from instavis.corrections.models import Correction
from instavis.lessons.models import Lesson
from instavis.lessons.services import start_lesson
from instavis.practice.models import Practice, TakeHome
from instavis.reports import history as records
from instavis.reports.history import MAX_LESSONS
from instavis_io.tables import write_table

from .conftest import FAULT

FORTNIGHT = timedelta(days=14)


@pytest.fixture
def history(api, corrected, balls, coach, student, device, bay, numbered):
    """history(keeps) tells three lessons two weeks apart: proven in the first, then holds or lost each time.

    Gives the record and the openings of the later two lessons.
    """
    first = timezone.now() - 2 * FORTNIGHT
    Lesson.objects.filter(pk=corrected.pk).update(started_at=first)
    bay.lesson = corrected
    bay.save()
    proof = balls(14, FAULT, 31, marks=["done"] * 14)
    device(numbered([{**r, "movement": "done"} for r in proof], 300))

    def plan(lesson, days_done):
        day = lesson.started_at.date()
        TakeHome.objects.update_or_create(lesson=lesson, defaults={"next_lesson": day + FORTNIGHT})
        for i, planned in enumerate(api("get", f"/v1/lessons/{lesson.pk}/schedule")[:days_done]):
            at = timezone.now() - timedelta(minutes=i)
            Practice.objects.create(
                lesson=lesson,
                entry_id=f"entry-{lesson.pk}-{i}",
                day=planned["day"],
                started_at=at,
                ended_at=at,
                felt=20,
                received_at=at,
            )

    def later(number, holds):
        lesson = start_lesson(coach, student, "7i", first + number * FORTNIGHT)
        marks = [("missed", "done")[holds]] * 12
        cold = [{k: v for k, v in r.items() if k != "movement"} for r in balls(12, FAULT, 70 + number, marks=marks)]
        file = SimpleUploadedFile("cold.csv", write_table(cold).encode())
        assert api.client.post(f"/api/v1/lessons/{lesson.pk}/import", {"file": file}).status_code == 201
        return lesson, api("get", f"/v1/lessons/{lesson.pk}/cold-test")

    def tell(keeps: bool, days_done: int = 8):
        first_lesson = Lesson.objects.get(pk=corrected.pk)
        plan(first_lesson, days_done)
        openings = [later(number, keeps)[1] for number in (1, 2)]
        return api("get", f"/v1/students/{student.pk}/history"), openings

    return tell


def test_record_shows_retention_over_three_lessons(history):
    result, openings = history(True)
    assert [o["test"]["retention"]["word"] for o in openings] == ["kept", "kept"]
    assert result["alarm"] is None
    assert {o["proposals"][0]["kind"] for o in openings} <= {"transfer", "next-fault", "continue"}
    assert [lesson["cold"]["word"] if lesson["cold"] else None for lesson in result["lessons"]] == [
        None,
        "kept",
        "kept",
    ]


def test_record_shows_a_relapse_with_its_reason(history):
    result, openings = history(False, days_done=0)
    assert [o["test"]["retention"]["word"] for o in openings] == ["relapsed", "relapsed"]
    assert openings[0]["test"]["retention"]["relapse"]
    assert "second time" in result["alarm"]
    first = openings[0]["proposals"][0]
    assert first["kind"] == "step-down"
    assert "fix the plan" in first["reason"]


def test_relapse_despite_practice_suggests_another_drill(history):
    _, openings = history(False, days_done=8)
    assert openings[0]["dose"]["share"] == 1.0
    assert openings[0]["proposals"][0]["kind"] == "change-drill"
    assert openings[0]["proposals"][0]["drill"]


def test_record_shows_numbers_and_corrections(history):
    result, _ = history(True)
    first, second, third = result["lessons"]
    metric = result["metrics"][0]
    spans = {(s["kind"], s["metric"]): s for s in first["spans"]}
    before, after = spans["baseline", metric], spans["exit", metric]
    assert abs(after["centre"] - before["centre"]) > 2 * before["spread"]
    assert before["low"] < before["centre"] < before["high"]
    assert first["tried"][0]["fault"] == "early-extension"
    assert first["suspects"][0]["fault"] == "early-extension"
    assert first["dose"]["days"] == first["dose"]["planned"] >= 7
    holds = next(s for s in second["spans"] if s["metric"] == metric)
    assert abs(holds["centre"] - after["centre"]) < abs(holds["centre"] - before["centre"])
    assert [lesson["day"] for lesson in result["lessons"]] == sorted(lesson["day"] for lesson in result["lessons"])
    assert "3 more cold tests" in result["dose_link"]["sentence"] or "4 more" in result["dose_link"]["sentence"]


def test_another_club_shows_transfer(api, corrected, balls, coach, student, device, bay, numbered):
    bay.lesson = corrected
    bay.save()
    device(numbered([{**r, "movement": "done"} for r in balls(14, FAULT, 31, marks=["done"] * 14)], 300))

    def baseline(lesson, club, marks, seed):
        records = [
            {k: v for k, v in r.items() if k != "movement"} | {"club": club, "shot_id": f"{lesson.pk}-{club}-{i}"}
            for i, r in enumerate(balls(9, FAULT, seed, marks=marks))
        ]
        file = SimpleUploadedFile("balls.csv", write_table(records).encode())
        assert api.client.post(f"/api/v1/lessons/{lesson.pk}/import", {"file": file}).status_code == 201

    api("post", f"/v1/lessons/{corrected.pk}/blocks", {"purpose": "baseline"})
    baseline(corrected, "6i", ["missed"] * 9, 80)
    later = start_lesson(coach, student, "7i", timezone.now() + FORTNIGHT)
    baseline(later, "7i", ["done"] * 9, 81)
    baseline(later, "6i", ["done"] * 9, 82)
    result = api("get", f"/v1/lessons/{later.pk}/cold-test")
    (transfer,) = result["transfers"]
    assert transfer["club"] == "6i"
    assert transfer["transfer"]["word"] == "carries-over"


def test_long_record_is_cut_with_a_note(api, coach, student):
    for i in range(MAX_LESSONS + 3):
        start_lesson(coach, student, "7i", timezone.now() - timedelta(days=i))
    result = api("get", f"/v1/students/{student.pk}/history")
    assert len(result["lessons"]) == MAX_LESSONS
    assert result["left_out"] == 3
    assert result["lessons"][-1]["day"] == timezone.localdate().isoformat()


def test_student_without_lessons_has_an_empty_record(api, student):
    result = api("get", f"/v1/students/{student.pk}/history")
    assert (result["lessons"], result["metrics"], result["alarm"]) == ([], [], None)


# The day


def test_day_lists_students_and_preparation(api, corrected):
    today = timezone.localdate()
    Lesson.objects.filter(pk=corrected.pk).update(started_at=timezone.now() - FORTNIGHT, ended_at=timezone.now())
    TakeHome.objects.create(lesson=corrected, next_lesson=today)
    (visit,) = api("get", "/v1/day")["visits"]
    assert (visit["state"], visit["club"]) == ("expected", "7i")
    result = " ".join(visit["prepare"])
    assert "first ten balls with the 7 iron" in result
    assert "early extension" in result
    assert visit["dose"]["days"] == 0
    assert api("get", f"/v1/day?day={today + timedelta(days=1)}")["visits"] == []


def test_started_lesson_shows_its_station(api, corrected):
    (visit,) = api("get", "/v1/day")["visits"]
    assert visit["lesson_id"] == corrected.pk
    assert visit["prepare"] == ["First lesson here: ask, then let them hit ten balls without comment."]


def test_day_can_be_limited_to_own_lessons(api, corrected, coach):
    other = type(coach).objects.create_user("second", password="x" * 12, name="Second", academy=coach.academy)
    Lesson.objects.filter(pk=corrected.pk).update(coach=other)
    assert len(api("get", "/v1/day")["visits"]) == 1
    assert api("get", "/v1/day?mine=true")["visits"] == []


@pytest.mark.parametrize("kind", ["not-ended", "no-page", "overdue"])
def test_open_items_are_listed(api, corrected, kind):
    Lesson.objects.filter(pk=corrected.pk).update(started_at=timezone.now() - FORTNIGHT)
    if kind == "overdue":
        TakeHome.objects.create(lesson=corrected, next_lesson=timezone.localdate() - timedelta(days=2))
    assert kind in [i["kind"] for i in api("get", "/v1/day")["open"]]


def test_invalid_day_is_refused(api):
    assert api("get", "/v1/day?day=someday", None, 422)["errors"][0]["field"] == "day"


# The academy


def test_outcomes_are_counted_with_their_uncertainty(api, corrected, device, bay, balls, numbered):
    bay.lesson = corrected
    bay.save()
    device(numbered([{**r, "movement": "done"} for r in balls(6, FAULT, 31, marks=["done"] * 6)], 300))
    result = api("get", "/v1/outcomes")
    (row,) = result["rows"]
    assert row["fault_label"] == "Early extension"
    assert (row["outcome"]["open"], row["outcome"]["word"]) == (1, "not judged yet")
    Correction.objects.update(outcome="verified")
    (row,) = api("get", "/v1/outcomes")["rows"]
    assert row["outcome"]["word"] == "Needs 4 more results"
    assert row["outcome"]["low"] < 0.6
    assert result["lessons"] == 1


def test_correction_without_balls_is_not_counted(api, corrected):
    assert api("get", "/v1/outcomes")["rows"] == []


def test_records_stay_within_their_academy(stranger, corrected, device, bay, balls, numbered):
    bay.lesson = corrected
    bay.save()
    device(numbered([{**r, "movement": "done"} for r in balls(6, FAULT, 31, marks=["done"] * 6)], 300))
    assert stranger("get", "/v1/outcomes")["rows"] == []
    day = stranger("get", "/v1/day")
    assert (day["visits"], day["open"]) == ([], [])
    assert "early" not in json.dumps(day)


def test_record_needs_the_same_queries_per_lesson(api, coach, student, django_assert_max_num_queries):
    for i in range(6):
        start_lesson(coach, student, "7i", timezone.now() - timedelta(days=i))
    with django_assert_max_num_queries(150):
        api("get", f"/v1/students/{student.pk}/history")


def test_full_day_needs_no_more_queries_than_an_empty_one(api, coach, django_assert_max_num_queries):
    for i in range(40):
        student = coach.academy.students.create(name=f"Student {i}")
        start_lesson(coach, student, "7i", timezone.now() - timedelta(days=1 + i % 20))
    with django_assert_max_num_queries(12):
        assert len(api("get", "/v1/day")["open"]) == 40


def test_lost_database_does_not_mark_lessons_unreadable(api, student, lesson, monkeypatch):
    """What is away for a moment must not stand on the record as broken."""

    def away(*_):
        raise OperationalError(2013, "Lost connection to server during query")

    monkeypatch.setattr(records, "_measured", away)
    api("get", f"/v1/students/{student.pk}/history", status=503)
    monkeypatch.undo()
    assert api("get", f"/v1/students/{student.pk}/history")["lessons"]

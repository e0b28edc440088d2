"""Hundreds of students: found, archived, restored, and two records of one person merged."""

from __future__ import annotations

from datetime import timedelta
from urllib.parse import urlencode

import pytest
from django.utils import timezone

from instavis.accounts.models import Coach, Student
from instavis.corrections.models import Correction, OwnEffect
from instavis.lessons.models import Lesson
from instavis.lessons.services import start_lesson


@pytest.fixture
def other(coach) -> Student:
    """A second record of the same person, with a birthday the first one lacks."""
    return Student.objects.create(academy=coach.academy, name="P. Oakenshaw", hand="right", born="1990-05-04")


def names(roster) -> list[str]:
    return [row["student"]["name"] for row in roster["rows"]]


def test_roster_row_has_open_and_last_lesson(api, coach, student, lesson):
    later = start_lesson(coach, student, "7i", timezone.now() + timedelta(hours=1))
    Lesson.objects.filter(pk=later.pk).update(ended_at=timezone.now() + timedelta(hours=2))
    [row] = api("get", "/v1/roster")["rows"]
    assert (row["going"]["id"], row["last"]["id"]) == (lesson.pk, later.pk)
    assert row["coach_ids"] == [coach.pk]


def test_roster_needs_a_fixed_number_of_queries(api, coach, lesson, django_assert_num_queries):
    Student.objects.bulk_create(Student(academy=coach.academy, name=f"S{n}") for n in range(50))
    api("get", "/v1/session")  # the first sign of life is written down
    with django_assert_num_queries(5):  # session, coach with academy, students, lessons, who taught whom
        assert len(api("get", "/v1/roster")["rows"]) == 51


def test_roster_has_only_the_own_academys_students(stranger, lesson):
    assert stranger("get", "/v1/roster") == {"rows": [], "found": 0, "there": False}


@pytest.fixture
def several(coach, student, lesson):
    """Three besides the one who has a lesson: of another coach, long ago, never."""
    colleague = Coach.objects.create(academy=coach.academy, username="c2", name="C. Two")
    people = [Student.objects.create(academy=coach.academy, name=n) for n in ("Élodie Ström", "Bram Oar", "Ola Bram")]
    start_lesson(colleague, people[0], "7i", timezone.now())
    start_lesson(coach, people[1], "7i", timezone.now() - timedelta(days=40))
    return colleague


def found(api, **wanted) -> list[str]:
    return names(api("get", "/v1/roster?" + urlencode(wanted)))


def test_students_are_found_by_name_words_with_or_without_accents(api, several):
    assert found(api, words="strom elo") == ["Élodie Ström"]
    assert found(api, words="  BRAM ") == ["Bram Oar", "Ola Bram"]
    assert found(api, words="100%") == found(api, words="_") == []
    result = api("get", "/v1/roster?words=nobody")
    assert (result["rows"], result["found"], result["there"]) == ([], 0, True)


def test_students_are_found_by_coach_and_last_visit(api, coach, student, several):
    assert found(api, coach=several.pk) == ["Élodie Ström"]
    assert sorted(found(api, days=7)) == sorted(["Élodie Ström", student.name])
    assert "Bram Oar" in found(api, coach=coach.pk, days=90)
    assert "Bram Oar" not in found(api, coach=coach.pk, days=30)
    api("get", "/v1/roster?days=0", status=422)
    api("get", "/v1/roster?words=" + "a" * 200, status=422)


def test_long_roster_shows_first_rows_and_total(api, coach):
    Student.objects.bulk_create(Student(academy=coach.academy, name=f"S{n:04}") for n in range(250))
    result = api("get", "/v1/roster?words=s0")
    assert (len(result["rows"]), result["found"]) == (100, 250)


def test_archived_student_is_hidden_and_keeps_all_data(api, student, lesson):
    path = f"/v1/students/{student.pk}/archived"
    assert api("put", path, {"archived": True})["archived_at"]
    assert names(api("get", "/v1/roster")) == []
    assert names(api("get", "/v1/roster?archived=true")) == [student.name]
    assert api("get", f"/v1/lessons/{lesson.pk}")["student_name"] == student.name
    assert api("put", path, {"archived": False})["archived_at"] is None
    assert names(api("get", "/v1/roster")) == [student.name]


def test_two_records_are_merged(api, coach, student, lesson, other):
    theirs = start_lesson(coach, other, "7i", timezone.now())
    correction = Correction.objects.create(
        lesson=theirs,
        fault="hip-stall",
        primary="path_deg",
        direction="decrease",
        predicted=-3,
        gate={"path_deg": [-1, 3]},
        stage="half",
        chosen_at=theirs.started_at,
    )
    OwnEffect.objects.create(
        student=other,
        correction=correction,
        cause="hip-stall",
        metric="path_deg",
        mean=-2,
        sd=1,
        learned_at=theirs.started_at,
    )
    agreed = timezone.now()
    Student.objects.filter(pk=other.pk).update(filming_agreed_at=agreed)
    result = api("post", f"/v1/students/{student.pk}/merge", {"other_id": other.pk})
    assert Student.objects.get(pk=student.pk).filming_agreed_at == agreed
    assert (result["name"], result["born"], result["handicap"], result["lesson_count"]) == (
        student.name,
        "1990-05-04",
        12.0,
        2,
    )
    assert not Student.objects.filter(pk=other.pk).exists()
    assert OwnEffect.objects.get().student_id == student.pk
    assert Lesson.objects.get(pk=theirs.pk).student_id == student.pk
    assert api("get", f"/v1/lessons/{theirs.pk}")["student_name"] == student.name
    assert "merged into student" in api("get", "/v1/audit")[0]["text"]
    api("post", f"/v1/students/{student.pk}/merge", {"other_id": other.pk}, 404)


def test_merge_refuses_other_hand_and_itself(api, student, other):
    path = f"/v1/students/{student.pk}/merge"
    assert api("post", path, {"other_id": student.pk}, 422)["errors"][0]["field"] == "other_id"
    Student.objects.filter(pk=other.pk).update(hand="left")
    assert api("post", path, {"other_id": other.pk}, 409)["errors"][0]["field"] == "hand"
    assert Student.objects.count() == 2


def test_merge_refuses_another_academys_record(api, stranger, student):
    theirs = stranger("post", "/v1/students", {"name": "Theirs"}, 201)
    api("post", f"/v1/students/{student.pk}/merge", {"other_id": theirs["id"]}, 404)
    stranger("post", f"/v1/students/{theirs['id']}/merge", {"other_id": student.pk}, 404)

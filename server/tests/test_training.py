"""Practice lessons: taught like real ones, revealed at the end, private to a coach and in no statistics."""

from __future__ import annotations

import pytest
from django.utils import timezone

from instavis.accounts.models import Coach, Student
from instavis.capture.shots.models import Shot
from instavis.lessons.models import Lesson
from instavis.lessons.services import start_lesson
from instavis.training.models import Training, Tried
from instavis.training.services import begin_training
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.training import LEVELS, training_golfer

from .conftest import PASSWORD, signed_in

SEED = 7
BALLS = 12
MAX_TRIES = 40


@pytest.fixture
def training(coach) -> Training:
    return begin_training(coach, "clear", timezone.now(), seed=SEED)


@pytest.fixture
def place(training) -> str:
    return f"/v1/lessons/{training.lesson_id}"


@pytest.fixture
def fault() -> str:
    return next(iter(training_golfer("clear", SEED).faults)).partition("/")[0]


def correct(api, place: str, fault: str) -> None:
    api("post", f"{place}/corrections", {"fault": fault, "variant": "", "stage": "full"}, status=201)


def test_lessons_start_at_every_level_and_are_listed_newest_first(api):
    begun = [api("post", "/v1/trainings", {"level": level}, status=201)["lesson_id"] for level in LEVELS]
    rows = api("get", "/v1/trainings")
    assert [row["lesson_id"] for row in rows] == begun[::-1]
    assert [row["level"] for row in rows] == list(LEVELS)[::-1]
    assert all(row["score"] is None for row in rows)
    result = api("get", f"/v1/lessons/{begun[0]}")
    assert result["training"] is True


def test_same_seed_gives_the_same_golfer(api):
    def begun(**body) -> Training:
        return Training.objects.get(
            lesson_id=api("post", "/v1/trainings", {"level": "clear", **body}, 201)["lesson_id"]
        )

    one, again, anyone = begun(seed=SEED), begun(seed=SEED), begun()
    for training in (one, again):
        api("post", f"/v1/lessons/{training.lesson_id}/training/balls", {"count": 3})
    assert one.lesson.student.name == again.lesson.student.name
    hit = [
        list(training.lesson.shots.order_by("number").values_list("path_deg", "face_deg")) for training in (one, again)
    ]
    assert hit[0] == hit[1]
    assert anyone.seed != SEED
    for wrong in (-1, 2**31):
        refused = api("post", "/v1/trainings", {"level": "clear", "seed": wrong}, status=422)
        assert refused["errors"][0]["field"] == "seed"


def test_unknown_level_is_refused_and_nothing_starts(api):
    refused = api("post", "/v1/trainings", {"level": "easy"}, status=422)
    assert refused["errors"][0]["field"] == "level"
    assert not Student.objects.filter(made_up=True).exists()


def test_balls_do_not_reveal_the_hidden_fault(api, training, place):
    assert api("post", f"{place}/training/balls", {"count": 5})["numbers"] == [1, 2, 3, 4, 5]
    assert api("post", f"{place}/training/balls", {})["numbers"] == [6]
    assert len(api("get", f"{place}/shots")) == 6
    assert not Tried.objects.exists()  # nothing is tried before there is a correction
    result = api("get", f"{place}/training")
    assert result["score"] is None
    assert set(result) == {"level", "handicap", "ended_at", "score"}
    api("post", f"{place}/training/balls", {"count": 11}, status=422)
    api("post", f"{place}/training/balls", {"count": 0}, status=422)


def test_swing_is_drawn_for_a_check_and_a_ball(api, training, place):
    api("post", f"{place}/training/balls", {"count": 1})
    before, of_ball = (api("get", f"{place}/training/swings/seat-line{ball}") for ball in ("", "?ball=1"))
    assert before["view"] == "down-the-line"
    assert len(of_ball["frames"]) > 60
    assert "grade" not in of_ball
    api("get", f"{place}/training/swings/dance", status=422)
    api("get", f"{place}/training/swings/seat-line?ball=2", status=404)


def test_golfer_tries_and_learns_during_a_proof(api, training, place, fault):
    api("post", f"{place}/training/balls", {"count": 10})
    correct(api, place, fault)
    api("post", f"{place}/training/balls", {"count": 10})
    tried = list(Tried.objects.order_by("shot__number"))
    assert [t.shot.number for t in tried] == list(range(11, 21))
    assert {t.fault for t in tried} == {fault}
    training.refresh_from_db()
    assert training.skill > training_golfer("clear", SEED).simulated.skill_of_move
    assert all(shot.movement == "" for shot in Shot.objects.filter(lesson=training.lesson))  # marking is the coach's


def test_ending_reveals_the_fault_and_the_score(api, training, place, fault):
    who = training_golfer("clear", SEED)
    check = next(iter(who.checks))
    api("post", f"{place}/training/balls", {"count": 10})
    api("put", f"{place}/checks", {"grades": {check: who.checks[check][0]}})
    correct(api, place, fault)
    for number in api("post", f"{place}/training/balls", {"count": BALLS % 11 + 2})["numbers"]:
        shot = Shot.objects.get(lesson=training.lesson, number=number)
        api("patch", f"/v1/shots/{shot.pk}", {"movement": shot.tried.effort, "mark_basis": "blind"})
    api("patch", place, {"ended": True})
    result = api("get", f"{place}/training")["score"]
    assert [f["id"] for f in result["faults"]] == [fault]
    assert (result["right_cause"], result["leading_cause"]) == (True, True)
    assert (result["checks_right"], len(result["checks"])) == (1, 1)
    assert result["marks"] == result["marks_right"] > 0
    assert result["balls"] == Lesson.objects.get(pk=training.lesson_id).last_ball
    api("post", f"{place}/training/balls", {}, status=409)
    assert "another practice lesson" in api("patch", place, {"ended": False}, 409)["errors"][0]["message"]
    (row,) = api("get", "/v1/trainings")
    assert row["score"] == result


def test_practice_lessons_are_in_no_list_or_total(api, training, place, fault):
    api("post", f"{place}/training/balls", {"count": 10})
    correct(api, place, fault)
    api("post", f"{place}/training/balls", {"count": 3})
    student = training.lesson.student_id
    assert training.lesson_id not in [row["id"] for row in api("get", "/v1/lessons")]
    assert student not in [row["student"]["id"] for row in api("get", "/v1/roster")["rows"]]
    assert student not in [row["id"] for row in api("get", "/v1/students")]
    outcomes = api("get", "/v1/outcomes")
    assert (outcomes["lessons"], outcomes["students"], outcomes["rows"]) == (0, 0, [])
    day = api("get", f"/v1/day?day={training.lesson.day}")
    assert [visit["student_id"] for visit in day["visits"]] == []
    api("get", f"/v1/students/{student}", status=404)
    refused = api("get", f"{place}/archive", status=409)
    assert "Practice lessons" in refused["errors"][0]["message"]


def test_colleagues_cannot_see_practice_lessons(api, coach, training, place):
    colleague = Coach.objects.create_user("other-coach", password=PASSWORD, name="Other", academy=coach.academy)
    theirs = signed_in(colleague)
    assert theirs("get", "/v1/trainings") == []
    theirs("get", place, status=404)
    theirs("get", f"{place}/shots", status=404)
    theirs("get", f"{place}/training", status=404)
    theirs("post", f"{place}/training/balls", {}, status=404)
    theirs("get", f"{place}/training/swings/seat-line", status=404)
    theirs("delete", f"{place}/training", status=404)
    api("post", f"{place}/training/balls", {"count": 1})
    (ball,) = api("get", f"{place}/shots")
    theirs("patch", f"/v1/shots/{ball['id']}", {"note": "mine"}, status=404)


def test_proof_status_is_the_claim_without_closing(api, training, place, fault):
    api("post", f"{place}/training/balls", {"count": 10})
    api("post", f"{place}/training/balls", {"count": 5})
    correct(api, place, fault)
    for _ in range(MAX_TRIES):
        (number,) = api("post", f"{place}/training/balls", {"count": 1})["numbers"]
        shot = Shot.objects.get(lesson=training.lesson, number=number)
        api("patch", f"/v1/shots/{shot.pk}", {"movement": shot.tried.effort, "mark_basis": "blind"})
        if api("get", f"{place}/proof")["proof"]["status"] == "verified":
            break
    api("patch", place, {"ended": True})
    result = api("get", f"{place}/training")["score"]
    assert (result["outcome"], result["right_claim"]) == ("verified", True)


def test_practice_lesson_is_deleted_with_its_golfer(api, training, place):
    api("post", f"{place}/training/balls", {"count": 3})
    api("delete", f"{place}/training", status=204)
    assert not Lesson.objects.filter(pk=training.lesson_id).exists()
    assert not Student.objects.filter(made_up=True).exists()
    assert api("get", "/v1/trainings") == []


def test_student_lesson_is_not_a_practice_lesson(api, lesson):
    assert api("get", f"/v1/lessons/{lesson.pk}")["training"] is False
    api("post", f"/v1/lessons/{lesson.pk}/training/balls", {}, status=404)
    api("delete", f"/v1/lessons/{lesson.pk}/training", status=404)
    assert Lesson.objects.filter(pk=lesson.pk).exists()


def test_every_golfer_has_a_known_fault():
    known = {cause.id for cause in shipped_knowledge().of_kind("fault")}
    for level in LEVELS:
        for seed in range(20):
            assert {key.partition("/")[0] for key in training_golfer(level, seed).faults} <= known


def test_practice_lessons_do_not_end_the_new_coach_hints(api, coach, student, training):
    for taught in range(3):
        assert api("get", "/v1/session")["begins"] is True, taught
        training.lesson.ended_at = timezone.now()
        training.lesson.save()
        lesson = start_lesson(coach, student, "7i", timezone.now())
        api("patch", f"/v1/lessons/{lesson.pk}", {"ended": True})
    assert api("get", "/v1/session")["begins"] is False

"""A coach's answers compared with measured ones: what is compared, who sees it, how the ranking uses it."""

from __future__ import annotations

from datetime import timedelta

import numpy as np
import pytest
from django.utils import timezone

from instavis.accounts.models import Coach
from instavis.assessment.eyes.models import EyePair, EyePractice
from instavis.assessment.findings.selectors import ranking_of
from instavis.assessment.recordings.services import keep_measured, keep_swing
from instavis.lessons.services import start_lesson
from instavis_core.camera import CameraBody
from instavis_core.figure import SWINGS, planned_swing
from instavis_core.recordings import find_moments, swing_of_columns
from instavis_core.simulate.recording import record_swing

from .conftest import PASSWORD, put_baseline, signed_in

CHECK = "pelvis-open-impact"


def swing(severity: float, seed: int):
    recorded = record_swing({"hip-stall": severity}, np.random.default_rng(seed))
    return swing_of_columns({"time_s": recorded.time, **recorded.columns})


def record(lesson, severity: float, swings: int = 4) -> None:
    """What a belt saw of a golfer who stalls, or does not."""
    for seed in range(swings):
        keep_swing(lesson, swing(severity, seed), f"belt {seed}", timezone.now())


def grade(api, lesson, grade: str, check: str = CHECK, source: str = "eye") -> None:
    api("put", f"/v1/lessons/{lesson.pk}/checks", {"grades": {check: grade}, "source": source})


@pytest.fixture
def another(coach, student):
    """another() begins one more lesson."""
    return lambda: start_lesson(coach, student, "7i", timezone.now() + timedelta(days=1))


def test_answer_by_eye_is_compared_with_the_measured_one(api, lesson, another):
    record(lesson, 1.0)
    grade(api, lesson, "facing-ball")
    second = another()
    record(second, 0.0)
    grade(api, second, "facing-ball")
    (row,) = api("get", "/v1/eye")
    assert row["check"] == CHECK
    assert (row["both"], row["same"]) == (2, 1)
    assert (row["faults"], row["hits"], row["sound"], row["false_alarms"]) == (1, 1, 1, 1)


def test_changed_or_removed_answers_are_compared_again(api, lesson):
    record(lesson, 1.0)
    grade(api, lesson, "open")
    assert api("get", "/v1/eye")[0]["same"] == 0
    grade(api, lesson, "facing-ball")
    assert (api("get", "/v1/eye")[0]["same"], EyePair.objects.count()) == (1, 1)
    grade(api, lesson, "not-seen")
    assert api("get", "/v1/eye") == []


def test_instrument_answers_do_not_count_for_the_eye(api, lesson):
    record(lesson, 1.0)
    grade(api, lesson, "facing-ball", source="recording")
    assert api("get", "/v1/eye") == []


def test_film_measured_later_is_compared_too(api, lesson):
    grade(api, lesson, "facing-ball")
    assert api("get", "/v1/eye") == []
    shown = swing(1.4, 3)
    body = CameraBody(view="face-on", swing=shown, moments=find_moments(shown), notes=[])
    keep_measured(lesson, body, "swing.mp4", timezone.now(), None, lambda recording: None)
    assert [row["check"] for row in api("get", "/v1/eye")] == [CHECK]


def test_accuracy_is_private_and_deleted_with_the_lesson(api, lesson, coach, stranger):
    record(lesson, 1.0)
    grade(api, lesson, "facing-ball")
    other = Coach.objects.create_user("samphire", password=PASSWORD, name="Samphire", academy=coach.academy)
    assert signed_in(other)("get", "/v1/eye") == []
    assert stranger("get", "/v1/eye") == []
    lesson.delete()
    assert api("get", "/v1/eye") == []


def test_inaccurate_eye_moves_the_ranking_less(api, lesson, another, balls):
    put_baseline(api, lesson, balls)
    grade(api, lesson, "facing-ball")

    def probability() -> float:
        return next(row.probability for row in ranking_of(lesson).faults if row.id == "hip-stall")

    before = probability()
    for _ in range(6):
        other = another()
        record(other, 0.0, 2)
        grade(api, other, "facing-ball")
    assert api("get", "/v1/eye")[0]["says_nothing"] > 0.2
    assert probability() < before


SWING = {"check": CHECK, "seed": 7, "seconds": 1.4}


def practised(api, right: int, wrong: int, check: str = CHECK) -> None:
    """Grade so many made-up swings right, and so many wrong."""
    for place in range(right + wrong):
        seed, number = divmod(place, SWINGS)
        swing = planned_swing(check, seed, number)
        grade = swing.grade if place < right else next(g for g in swing.grades if g != swing.grade)
        api("post", "/v1/eye/practice", {**SWING, "check": check, "seed": seed, "number": number, "grade": grade})


def test_made_up_swing_reveals_its_answer_after_grading(api):
    shown = api("get", f"/v1/eye/swings/{CHECK}/7/3")
    assert set(shown) == {"view", "seconds", "sheet", "frames"}
    true_grade = planned_swing(CHECK, 7, 3).grade
    result = api("post", "/v1/eye/practice", {**SWING, "number": 3, "grade": "open"})
    assert result == {"grade": "open", "true_grade": true_grade}
    # What was said first stands.
    again = api("post", "/v1/eye/practice", {**SWING, "number": 3, "grade": "facing-ball"})
    assert again == result
    assert EyePractice.objects.count() == 1


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"check": "the-moon"}, "check"),
        ({"grade": "blue"}, "grade"),
        ({"number": 10}, "number"),
        ({"seed": -1}, "seed"),
    ],
)
def test_invalid_grades_are_refused(api, change, field):
    body = {**SWING, "number": 0, "grade": "open", **change}
    assert field in api("post", "/v1/eye/practice", body, 422)["errors"][0]["field"]
    assert not EyePractice.objects.exists()


def test_practice_counts_separately_and_with_limited_weight(api):
    practised(api, right=3, wrong=17)
    (row,) = api("get", "/v1/eye")
    assert (row["both"], row["practised"], row["practised_same"], row["practised_seconds"]) == (0, 20, 3, 1.4)
    poor = row["says_nothing"]
    assert poor > 0.3
    practised(api, right=20, wrong=0, check="seat-line")
    good = next(r for r in api("get", "/v1/eye") if r["check"] == "seat-line")["says_nothing"]
    assert good < 0.06
    EyePractice.objects.filter(check_id=CHECK).delete()
    practised(api, right=6, wrong=34)
    assert next(r for r in api("get", "/v1/eye") if r["check"] == CHECK)["says_nothing"] == pytest.approx(
        poor, abs=1e-6
    )


def test_practice_is_visible_only_to_its_coach(api, stranger):
    practised(api, right=1, wrong=0)
    assert stranger("get", "/v1/eye") == []

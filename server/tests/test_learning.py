"""What a correction teaches: faults gain or lose probability, and effects become the student's own."""

from __future__ import annotations

from datetime import timedelta

import pytest
from django.utils import timezone

from instavis.corrections.models import Correction, OwnEffect
from instavis.knowledge.selectors import knowledge_for, knowledge_with
from instavis.lessons.services import start_lesson

from .conftest import FAULT, MIXED


@pytest.fixture
def proved(api, corrected, balls, device, bay, numbered):
    """proved(marks) hits balls under the correction; what the golfer did and what the coach marked may differ."""
    bay.lesson = corrected
    bay.save()

    def make(done: bool, count=24):
        marks = [MIXED[i % 3] for i in range(count)]
        hit = balls(count, FAULT, 82, marks=marks if done else ["missed"] * count)
        result = [{**r, "movement": m, "mark_basis": "blind"} for r, m in zip(hit, marks, strict=True)]
        device(numbered(result, 500))
        return corrected

    return make


def chance(api, lesson, fault="early-extension"):
    ranking = api("get", f"/v1/lessons/{lesson.pk}/cause")
    return next(f for f in ranking["faults"] if f["id"] == fault)


def close(api, lesson, outcome):
    active = api("get", f"/v1/lessons/{lesson.pk}/proof")["correction"]
    return api("patch", f"/v1/corrections/{active['id']}", {"outcome": outcome})


def test_unchanged_balls_lower_the_fault(api, proved):
    lesson = proved(False)
    before = chance(api, lesson)["probability"]
    close(api, lesson, "not-supported")
    after = chance(api, lesson)
    assert after["probability"] < before
    result = next(e for e in after["evidence"] if e["kind"] == "trial")
    assert result["log_odds"] < 0
    assert "did not follow" in result["text"]


def test_outcome_can_be_undone(api, proved):
    lesson = proved(False)
    before = chance(api, lesson)["probability"]
    correction = Correction.objects.get()
    close(api, lesson, "not-supported")
    api("patch", f"/v1/corrections/{correction.pk}", {"outcome": "open"})
    assert chance(api, lesson)["probability"] == pytest.approx(before)


def test_verified_correction_sets_own_effect_for_later_lessons_only(api, proved, coach, student):
    lesson = proved(True)
    close(api, lesson, "verified")
    own = OwnEffect.objects.get()
    assert (own.cause, own.student_id) == (FAULT, student.pk)
    assert own.mean != 0
    assert own.sd > 0
    # This lesson's own ranking does not use it ...
    shipped = knowledge_with({}).causes[FAULT].effect[own.metric]
    assert knowledge_for(lesson).causes[FAULT].effect[own.metric] == shipped
    # ... the next one does, another student's never.
    later = start_lesson(coach, student, "7i", timezone.now() + timedelta(days=7))
    assert knowledge_for(later).causes[FAULT].effect[own.metric] == pytest.approx(own.mean, abs=0.01)
    other = start_lesson(
        coach,
        type(student).objects.create(academy=coach.academy, name="Else"),
        "7i",
        timezone.now() + timedelta(days=7),
    )
    assert knowledge_for(other).causes[FAULT].effect[own.metric] == shipped
    # The ranking's numbers are kept where they were learned from.
    assert Correction.objects.get().severity_then > 0


def test_reopened_correction_removes_what_was_learned(api, proved):
    lesson = proved(True)
    correction = Correction.objects.get()
    close(api, lesson, "verified")
    api("patch", f"/v1/corrections/{correction.pk}", {"outcome": "open"})
    assert not OwnEffect.objects.exists()


def test_juniors_get_a_ball_limit_warning(api, corrected, student, balls, bring):
    from datetime import date

    student.born = date(2015, 1, 1)
    student.save()
    from instavis_io.tables import write_table

    bring(write_table(balls(50, None, 5)).encode(), "more.csv")
    alarms = api("get", f"/v1/lessons/{corrected.pk}/proof")["proof"]["alarms"]
    assert "ball-limit" in [a["id"] for a in alarms]
    assert "a junior" in next(a["text"] for a in alarms if a["id"] == "ball-limit")

"""The sample academy is made once and tells the stories it promises."""

from __future__ import annotations

import pytest
from django.utils import timezone

from instavis.accounts.models import Coach
from instavis.assessment.findings.selectors import ranking_of
from instavis.corrections.models import Correction
from instavis.corrections.proofs.selectors import proof_of
from instavis.demo.builder import build_demo
from instavis.lessons.models import Lesson
from instavis.practice.progress import today_of
from instavis.reports.day import day_of
from instavis.reports.history import history_of


@pytest.fixture
def academy(db):
    assert build_demo(timezone.now())


def lesson_of(name: str) -> Lesson:
    return Lesson.objects.get(student__name=name)


def test_it_is_made_once(academy):
    assert not build_demo(timezone.now())


def test_the_stories_are_what_they_promise(academy):
    assert lesson_of("Tamsin Quarrelow").shots.count() == 0
    proofs = {
        c.lesson.student.name: proof_of(c.lesson, c)[0] for c in Correction.objects.select_related("lesson__student")
    }
    assert proofs["Dov Marrick"].status == "verified"
    assert proofs["Kofi Underlarch"].status == "not-supported"
    assert ranking_of(lesson_of("Jorun Aldwhistle")).faults[0].id == "early-extension"
    toe = ranking_of(lesson_of("Ilse Pendrake"))
    assert toe.compensations[0].id == "strike-only"
    assert toe.compensations[0].probability > toe.faults[0].probability
    failed = ranking_of(lesson_of("Kofi Underlarch"))
    assert any(e.kind == "trial" for f in failed.faults for e in f.evidence)


def test_longer_stories_end_in_the_words_they_promise(academy):
    kept, lost = (
        Lesson.objects.filter(student__name=name).order_by("started_at")
        for name in ("Lasse Corrigall", "Oona Brackwater")
    )
    words = [today_of(lesson).test.retention.word for lesson in kept[1:]]
    assert words == ["kept", "kept"]
    opening = today_of(lost[2])
    assert opening.test.retention.word == "relapsed"
    assert opening.proposals[0].kind == "step-down"
    assert opening.dose.share < 0.4
    assert history_of(lost[2].student, timezone.localdate()).alarm
    assert Correction.objects.filter(lesson__in=kept, outcome="verified").count() == 3


def test_the_day_of_the_sample_academy_has_something_to_prepare(academy):
    coach = Coach.objects.get(username="imke")
    day = day_of(coach, timezone.localdate(), mine=True)
    states = {visit.student: visit.state for visit in day.visits}
    assert states["Lasse Corrigall"] == "expected"
    assert "Oona Brackwater" in states
    assert any("Cold test" in text for visit in day.visits for text in visit.prepare)

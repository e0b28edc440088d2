"""The sample academy is made once and tells the stories it promises."""

from __future__ import annotations

import pytest
from django.utils import timezone

from instavis.corrections.models import Correction
from instavis.demo.builder import build_demo
from instavis.findings.selectors import ranking_of
from instavis.lessons.models import Lesson
from instavis.proofs.selectors import proof_of


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

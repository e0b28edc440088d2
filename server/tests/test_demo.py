"""The sample academy is made once, shows what it promises, and its advice leads to each golfer's hidden fault."""

from __future__ import annotations

import pytest
from django.utils import timezone

from instavis.accounts.models import Coach
from instavis.assessment.findings.selectors import ranking_of
from instavis.assessment.findings.services import grade_checks
from instavis.corrections.models import Correction
from instavis.corrections.proofs.selectors import proof_of
from instavis.demo.builder import build_demo
from instavis.demo.scenario import STORIES
from instavis.lessons.models import Lesson
from instavis.practice.progress import today_of
from instavis.reports.day import day_of
from instavis.reports.history import history_of
from instavis_core.knowledge.loader import shipped_knowledge

pytestmark = pytest.mark.django_db

CHECKS = 6  # half a minute each at most: three minutes


@pytest.fixture(scope="module", autouse=True)
def _academy(for_the_module):
    assert build_demo(timezone.now())


def lesson_of(name: str) -> Lesson:
    return Lesson.objects.get(student__name=name)


def test_demo_is_created_once():
    assert not build_demo(timezone.now())


def test_stories_match_their_description():
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


def test_longer_stories_end_with_the_expected_status():
    held, lost = (
        Lesson.objects.filter(student__name=name).order_by("started_at")
        for name in ("Lasse Corrigall", "Oona Brackwater")
    )
    words = [today_of(lesson).test.retention.word for lesson in held[1:]]
    assert words == ["kept", "kept"]
    opening = today_of(lost[2])
    assert opening.test.retention.word == "relapsed"
    assert opening.proposals[0].kind == "step-down"
    assert opening.dose.share < 0.4
    assert history_of(lost[2].student, timezone.localdate()).alarm
    assert Correction.objects.filter(lesson__in=held, outcome="verified").count() == 3


def test_the_day_of_the_sample_academy_has_something_to_prepare():
    coach = Coach.objects.get(username="imke")
    day = day_of(coach, timezone.localdate(), mine=True)
    states = {visit.student: visit.state for visit in day.visits}
    assert states["Lasse Corrigall"] == "reports-expected"
    assert "Oona Brackwater" in states
    assert any("cold-test" in text for visit in day.visits for text in visit.prepare)


def shown_by(check, faults: set[str]) -> str:
    """The grade that these faults show in a look; the sound one when they show nothing."""
    strength = {g: max((check.speaks.get(g, {}).get(f, 0) for f in faults), default=0) for g in check.grades}
    best = max(check.grades, key=lambda g: strength[g])
    return best if strength[best] > 0 else check.grades[0]


def follow_the_advice(lesson: Lesson, faults: set[str]) -> list[str]:
    """Forget what was graded, then grade what is asked for; the leader after every look."""
    lesson.grades.all().delete()
    lesson.corrections.all().delete()
    leaders = [ranking_of(lesson).faults[0].id]
    for _ in range(CHECKS):
        check = shipped_knowledge().checks[ranking_of(lesson).next_checks[0].id]
        grade_checks(lesson, lesson.coach, {check.id: shown_by(check, faults)}, timezone.now())
        leaders.append(ranking_of(lesson).faults[0].id)
    return leaders


@pytest.mark.parametrize("story", [s for s in STORIES if s.faults and s.baseline], ids=lambda s: s.name)
def test_following_the_advice_finds_the_hidden_fault(story):
    faults = {f.partition("/")[0] for f in story.faults}
    lesson = lesson_of(story.name)
    assert follow_the_advice(lesson, faults)[-1] in faults
    assert ranking_of(lesson).faults[0].probability >= 0.7


def test_toe_strikes_alone_give_no_pivot_fault():
    story = next(s for s in STORIES if s.toe_mm)
    lesson = lesson_of(story.name)
    follow_the_advice(lesson, set())
    ranking = ranking_of(lesson)
    assert ranking.compensations[0].id == "strike-only"
    assert ranking.faults[0].probability < 0.4

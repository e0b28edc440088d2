"""The sample academy as a coach works through it: the advice leads to what each golfer hides."""

from __future__ import annotations

import pytest
from django.utils import timezone

from instavis.assessment.findings.selectors import ranking_of
from instavis.assessment.findings.services import grade_checks
from instavis.demo.builder import build_demo
from instavis.demo.scenario import STORIES
from instavis.lessons.models import Lesson
from instavis_core.knowledge.loader import shipped_knowledge

LOOKS = 6  # half a minute each at most: three minutes


@pytest.fixture
def academy(db):
    build_demo(timezone.now())
    return {lesson.student.name: lesson for lesson in Lesson.objects.select_related("student", "coach")}


def shown_by(look, faults: set[str]) -> str:
    """The grade that these faults show in a look; the sound one when they show nothing."""
    strength = {g: max((look.speaks.get(g, {}).get(f, 0) for f in faults), default=0) for g in look.grades}
    best = max(look.grades, key=lambda g: strength[g])
    return best if strength[best] > 0 else look.grades[0]


def follow_the_advice(lesson: Lesson, faults: set[str]) -> list[str]:
    """Forget what was graded, then grade what is asked for; the leader after every look."""
    lesson.grades.all().delete()
    lesson.corrections.all().delete()
    leaders = [ranking_of(lesson).faults[0].id]
    for _ in range(LOOKS):
        look = shipped_knowledge().checks[ranking_of(lesson).next_checks[0].id]
        grade_checks(lesson, lesson.coach, {look.id: shown_by(look, faults)}, timezone.now())
        leaders.append(ranking_of(lesson).faults[0].id)
    return leaders


@pytest.mark.parametrize("story", [s for s in STORIES if s.faults and s.baseline], ids=lambda s: s.name)
def test_following_the_advice_finds_what_the_golfer_hides(academy, story):
    faults = {f.partition("/")[0] for f in story.faults}
    lesson = academy[story.name]
    assert follow_the_advice(lesson, faults)[-1] in faults
    assert ranking_of(lesson).faults[0].probability >= 0.7


def test_who_only_strikes_it_off_the_toe_is_given_no_pivot_fault(academy):
    story = next(s for s in STORIES if s.toe_mm)
    lesson = academy[story.name]
    follow_the_advice(lesson, set())
    ranking = ranking_of(lesson)
    assert ranking.compensations[0].id == "strike-only"
    assert ranking.faults[0].probability < 0.4

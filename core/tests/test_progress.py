"""Practice plans and retention: spaced days, limits, honest ratios."""

from __future__ import annotations

import re
from datetime import UTC, date, datetime, timedelta

import numpy as np
import pytest

from instavis_core.errors import InputError
from instavis_core.progress import PracticeNeeds, on_the_servers_clock, practice_schedule, retained_share

MONDAY = date(2026, 3, 23)  # the clocks change within this plan


@pytest.fixture
def drill(knowledge):
    return knowledge.drills["bar-stool"]


def plan(drill, until=14, **needs):
    wanted = PracticeNeeds(**{"minutes": 10, "days_a_week": 4, **needs})
    return practice_schedule(MONDAY, MONDAY + timedelta(days=until), drill, wanted)


@pytest.mark.parametrize("a_week", [1, 2, 3, 4, 5, 6, 7])
@pytest.mark.parametrize("until", [1, 3, 7, 14, 30, 56])
def test_weeks_respect_the_limit_and_keep_a_rest_day(drill, a_week, until):
    days = [s.day for s in plan(drill, until, days_a_week=a_week)]
    assert days == sorted(set(days))
    assert all(MONDAY <= d < MONDAY + timedelta(days=until) for d in days)
    for start in days:
        week = [d for d in days if start <= d < start + timedelta(days=7)]
        assert len(week) <= min(a_week, 6)
    assert len(days) >= min(1, until)


def test_days_are_spread_over_the_whole_time(drill):
    days = [(s.day - MONDAY).days for s in plan(drill, 14, days_a_week=4)]
    gaps = np.diff(days)
    assert days[0] <= 2
    assert days[-1] >= 11
    assert gaps.max() <= 3


def test_lesson_day_has_no_practice_and_today_may(drill):
    assert plan(drill, 0) == []


def test_stages_progress_from_position_to_movement_without_balls(drill, knowledge):
    stages = [s.stage for s in plan(drill, 21)]
    assert stages[0] == "feel"
    assert stages[-1] == "rehearse"
    assert stages == sorted(stages, key=["feel", "rehearse"].index)
    assert not any(knowledge.vocabulary.stages[s].ball for s in stages)


@pytest.mark.parametrize(
    ("needs", "most"),
    [
        ({"minutes": 60}, 25),
        ({"minutes": 60, "age": 11}, 10),
        ({"minutes": 60, "age": 16}, 15),
        ({"minutes": 60, "age": 71}, 15),
        ({"minutes": 60, "limits": (("knee", "pain"),)}, 10),
        ({"minutes": 8}, 8),
    ],
)
def test_minutes_are_limited_by_age_and_pain(drill, needs, most):
    assert {s.minutes for s in plan(drill, **needs)} == {most}


def test_pain_reduces_days_per_week(drill):
    sore = plan(drill, 7, days_a_week=6, limits=(("hip", "injury"),))
    assert len(sore) <= 4 < len(plan(drill, 7, days_a_week=6))


def test_missing_equipment_is_mentioned(drill):
    assert "no-object-home" in repr(plan(drill, kit=frozenset({"mirror"}))[0].text)
    assert "no-object-home" not in repr(plan(drill)[0].text)
    assert "no-object-home" not in repr(plan(drill, kit=frozenset({"chair"}))[0].text)


def test_without_a_next_lesson_two_weeks_are_planned(drill):
    days = [s.day for s in practice_schedule(MONDAY, None, drill, PracticeNeeds(minutes=10, days_a_week=3))]
    assert MONDAY + timedelta(days=7) < days[-1] < MONDAY + timedelta(days=14)


@pytest.mark.parametrize(
    ("needs", "until", "field"),
    [
        (PracticeNeeds(minutes=0, days_a_week=3), 7, "minutes"),
        (PracticeNeeds(minutes=200, days_a_week=3), 7, "minutes"),
        (PracticeNeeds(minutes=10, days_a_week=0), 7, "days_a_week"),
        (PracticeNeeds(minutes=10, days_a_week=9), 7, "days_a_week"),
        (PracticeNeeds(minutes=10, days_a_week=3), -2, "next_lesson"),
    ],
)
def test_impossible_plans_are_refused(drill, needs, until, field):
    with pytest.raises(InputError) as caught:
        practice_schedule(MONDAY, MONDAY + timedelta(days=until), drill, needs)
    assert caught.value.field == field


def lessons(share, seed, baseline=5.0, end=1.0, sd=1.6, cold=10):
    rng = np.random.default_rng(seed)
    now = baseline + share * (end - baseline)
    return rng.normal(baseline, sd, 12), rng.normal(end, sd, 12), rng.normal(now, sd, cold)


def test_retention_and_relapse_are_separated():
    words = [retained_share(*lessons(1.0, seed)).word for seed in range(40)]
    lost = [retained_share(*lessons(0.0, seed)).word for seed in range(40)]
    assert words.count("kept") >= 25
    assert words.count("relapsed") == 0
    assert lost.count("relapsed") >= 25
    assert lost.count("kept") == 0


@pytest.mark.parametrize("share", [0.0, 0.5, 1.0])
def test_retention_interval_covers_as_stated(share):
    held = []
    for seed in range(300):
        result = retained_share(*lessons(share, 1000 + seed))
        if result.low is not None:
            held.append(result.low <= share <= result.high)
    assert np.mean(held) == pytest.approx(0.90, abs=0.05)


def test_unverified_change_has_no_retained_share():
    result = retained_share(*lessons(1.0, 3, baseline=2.0, end=1.8))
    assert result.share is None
    assert result.word == "open"
    assert result.sentence.code == "take-home-change-last-lesson-not-certain"


def test_negative_share_is_shown_as_zero():
    result = retained_share(*lessons(-0.6, 2))
    assert result.word == "relapsed"
    assert "nothing-change-left" in repr(result.sentence)
    assert not re.search("[-−][0-9]", repr(result.sentence))


@pytest.mark.parametrize(("cold", "needed"), [(2, 3), (4, 1), (0, 5)])
def test_few_cold_balls_ask_for_more(cold, needed):
    assert retained_share(*lessons(1.0, 4, cold=cold)).sentence.values == {"n": needed}


def test_the_sign_of_the_number_does_not_matter():
    a = retained_share(*lessons(0.8, 6))
    b = retained_share(*(-x for x in lessons(0.8, 6)))
    assert a.share == pytest.approx(b.share)
    assert a.word == b.word


def test_balls_without_the_number_are_left_out():
    base, end, cold = lessons(1.0, 7)
    holed = np.append(cold, [np.nan, np.nan])
    assert retained_share(base, end, holed).share == pytest.approx(retained_share(base, end, cold).share)


@pytest.mark.parametrize("year", [1, 9999])
def test_practice_at_the_edge_of_the_calendar_is_refused(year):
    now = datetime(2026, 5, 4, 9, tzinfo=UTC)
    there = datetime(year, 1, 1, 0, tzinfo=UTC) if year == 1 else datetime(year, 12, 31, 23, tzinfo=UTC)
    sent = now + timedelta(days=3) if year == 1 else now - timedelta(days=3)
    with pytest.raises(InputError) as caught:
        on_the_servers_clock(now.date(), there, there, sent, now)
    assert caught.value.field == "started_at"

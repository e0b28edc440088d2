"""Between two lessons: the practice plan, the log, the dose, and the plan of the next lesson."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta

import numpy as np
import pytest

from instavis_core.errors import InputError
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.progress import (
    Dose,
    LastWork,
    PracticeNeeds,
    dose_against_retention,
    dose_of,
    drill_outcomes,
    follow_plan,
    move_day,
    plan_today,
    practice_schedule,
    relapse_alarm,
    retained_share,
    transferred_share,
)
from instavis_core.reading.robust import share_interval

SHIPPED = shipped_knowledge()

MONDAY = date(2026, 3, 23)  # the clocks change within this plan
NEXT = MONDAY + timedelta(days=14)
NOW = datetime(2026, 3, 30, 18, 0, tzinfo=UTC)


@pytest.fixture
def sessions():
    return practice_schedule(
        MONDAY, NEXT, shipped_knowledge().drills["bar-stool"], PracticeNeeds(minutes=10, days_a_week=4)
    )


def states(days):
    return [d.state for d in days]


# The plan as it is lived


def test_missed_days_ease_the_next_two(sessions):
    today = sessions[-3].day
    days = follow_plan(sessions, {}, [], today)
    assert states(days) == ["missed"] * (len(days) - 3) + ["today", "to-come", "to-come"]
    assert sessions[-2].stage != sessions[0].stage
    assert [d.stage for d in days[-3:-1]] == [sessions[0].stage] * 2
    assert [d.eased for d in days[-3:]] == [True, True, False]
    assert {d.minutes for d in days} == {10}  # nothing is made up for at once


def test_practiced_day_is_done_and_eases_nothing(sessions):
    today = sessions[-2].day
    days = follow_plan(sessions, {}, [s.day for s in sessions[:-2]], today)
    assert states(days)[:-2] == ["done"] * (len(days) - 2)
    assert not any(d.eased for d in days)


@pytest.mark.parametrize(("late", "counts"), [(0, True), (1, True), (2, True), (3, False), (-1, False)])
def test_slightly_late_practice_counts_for_the_planned_day(sessions, late, counts):
    first, today = sessions[0].day, sessions[0].day + timedelta(days=3)
    alone = sessions[:1]
    (day,) = follow_plan(alone, {}, [first + timedelta(days=late)], today)
    assert day.state == ("done" if counts else "missed")


def test_moved_day_keeps_its_identity(sessions):
    first, last = sessions[0].day, sessions[-1].day
    days = follow_plan(sessions, {first: last + timedelta(days=1)}, [], first)
    assert days[-1].planned == first
    assert days[-1].day == last + timedelta(days=1)
    assert [d.day for d in days] == sorted(d.day for d in days)


def test_day_may_move_to_a_free_day(sessions):
    days = follow_plan(sessions, {}, [], MONDAY)
    free = next(MONDAY + timedelta(i) for i in range(14) if MONDAY + timedelta(i) not in {d.day for d in days})
    move_day(days, days[0].planned, free, NEXT, MONDAY)


@pytest.mark.parametrize(
    ("planned", "to", "field"),
    [
        (None, MONDAY + timedelta(5), "planned"),
        (0, MONDAY - timedelta(1), "to"),
        (0, NEXT, "to"),
        (0, NEXT + timedelta(3), "to"),
        (0, 1, "to"),
    ],
)
def test_invalid_moves_are_refused(sessions, planned, to, field):
    days = follow_plan(sessions, {}, [], MONDAY)
    source = MONDAY - timedelta(40) if planned is None else days[planned].planned
    target = days[to].day if isinstance(to, int) else to
    with pytest.raises(InputError) as caught:
        move_day(days, source, target, NEXT, MONDAY)
    assert caught.value.field == field


def test_move_keeps_one_rest_day_a_week():
    drill = shipped_knowledge().drills["bar-stool"]
    sessions = practice_schedule(MONDAY, NEXT, drill, PracticeNeeds(minutes=10, days_a_week=6))
    days = follow_plan(sessions, {}, [], MONDAY)
    taken = {d.day for d in days}
    for gap in (MONDAY + timedelta(i) for i in range(14) if MONDAY + timedelta(i) not in taken):
        for day in days:
            try:
                move_day(days, day.planned, gap, NEXT, MONDAY)
            except InputError:
                continue
            after = sorted((taken - {day.day}) | {gap})
            assert all(sum(a <= d < a + timedelta(7) for d in after) <= 6 for a in after)


def test_done_days_cannot_move(sessions):
    days = follow_plan(sessions, {}, [sessions[0].day], sessions[1].day)
    with pytest.raises(InputError, match="done"):
        move_day(days, sessions[0].day, sessions[1].day + timedelta(1), NEXT, sessions[1].day)


def test_before_the_first_planned_day_there_is_no_share():
    assert dose_of([], 0).share is None


# The next lesson


def work(stage="half", outcome="verified"):
    return LastWork(fault="early-extension", label="Early extension", drill="bar-stool", stage=stage, outcome=outcome)


def retention(share, seed=1):
    rng = np.random.default_rng(seed)
    return retained_share(rng.normal(5, 1, 14), rng.normal(0, 1, 14), rng.normal(5 - 5 * share, 1, 10))


def dose(days, planned, pains=()):
    return Dose(
        days=days,
        planned=planned,
        share=days / planned,
        repetitions=30 * days,
        felt=20 * days,
        minutes=10 * days,
        balls=0,
        pains=pains,
    )


@pytest.mark.parametrize(
    ("share", "last", "practice", "kinds"),
    [
        (1.0, work("half"), None, ["continue", "transfer"]),
        (1.0, work("full"), None, ["transfer", "continue"]),
        (0.5, work("full"), None, ["step-down", "continue"]),
        (0.0, work("full"), dose(1, 8), ["step-down", "change-drill"]),
        (0.0, work("full"), dose(8, 8), ["change-drill", "step-down"]),
        (0.0, work("full"), None, ["step-down", "change-drill"]),
        (1.0, work("half"), dose(5, 8, ("knee",)), ["pain", "continue", "transfer"]),
        (0.0, work("full", "not-supported"), None, ["change-correction"]),
    ],
)
def test_todays_plan_follows_retention_and_practice(share, last, practice, kinds):
    proposals = plan_today(SHIPPED, last, retention(share), practice, {"early-extension": 0.8})
    assert [p.kind for p in proposals][: len(kinds)] == kinds
    assert all(p.headline and p.reason for p in proposals)


def test_retained_correction_leads_along_the_chain():
    odds = {"early-extension": 0.9, "sitting-back": 0.5, "spin-out": 0.6, "hang-back": 0.2}
    proposals = plan_today(SHIPPED, work("full"), retention(1.0), None, odds)
    assert [p.fault for p in proposals[:2]] == ["sitting-back", "spin-out"]  # upstream first, though less likely
    assert "upstream" in repr(proposals[0].reason)
    assert "hang-back" not in [p.fault for p in proposals]


def test_a_failed_correction_is_followed_by_the_rival():
    proposals = plan_today(SHIPPED, work(outcome="not-supported"), retention(0.0), None, {"hip-stall": 0.7})
    assert proposals[0].fault == "hip-stall"
    assert "not-supported" in repr(proposals[0].reason)


def test_stepping_down_stays_on_the_ladder():
    for stage in ("feel", "rehearse", "chip"):
        step = plan_today(SHIPPED, work(stage), retention(0.5), None, {})[0]
        assert step.kind == "step-down"
        assert step.stage == "chip"


def test_little_practice_changes_the_plan_first():
    def reasons(practice):
        return [repr(step.reason) for step in plan_today(SHIPPED, work("full"), retention(0.0), practice, {})]

    assert "fix-plan-before(days=1, planned=8)" in reasons(dose(1, 8))[0]
    assert "(days=8, planned=8)" in reasons(dose(8, 8))[1]
    assert "no-practice-logged" in reasons(None)[0]


@pytest.mark.parametrize(
    ("words", "warned"),
    [
        ([], None),
        (["kept"], None),
        (["relapsed", "kept"], None),
        (["relapsed"], "did-not-hold"),
        (["kept", "relapsed"], "after-had-held"),
        (["relapsed", "kept", "relapsed"], "(times=2)"),
        (["relapsed"] * 5, "(times=5)"),
    ],
)
def test_second_relapse_has_a_stronger_warning(words, warned):
    alarm = relapse_alarm(words)
    assert (alarm is None) if warned is None else (warned in repr(alarm))


# Other clubs, other drills


def clubs(share, seed, n=12):
    rng = np.random.default_rng(seed)
    return (
        rng.normal(5, 1.2, n),
        rng.normal(1, 1.2, n),
        rng.normal(7, 1.2, n),
        rng.normal(7 - 4 * share, 1.2, n),
    )


@pytest.mark.parametrize("share", [0.0, 0.5, 1.0])
def test_transfer_interval_covers_as_stated(share):
    result = [transferred_share(*clubs(share, seed)) for seed in range(300)]
    assert np.mean([t.low <= share <= t.high for t in result]) == pytest.approx(0.90, abs=0.05)


def test_transfer_is_detected():
    over = [transferred_share(*clubs(1.0, s)).word for s in range(40)]
    stays = [transferred_share(*clubs(0.0, s)).word for s in range(40)]
    assert over.count("carries-over") >= 30
    assert "not-yet" not in over
    assert stays.count("not-yet") >= 25
    assert "carries-over" not in stays


def test_transfer_needs_enough_balls():
    result = transferred_share(*(g[:4] for g in clubs(1.0, 3)))
    assert (result.share, result.word) == (None, "open")


@pytest.mark.parametrize(("hits", "n"), [(0, 10), (5, 10), (10, 10), (1, 2), (17, 23)])
def test_small_number_intervals_match_sampled_posteriors(hits, n):
    """Against quantiles of draws from the beta posterior, and Jeffreys' ends at none and all."""
    drawn = np.random.default_rng(3).beta(hits + 0.5, n - hits + 0.5, 200_000)
    share, low, high = share_interval(hits, n, 0.90)
    assert share == hits / n
    assert low == (0.0 if hits == 0 else pytest.approx(np.quantile(drawn, 0.05), abs=0.005))
    assert high == (1.0 if hits == n else pytest.approx(np.quantile(drawn, 0.95), abs=0.005))


def test_two_tries_of_a_drill_prove_nothing():
    rows = drill_outcomes(
        [("early-extension", "bar-stool", "verified")] * 2
        + [("hip-stall", "buckle-lamp", "verified")] * 9
        + [("hip-stall", "buckle-lamp", "not-supported")]
        + [("spin-out", "lamp-post", "not-supported")] * 9
        + [("spin-out", "lamp-post", "open"), ("spin-out", "statue", "stopped")]
    )
    by = {(r.fault, r.drill): r for r in rows}
    assert by["early-extension", "bar-stool"].word.code == "take-home-needs-more-results"
    assert by["hip-stall", "buckle-lamp"].word == "take-home-often-works"
    assert by["spin-out", "lamp-post"].word == "take-home-often-fails"
    assert by["spin-out", "statue"].word == "take-home-not-judged-yet"
    assert rows[0].drill == "buckle-lamp"  # two of two is not ahead of nine of ten
    assert (by["spin-out", "lamp-post"].open, by["spin-out", "statue"].stopped) == (1, 1)


def test_dose_and_retention_are_linked_only_beyond_chance():
    assert dose_against_retention([(0.5, 0.5)] * 3).sentence.code == "take-home-needs-more-cold-tests-compare"
    rising = [(d / 10, d / 10) for d in range(8)]
    assert dose_against_retention(rising).tau == pytest.approx(1.0)
    assert dose_against_retention(rising).sentence.values["way"] == "more"
    assert dose_against_retention([(d, -k) for d, k in rising]).sentence.values["way"] == "less"
    mixed = [(0.1, 0.9), (0.9, 0.1), (0.5, 0.5), (0.3, 0.2), (0.7, 0.8), (0.2, 0.4)]
    assert "show-no" in dose_against_retention(mixed).sentence
    assert "lessons-alike" in dose_against_retention([(0.5, 0.1 * i) for i in range(6)]).sentence


def test_dose_link_has_the_stated_error_rate():
    rng = np.random.default_rng(2)
    called = [
        dose_against_retention(list(zip(rng.random(7), rng.random(7), strict=True))).p <= 0.10 for _ in range(600)
    ]
    assert np.mean(called) <= 0.12

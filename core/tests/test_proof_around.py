"""Around the proof: the expected worse phase, limits, what was learned, planning a comparison."""

from __future__ import annotations

import json
import math
from dataclasses import asdict

import numpy as np
import pytest

from instavis_core.errors import InputError
from instavis_core.golfer import Golfer
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.proof import (
    ball_limit,
    call_order,
    evaluate_proof_set,
    limit_alarms,
    log_odds_of,
    own_effect,
    plan_comparison,
    prove,
    read_correction,
    scale_of,
)
from instavis_core.shots import block_of, read_shots

SHIPPED = shipped_knowledge()

RAW = {"fault": "early-extension", "variant": "from-inside", "primary": "path_deg", "direction": "decrease"}
GOLFER = Golfer("right", 12.0)


@pytest.fixture
def proved(records, seven_iron):
    """proved(path, n, marks, turf, fault, **raw): baseline at 5° in-to-out, then n balls at a path."""

    def make(path, n=14, marks=("done",), turf=None, sd=1.2, seed=8, raw=RAW, **centres):
        correction = read_correction(SHIPPED, {"gate": {"path_deg": [-1, 3]}, **raw}, GOLFER, seven_iron)
        base = block_of(read_shots(records(12, 3, sd, path_deg=5.0, face_deg=2.0)), GOLFER, seven_iron)
        balls = records(n, seed, sd, path_deg=path, **{"face_deg": path / 2, **centres})
        for i, ball in enumerate(balls):
            ball |= {"movement": marks[i % len(marks)], "stage": "full"}
            if turf and turf[i % len(turf)]:
                ball["turf"] = turf[i % len(turf)]
        return prove(base, block_of(read_shots(balls), GOLFER, seven_iron), correction), correction

    return make


def test_fat_balls_after_more_hip_bend_are_expected_with_match_up(proved):
    proof, _ = proved(2.0, 10, turf=("fat", "", "shank"))
    (ugly,) = proof.expected
    assert ugly.id == "arms-still-pull"
    assert "arms" in ugly.matchup
    assert ugly.shown >= 3


def test_no_bad_phase_is_expected_without_the_movement(proved):
    assert proved(2.0, 10, marks=("missed",), turf=("fat",))[0].expected == []


def test_bad_phase_of_another_fault_is_not_expected(proved):
    raw = {**RAW, "fault": "lateral-slide", "variant": None}
    assert proved(2.0, 10, turf=("fat", ""), raw=raw)[0].expected == []


def test_lead_side_balls_after_a_squarer_face_are_expected(proved):
    raw = {**RAW, "fault": "open-face", "variant": None, "primary": "face_deg", "gate": {"face_deg": [-6, 1]}}
    proof, _ = proved(1.0, 8, raw=raw, sd=0.4, face_deg=-3.0, launch_direction_deg=-5.0)
    assert [e.id for e in proof.expected] == ["hands-still-flip"]
    json.dumps(asdict(proof))  # plain numbers only: the screens get it as it is


def test_curve_from_the_strike_raises_an_alarm(proved):
    proof, _ = proved(5.0, 14, face_deg=2.0, strike_toe_mm=14.0, spin_axis_deg=-9.0)
    # The baseline's records carry no axis, so nothing is said ...
    assert "strike-only" not in [a.id for a in proof.alarms]


def test_strike_alarm_needs_strike_and_curve_to_oppose(records, seven_iron):
    correction = read_correction(SHIPPED, {**RAW, "gate": {"path_deg": [-1, 3]}}, GOLFER, seven_iron)

    def block(seed, toe, axis):
        balls = records(12, seed, 0.8, path_deg=4.0, face_deg=2.0, strike_toe_mm=toe, spin_axis_deg=axis)
        for ball in balls:
            ball |= {"movement": "done", "stage": "full"}
        return block_of(read_shots(balls), GOLFER, seven_iron)

    def alarms(toe, axis):
        return [a.id for a in prove(block(1, 0.0, 0.0), block(2, toe, axis), correction).alarms]

    assert "strike-only" in alarms(14.0, -6.0)
    assert "strike-only" not in alarms(14.0, 6.0)
    assert "strike-only" not in alarms(0.0, -6.0)


@pytest.mark.parametrize(
    ("age", "limits", "total"),
    [
        (None, {}, 120),
        (30, {}, 120),
        (12, {}, 60),
        (15, {}, 90),
        (70, {}, 80),
        (30, {"knee": "pain"}, 60),
        (30, {"hip": "stiff"}, 120),
    ],
)
def test_ball_limits_are_lower_for_juniors_seniors_and_injuries(age, limits, total):
    assert ball_limit(age, limits).total == total


def test_ball_limits_warn_near_and_past_the_limit():
    limit = ball_limit(30, {})
    assert limit_alarms(limit, 50, 10) == []
    assert limit_alarms(limit, 110, 10)[0].id == "ball-limit-near"
    assert limit_alarms(limit, 120, 10)[0].id == "ball-limit"
    assert limit_alarms(limit, 70, 61)[0].id == "ball-limit"


def test_changed_balls_support_the_fault_and_unchanged_ones_do_not(proved):
    yes, correction = proved(5.0 - 3.2, sd=0.6)
    no, _ = proved(5.0)
    assert log_odds_of(yes, correction) > 1
    assert log_odds_of(no, correction) < -1
    assert log_odds_of(proved(5.0, 3)[0], correction) == 0.0


def test_evidence_grows_with_balls_up_to_a_bound(proved):
    few, many = (log_odds_of(*proved(5.0, n)) for n in (5, 40))
    assert few > many >= -6.0
    assert log_odds_of(*proved(-15.0, 40)) <= 6.0


def test_own_effect_lies_between_table_and_observation(proved, knowledge, seven_iron):
    cause = knowledge.causes["early-extension/from-inside"]
    proof, correction = proved(5.0 - 5.5, 20)
    own = own_effect(proof, correction, cause, 0.8, scale_of("path_deg", seven_iron, GOLFER.skill.effect_scale))
    observed = -proof.change.estimate / (0.8 * 0.8)
    assert min(cause.effect["path_deg"], observed) < own.mean < max(cause.effect["path_deg"], observed)
    assert 0 < own.sd < 0.35 * abs(cause.effect["path_deg"])


def test_own_effects_recover_golfers_that_differ_from_the_table(hit, knowledge, seven_iron):
    """Golfers drawn around the table: learning brings the estimate nearer to their own row, on the whole."""
    cause = knowledge.causes["early-extension/from-inside"]
    rng, before, after = np.random.default_rng(5), [], []
    for seed in range(25):
        true = cause.effect["path_deg"] * float(np.exp(rng.normal(0, 0.35)))
        base = rng.normal(0.9 * true, 1.6, 12)
        new = rng.normal(0.9 * true * (1 - 0.8), 1.6, 16)
        correction = read_correction(SHIPPED, {**RAW, "gate": {"path_deg": [-3, 3]}}, GOLFER, seven_iron)

        def block(values, mark):
            balls = [
                {"club": "7i", "path_deg": float(v), "face_deg": 0.0, "movement": mark, "stage": "full"} for v in values
            ]
            return block_of(read_shots(balls), GOLFER, seven_iron)

        proof = prove(block(base, "unseen"), block(new, "done"), correction)
        own = own_effect(proof, correction, cause, 0.9, 1.0)
        before.append(abs(cause.effect["path_deg"] - true))
        after.append(abs(own.mean - true))
        assert seed >= 0
    assert np.mean(after) < 0.8 * np.mean(before)


def test_own_effect_follows_the_dose_and_states_its_error(knowledge, seven_iron):
    """Golfers far from the table, a fifth of the balls made partly, form between baseline and stage."""
    cause = knowledge.causes["early-extension/from-inside"]
    correction = read_correction(SHIPPED, {**RAW, "gate": {"path_deg": [-3, 3]}}, GOLFER, seven_iron)
    table, rng, words = cause.effect["path_deg"], np.random.default_rng(17), {0.0: "missed", 0.5: "partly", 1.0: "done"}

    def block(values, doses):
        rows = [{"club": "7i", "path_deg": float(v), "face_deg": 0.0, "stage": "full"} for v in values]
        marks = [{"movement": words[d], "mark_basis": "blind"} if d is not None else {} for d in doses]
        return block_of(read_shots([row | mark for row, mark in zip(rows, marks, strict=True)]), GOLFER, seven_iron)

    true, found, held = [], [], []
    for _ in range(80):
        true.append(table * float(np.exp(rng.normal(0, 0.5))))
        doses, relief = rng.choice([0.0, 0.5, 1.0], 16, p=[0.3, 0.2, 0.5]), np.clip(rng.normal(0.8, 0.2), 0.3, 1.1)
        base = rng.normal(0.9 * true[-1], 1.6, 12)
        stage = 0.9 * true[-1] * (1 - relief * doses) + rng.normal(0, 1.6, 16) + rng.normal(0, 0.5)
        proof = prove(block(base, [None] * 12), block(stage, doses), correction)
        own = own_effect(proof, correction, cause, 0.9, 1.0)
        found.append(own.mean)
        held.append(abs(own.mean - true[-1]) < 1.645 * own.sd)
    assert np.mean(held) >= 0.82
    assert np.polyfit(true, found, 1)[0] > 0.5


def test_too_few_balls_or_unknown_effects_teach_nothing(proved, knowledge):
    cause = knowledge.causes["early-extension/from-inside"]
    assert own_effect(*proved(1.0, 3), cause, 0.8, 1.0) is None
    assert own_effect(*proved(1.0), knowledge.causes["lead-knee-in"], 0.8, 1.0) is None


def test_planned_balls_reach_the_stated_power():
    """The exact permutation test on simulated sets of the planned size."""
    plan = plan_comparison(3.0, 1.8)
    assert plan.power >= 0.8
    rng, result = np.random.default_rng(11), 0
    for _ in range(150):
        new = np.array(call_order(plan.balls, rng))
        result += evaluate_proof_set(rng.normal(0, 1.8, plan.balls) + 3.0 * new, new).p <= 0.05
    assert result / 150 == pytest.approx(plan.power, abs=0.12)


def test_a_larger_effect_needs_fewer_balls_and_a_tiny_one_says_so():
    assert plan_comparison(6, 1.5).balls <= plan_comparison(3, 1.5).balls <= 20
    small = plan_comparison(0.5, 2.0)
    assert small.balls == 20
    assert small.sentence.code == "prove-even-balls-detect-difference-only"


@pytest.mark.parametrize(
    ("effect", "spread", "field"),
    [(0, 1, "effect"), (2, 0, "spread"), (math.nan, 1, "effect"), (1, math.inf, "spread")],
)
def test_invalid_plans_are_refused(effect, spread, field):
    with pytest.raises(InputError) as caught:
        plan_comparison(effect, spread)
    assert caught.value.field == field


def test_orders_are_balanced_random_and_without_long_runs():
    rng = np.random.default_rng(3)
    orders = [call_order(12, rng) for _ in range(200)]
    assert all(sum(order) == 6 for order in orders)
    assert all(len(set(order[i : i + 4])) > 1 for order in orders for i in range(9))
    assert len({tuple(o) for o in orders}) > 150
    assert np.mean([o[0] for o in orders]) == pytest.approx(0.5, abs=0.12)


@pytest.mark.parametrize("balls", [3, 7, 2, 22, 0])
def test_orders_of_a_wrong_length_are_refused(balls):
    with pytest.raises(InputError):
        call_order(balls, np.random.default_rng(1))

"""The body's limits restrict what a correction asks for, and nothing else."""

from __future__ import annotations

import numpy as np
import pytest

from instavis_core.body import bounds_of, planned_tests, read_results, within_reach
from instavis_core.cause import rank_causes
from instavis_core.choice import Student, rank_candidates
from instavis_core.errors import InputError
from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.recordings import find_moments, propose, swing_of_columns
from instavis_core.simulate.recording import record_swing

SHIPPED = shipped_knowledge()
SHORT_HIP = {"hip-turn.trail-in": "short"}


def test_every_drill_has_feels():
    assert all(drill.felt_by for drill in SHIPPED.drills.values())
    used = {row for drill in SHIPPED.drills.values() for row in drill.felt_by}
    assert used == set(vocabulary().felt)


def test_body_screen_has_five_tests_with_meaning():
    tests = planned_tests(())
    assert [t.test.id for t in tests] == ["hip-turn", "chest-turn", "squat", "balance", "hamstring-reach"]
    assert {p.id for t in tests for p in t.parts} == set(vocabulary().body_parts)
    assert all(p.windows or p.faults for p in vocabulary().body_parts.values())
    assert not any(t.left_out for t in tests)


def test_health_answer_leaves_out_its_tests():
    left_out = {t.test.id: t.left_out for t in planned_tests({"balance"}) if t.left_out}
    assert left_out == {"balance": "body-left-out"}
    assert all(t.left_out for t in planned_tests({"surgery"}))


def test_free_or_untested_parts_limit_nothing():
    assert bounds_of({}) == bounds_of(dict.fromkeys(vocabulary().body_parts, "free"))
    assert bounds_of({"of-a-later-release": "short"}) == bounds_of({})
    assert within_reach(SHIPPED, bounds_of({})) is SHIPPED


def test_limited_hip_turn_lowers_the_window():
    """A recorded turn between the usual bound and this body's is sound for this body and for no other."""
    able, bound = within_reach(SHIPPED, bounds_of(SHORT_HIP)), SHIPPED.windows["turn-short"].bound
    graded = {"usual": [], "able": []}
    for seed in range(12):
        truth = record_swing({}, np.random.default_rng(seed))
        # The same swing with the turn back cut to just short of the usual bound.
        turn = truth.columns["turn_deg"]
        columns = {**truth.columns, "turn_deg": np.where(turn < 0, turn * (bound + 4) / turn.min(), turn)}
        swing = swing_of_columns({"time_s": truth.time, **columns})
        for name, knowledge in (("usual", SHIPPED), ("able", able)):
            grades = {p.check: p.grade for p in propose(knowledge, swing, find_moments(swing))}
            graded[name].append(grades["hip-turn-back"])
    sound = SHIPPED.checks["hip-turn-back"].grades[0]
    assert graded["usual"].count(sound) <= 2
    assert graded["able"].count(sound) >= 10


def test_limited_body_lowers_the_benefit(hit):
    balls = hit("restricted-hip-turn", 9, 16)
    ranking = rank_causes(SHIPPED, balls, checks={"hip-turn-back": "arms-only"})

    def candidate(results):
        found = rank_candidates(SHIPPED, ranking, balls, student=Student(body=bounds_of(results)))
        return next(c for c in found if c.id == "restricted-hip-turn")

    free, short = candidate({}), candidate(SHORT_HIP)
    assert short.feasibility < free.feasibility
    assert short.score < free.score
    assert (short.probability, short.benefit_m) == (free.probability, free.benefit_m)
    asked = next(d for d in short.drills if "hip-turn.trail-in" in d.drill.asks)
    assert [str(label) for label in asked.short] == ["Trail hip, in"]
    assert short.drills[-1].short


def test_pain_in_a_test_leaves_out_drills_that_load_it(hit):
    balls = hit("hip-stall", 5, 14)
    ranking = rank_causes(SHIPPED, balls, checks={"pelvis-open-impact": "facing-ball"})
    body = bounds_of({"squat": "pain"})
    assert body.painful == {"knee", "hip"}
    for candidate in rank_candidates(SHIPPED, ranking, balls, student=Student(body=body)):
        assert not any({"knee", "hip"} & set(d.drill.regions) for d in candidate.drills)


def test_body_chooses_a_school_only_without_a_coachs_choice(hit):
    balls = hit("early-extension/from-inside", 4, 16)
    ranking = rank_causes(SHIPPED, balls, checks={"seat-line": "leaves-early"})
    body = bounds_of({"squat": "short"})
    assert body.schools == {"height": "tall"}

    def schools(**sides):
        found = rank_candidates(SHIPPED, ranking, balls, sides, Student(body=body))[0]
        return {d.drill.school for d in found.drills if d.follows_school}

    assert "height:sit" not in schools()
    assert "height:sit" in schools(height="sit")


def test_limited_balance_keeps_eyes_open(hit):
    balls = hit("hip-stall", 5, 14)
    ranking = rank_causes(SHIPPED, balls, checks={"pelvis-open-impact": "facing-ball"})

    def felt_ids(**student):
        found = rank_candidates(SHIPPED, ranking, balls, student=Student(**student))
        return {row.id for c in found for d in c.drills for row in d.felt_by}

    assert "eyes-closed" in felt_ids()
    without = felt_ids() - {"eyes-closed"}
    assert felt_ids(health=frozenset({"balance"})) == without
    assert felt_ids(body=bounds_of({"balance.lead": "short"})) == without


@pytest.mark.parametrize(
    ("raw", "field"),
    [
        ({"hip": "short"}, "results.hip"),
        ({"squat": "deep"}, "results.squat"),
        ({"squat": 3}, "results.squat"),
        (["squat"], "results"),
    ],
)
def test_unknown_parts_and_grades_are_refused_by_name(raw, field):
    with pytest.raises(InputError) as caught:
        read_results(raw)
    assert caught.value.field == field

"""The ranking finds the right cause where there is evidence, and stays open where there is none."""

from __future__ import annotations

import itertools
from dataclasses import replace
from datetime import UTC, datetime
from functools import partial

import numpy as np
import pytest
from validation.cause import PRACTISED
from validation.outside import strangers

from instavis_core.cause import (
    USUAL_EYE,
    Eye,
    Intake,
    Record,
    calibrated_eye,
    engine,
    rank_causes,
    read_checks,
    read_eye,
    read_intake,
)
from instavis_core.cause.calibration import calibrated, coherent
from instavis_core.cause.hypotheses import build_hypotheses
from instavis_core.errors import InputError
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.shots import block_of, read_shots
from instavis_core.simulate import draw_golfer, simulate_shots

SHIPPED = shipped_knowledge()
START = datetime(2026, 5, 4, 9, tzinfo=UTC)


def place(ranking, fault):
    return [f.id for f in ranking.faults].index(fault)


def test_every_fault_is_listed_once_and_sorted(hit, knowledge):
    ranking = rank_causes(SHIPPED, hit("hip-stall", 5))
    ids = [f.id for f in ranking.faults]
    assert sorted(ids) == sorted({c.id for c in knowledge.of_kind("fault")})
    probabilities = [f.probability for f in ranking.faults]
    assert probabilities == sorted(probabilities, reverse=True)
    assert all(0 <= p <= 1 for p in probabilities)


@pytest.mark.parametrize(
    ("fault", "check", "grade"),
    [
        ("early-extension/from-inside", "seat-line", "leaves-early"),
        ("upper-body-first", "first-mover", "shoulders-arms"),
        ("hip-stall", "pelvis-open-impact", "facing-ball"),
        ("hang-back", "finish-balance", "trail-side"),
        ("lateral-slide", "pelvis-lateral-impact", "past-lead-foot"),
    ],
)
def test_numbers_and_one_check_name_the_fault(hit, fault, check, grade):
    name = fault.split("/")[0]
    first = 0
    for seed in range(6):
        ranking = rank_causes(SHIPPED, hit(fault, seed, 20, "left" if seed % 2 else "right"), checks={check: grade})
        first += place(ranking, name) == 0
    assert first >= 5


def test_two_faults_are_ranked_correctly(hit):
    thrust, over = (
        rank_causes(SHIPPED, hit("early-extension", 7, 30)),
        rank_causes(SHIPPED, hit("upper-body-first", 7, 30)),
    )
    assert thrust.faults[0].id == "early-extension"
    assert over.faults[0].id == "upper-body-first"


def test_no_fault_names_nothing(hit):
    sure = [rank_causes(SHIPPED, hit(None, 100 + seed)).faults[0].probability for seed in range(20)]
    assert np.mean([p >= 0.7 for p in sure]) == 0


def test_ranking_without_evidence_is_flat(hit, seven_iron):
    ranking = rank_causes(SHIPPED, block_of([], Golfer(), seven_iron))
    assert ranking.faults[0].probability < 0.2
    assert not ranking.enough
    assert ranking.notes


def test_strike_alone_names_no_pivot_fault(hit):
    for seed in range(5):
        ranking = rank_causes(SHIPPED, hit(None, seed, 14, toe_mm=20.0))
        assert ranking.compensations[0].id == "strike-only"
        assert ranking.faults[0].probability < 0.4


def test_aim_alone_names_no_pivot_fault(hit):
    ranking = rank_causes(SHIPPED, hit(None, 4, 14, aim_deg=6.0))
    assert next(c for c in ranking.compensations if c.id == "aim-shift").probability > 0.3
    assert ranking.faults[0].probability < 0.7


def test_check_against_a_fault_lowers_it(hit):
    balls = hit("early-extension/from-inside", 9, 20)
    plain, against = rank_causes(SHIPPED, balls), rank_causes(SHIPPED, balls, checks={"seat-line": "on-line"})
    before, after = (next(f for f in r.faults if f.id == "early-extension") for r in (plain, against))
    assert after.probability < before.probability
    assert next(e for e in after.evidence if e.id == "seat-line").log_odds < 0


def test_evidence_is_the_change_when_left_out(hit):
    balls = hit("upper-body-first", 2, 20)
    checks = {"first-mover": "shoulders-arms", "seat-line": "on-line"}
    full = rank_causes(SHIPPED, balls, checks=checks).faults[0]
    without = rank_causes(SHIPPED, balls, checks={"seat-line": "on-line"})
    p0 = next(f for f in without.faults if f.id == full.id).probability
    result = next(e for e in full.evidence if e.id == "first-mover").log_odds
    logit = np.log(full.probability / (1 - full.probability)) - np.log(p0 / (1 - p0))
    assert result == pytest.approx(logit, abs=0.1)  # rivals share what they have after this is told


def test_check_gain_is_the_expected_entropy_drop(hit):
    balls = hit("hip-stall", 3, 15)
    ranking = rank_causes(SHIPPED, balls)
    assert all(c.gain_bits >= 0 for c in ranking.next_checks)
    assert "seat-line" not in [c.id for c in rank_causes(SHIPPED, balls, checks={"seat-line": "on-line"}).next_checks]


def test_intake_sides_are_seen_from_behind_the_ball(hit, seven_iron):
    empty = {hand: block_of([], Golfer(hand, 12.0), seven_iron) for hand in ("right", "left")}
    slicer = {"right": Intake(start="left", curve="right"), "left": Intake(start="right", curve="left")}
    one, other = (rank_causes(SHIPPED, empty[hand], slicer[hand]) for hand in ("right", "left"))
    assert [f.id for f in one.faults] == [f.id for f in other.faults]
    assert place(one, "spin-out") < place(
        rank_causes(SHIPPED, empty["right"], Intake(start="right", curve="left")), "spin-out"
    )


def test_a_failed_correction_lowers_its_fault_and_raises_a_rival(hit):
    balls = hit("restricted-hip-turn", 1, 15)
    plain = rank_causes(SHIPPED, balls, checks={"first-mover": "shoulders-arms"})
    after = rank_causes(SHIPPED, balls, checks={"first-mover": "shoulders-arms"}, tried={"upper-body-first": -2.0})
    p = {f.id: f.probability for f in plain.faults}
    q = {f.id: f.probability for f in after.faults}
    assert q["upper-body-first"] < p["upper-body-first"]
    assert q["restricted-hip-turn"] > p["restricted-hip-turn"]


def test_upstream_pairs_are_likelier_together():
    space = build_hypotheses(SHIPPED)
    pairs = {
        tuple(sorted(space.causes[i].id for i in np.flatnonzero(row))): r for r, row in enumerate(space.membership)
    }
    linked, separate = pairs["early-release", "hip-stall"], pairs["early-release", "sitting-back"]
    assert space.log_chain[linked] > 0 == space.log_chain[separate]


def test_variants_exclude_each_other():
    space = build_hypotheses(SHIPPED)
    ids = [[space.causes[i].id for i in np.flatnonzero(row)] for row in space.membership]
    assert all(len(set(row)) == len(row) for row in ids)


@pytest.mark.parametrize(
    ("read", "raw", "field"),
    [
        (partial(read_checks, SHIPPED), {"seat-lines": "on-line"}, "checks.seat-lines"),
        (partial(read_checks, SHIPPED), {"seat-line": "sideways"}, "checks.seat-line"),
        (partial(read_checks, SHIPPED), ["seat-line"], "checks"),
        (partial(read_eye, SHIPPED.checks), {"seat-lines": 0.1}, "eye.seat-lines"),
        (partial(read_eye, SHIPPED.checks), {"seat-line": 1.0}, "eye.seat-line"),
        (partial(read_eye, SHIPPED.checks), {"seat-line": "half"}, "eye.seat-line"),
        (partial(read_eye, SHIPPED.checks), [0.1], "eye"),
        (read_intake, {"start": "up"}, "intake.start"),
        (read_intake, {"contact": ["thick"]}, "intake.contact"),
        (read_intake, {"feels": "stuck"}, "intake.feels"),
    ],
)
def test_unknown_words_are_refused_by_name(read, raw, field):
    with pytest.raises(InputError) as caught:
        read(raw)
    assert caught.value.field == field


def test_not_seen_is_no_evidence(hit):
    assert read_checks(SHIPPED, {"seat-line": "not-seen"}) == {}


def test_most_faults_are_found_from_twelve_balls_and_suggested_checks(hit, knowledge):
    """Golfers whose effects, tails and offsets are not the engine's; an eye that errs one time in five."""
    faults = [c.key for c in knowledge.of_kind("fault")]
    rng = np.random.default_rng(17)
    first_two = 0
    for seed, fault in zip(itertools.count(500), faults, strict=False):
        balls, checks = hit(fault, seed, 12), {}
        for _ in range(6):
            check = knowledge.checks[rank_causes(SHIPPED, balls, checks=checks).next_checks[0].id]
            checks[check.id] = answer_of(check, fault.split("/")[0], rng)
        first_two += place(rank_causes(SHIPPED, balls, checks=checks), fault.split("/")[0]) < 2
    assert first_two >= 0.6 * len(faults)


def answer_of(check, fault, rng):
    best = max(check.grades, key=lambda g: check.speaks.get(g, {}).get(fault, 0))
    chance = {2: 0.8, 1: 0.5}.get(check.speaks.get(best, {}).get(fault, 0), 0.0)
    return best if rng.random() < chance else check.grades[0]


@pytest.mark.parametrize(("balls", "checks"), [(0, 0), (0, 6), (12, 0), (12, 6), (30, 12)])
def test_negligible_combinations_change_no_advice(monkeypatch, balls, checks):
    """Looks, links and the leader's rival as if every combination had been weighed."""
    block, grades = _lesson(balls, checks)
    quick = rank_causes(SHIPPED, block, checks=grades)
    monkeypatch.setattr(engine, "TOO_LIGHT", -1.0)
    exact = rank_causes(SHIPPED, block, checks=grades)
    assert [c.id for c in quick.next_checks[:6]] == [c.id for c in exact.next_checks[:6]]
    gains = [abs(a.gain_bits - b.gain_bits) for a, b in zip(quick.next_checks, exact.next_checks, strict=True)]
    assert max(gains, default=0.0) < 0.005
    assert quick.chain == exact.chain
    assert (quick.would_change and quick.would_change.check) == (exact.would_change and exact.would_change.check)


def _lesson(balls: int, answered: int):
    golfer, club = Golfer("right", 12.0), vocabulary().clubs["7i"]
    rng = np.random.default_rng(14)
    sim = draw_golfer(rng, {"hip-stall": 0.9}, golfer, club)
    records = simulate_shots(sim, club, balls, rng, START) if balls else []
    checks = list(shipped_knowledge().checks.values())[:answered]
    return block_of(read_shots(records) if records else [], golfer, club), {c.id: c.grades[0] for c in checks}


def test_rivals_are_not_both_called_likely_and_companions_are_left_alone():
    """Two at even chances that exclude each other can have one between them; two that do not keep what they have."""
    text = calibrated(np.array([0.5, 0.5]), checks=12)
    assert text.sum() > 1.2
    separate = coherent(text, np.array([[0.5, 0.0], [0.0, 0.5]]), checks=12)
    assert separate.sum() == pytest.approx(1.0, abs=1e-6)
    assert separate[0] == pytest.approx(separate[1])
    assert coherent(text, np.array([[0.5, 0.25], [0.25, 0.5]]), checks=12) == pytest.approx(text)


def test_numbers_and_checks_have_separate_probabilities(hit):
    balls = hit("upper-body-first", 2, 20)
    grades = {"first-mover": "shoulders-arms"}
    both = rank_causes(SHIPPED, balls, checks=grades).faults
    numbers = {f.id: f.probability for f in rank_causes(SHIPPED, balls).faults}
    alone = {f.id: f.probability for f in rank_causes(SHIPPED, balls.keep(np.zeros(20, bool)), checks=grades).faults}
    for row in both[:5]:
        assert row.numbers_alone == pytest.approx(numbers[row.id], abs=0.02)
        assert row.looks_alone == pytest.approx(alone[row.id], abs=0.02)
    assert all(f.looks_alone is None for f in rank_causes(SHIPPED, balls).faults)


def test_decisive_check_is_named(hit):
    balls = hit("upper-body-first", 2, 6)
    one = rank_causes(SHIPPED, balls, checks={"first-mover": "shoulders-arms"})
    assert one.faults[0].probability >= 0.7
    assert any(note.code == "cause-one-check-decides-see-twice" for note in one.notes)
    assert not any(note.code == "cause-one-check-decides-see-twice" for note in rank_causes(SHIPPED, balls).notes)


def test_check_weight_follows_the_coachs_accuracy(hit):
    balls, answers = hit("upper-body-first", 21, 12), {"first-mover": "shoulders-arms"}

    def believed(error: float) -> float:
        ranking = rank_causes(SHIPPED, balls, checks=answers, eye=Eye(says_nothing={"first-mover": error}))
        return next(f.probability for f in ranking.faults if f.id == "upper-body-first")

    steps = [believed(error) for error in (0.0, 0.05, 0.3, 0.6, 0.95)]
    assert steps == sorted(steps, reverse=True)
    blind = rank_causes(SHIPPED, balls).faults
    assert steps[-1] == pytest.approx(next(f.probability for f in blind if f.id == "upper-body-first"), abs=0.05)
    assert believed(0.05) == rank_causes(SHIPPED, balls, checks=answers).faults[0].probability


def test_answer_given_after_the_ranking_was_seen_counts_less(hit):
    balls, answers = hit("upper-body-first", 21, 12), {"first-mover": "shoulders-arms"}
    leaning = USUAL_EYE.after_ranking(answers)
    blind = rank_causes(SHIPPED, balls, checks=answers).faults[0]
    after = next(f for f in rank_causes(SHIPPED, balls, checks=answers, eye=leaning).faults if f.id == blind.id)
    assert rank_causes(SHIPPED, balls).faults[0].id == blind.id
    assert 0.02 < blind.probability - after.probability < 0.3


def test_probability_is_more_careful_before_the_first_check():
    stated = [float(calibrated(np.array([0.85]), checks)[0]) for checks in (0, 3, 6, 12)]
    assert stated == sorted(stated)
    assert stated[-1] - stated[0] > 0.03
    assert calibrated(np.array([0.2]), 0) == calibrated(np.array([0.2]), 12)


def test_inaccurate_checks_are_suggested_less(hit):
    balls = hit("upper-body-first", 21, 12)
    usual = {c.id: c.gain_bits for c in rank_causes(SHIPPED, balls).next_checks}
    blurred = {
        c.id: c.gain_bits for c in rank_causes(SHIPPED, balls, eye=Eye(says_nothing={"first-mover": 0.8})).next_checks
    }
    assert blurred["first-mover"] < 0.5 * usual["first-mover"]
    assert blurred["seat-line"] == pytest.approx(usual["seat-line"])


def test_several_clubs_are_combined_for_one_golfer():
    """A fault shown by all clubs is held more surely than one that only the first club shows."""
    clubs = vocabulary().clubs

    def with_club(club: str, fault: str | None, count: int = 10):
        golfer = Golfer("right", 12.0)
        sim = draw_golfer(np.random.default_rng(5), {fault: 0.9} if fault else {}, golfer, clubs[club])
        rng = np.random.default_rng([8, *club.encode()])
        return block_of(read_shots(simulate_shots(sim, clubs[club], count, rng, START)), golfer, clubs[club])

    def held(*blocks) -> float:
        ranking = rank_causes(SHIPPED, blocks[0], others=blocks[1:])
        return next(f.probability for f in ranking.faults if f.id == "upper-body-first")

    fault = "upper-body-first"
    iron = with_club("7i", fault)
    alone, agreed = held(iron), held(iron, with_club("D", fault), with_club("PW", fault))
    denied = held(iron, with_club("D", None), with_club("PW", None))
    assert denied < alone < agreed
    assert held(iron, with_club("D", fault, 1).keep(np.zeros(1, bool))) == alone
    result = rank_causes(SHIPPED, iron, others=[with_club("D", fault)])
    assert result.clean_balls > rank_causes(SHIPPED, iron).clean_balls
    assert any("combined" in note for note in map(str, result.notes))


def test_pattern_without_a_fault_is_unknown():
    """An open, deeply delofted, toeward strike that no row of the tables makes."""
    club, golfer = vocabulary().clubs["7i"], Golfer("right", 12.0)
    sim = draw_golfer(np.random.default_rng(3), {}, golfer, club)
    sim.offset = sim.offset + np.array([3.0, 6.0, 4.0, -5.0, 8.0, 5.0, 0.0, 0.0])
    rng = np.random.default_rng(4)
    ranking = rank_causes(SHIPPED, block_of(read_shots(simulate_shots(sim, club, 14, rng, START)), golfer, club))
    assert ranking.compensations[0].id == "unknown"
    assert ranking.compensations[0].probability > ranking.faults[0].probability


def test_reversed_sign_is_reported(hit):
    balls = hit("upper-body-first", 3, 16)
    assert not rank_causes(SHIPPED, balls).signs_in_doubt
    columns = {**balls.columns, "path_deg": -balls.columns["path_deg"]}
    ranking = rank_causes(SHIPPED, replace(balls, columns=columns))
    assert ranking.signs_in_doubt
    assert any("its-sign" in note.code or "disagrees" in note.code for note in ranking.notes)


def test_pattern_outside_the_tables_is_rarely_very_likely():
    """Arm patterns that no row makes, looks graded sound: the unknown cause takes them."""
    some = strangers(PRACTISED, False, 16)
    wrong = [rankings[6].faults[0].probability >= 0.9 for rankings in some]
    assert np.mean(wrong) <= 0.09
    unknown = [next(c.probability for c in rankings[0].compensations if c.id == "unknown") for rankings in some]
    assert np.mean(unknown) > SHIPPED.cause("unknown").prior


def test_checks_help_more_than_balls_once_balls_are_known(hit):
    """The more balls there are, the less eighteen more would say; without balls or looks nothing is compared."""

    def compared(balls, checks=None):
        notes = [n.values.get("telling", n) for n in rank_causes(SHIPPED, balls, checks=checks).notes]
        return {n.code: n.values for n in notes}.get("cause-two-checks-help-more-balls")

    assert compared(hit("hip-stall", 5, 30))["balls"] == 18
    empty = block_of([], Golfer(), vocabulary().clubs["7i"])
    assert compared(empty) is None
    every = {c.id: c.grades[0] for c in SHIPPED.checks.values()}
    assert compared(hit("hip-stall", 5), checks=every) is None


def test_eye_is_calibrated_by_comparisons():
    def share(same: int, both: int, grades: int = 3) -> float:
        return calibrated_eye({"seat-line": Record(same=same, both=both, grades=grades)}).says_nothing["seat-line"]

    assert share(0, 0) == pytest.approx(0.05, abs=0.01)  # nothing known: the usual eye
    assert share(20, 20) < share(0, 0) < share(14, 20) < share(7, 20)
    assert share(3, 20) > 0.5
    assert share(1, 2) < share(10, 20)  # little is drawn toward what is usual
    assert calibrated_eye({}).says_nothing == {}

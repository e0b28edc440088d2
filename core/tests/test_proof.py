"""Verdicts, running change and status; error rates are simulated."""

from __future__ import annotations

import time
from concurrent.futures import ThreadPoolExecutor

import numpy as np
import pytest
from scipy import stats

from instavis_core.errors import InputError
from instavis_core.golfer import Golfer
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.proof import RunningChange, baseline, evaluate_proof_set, prove, read_correction
from instavis_core.proof.claim import BAR
from instavis_core.shots import block_of, read_shots

SHIPPED = shipped_knowledge()

MAX_BALLS = 60
CORRECTION = {
    "fault": "early-extension",
    "primary": "path_deg",
    "direction": "decrease",
    "gate": {"path_deg": [-1, 3]},
    "guards": {"strike_toe_mm": [-12, 12]},
}


@pytest.fixture
def proved(seven_iron, records):
    """proved(centre, marks, n, …) proves balls against a baseline with a path of 5°.

    A missed ball has the path ``without``, or the others' where none is given; marks are blind unless told.
    """

    def make(
        centre,
        marks,
        n=14,
        hand="right",
        sd=1.0,
        stage="full",
        correction=CORRECTION,
        without=None,
        basis="blind",
        **more,
    ):
        golfer = Golfer(hand, 12.0)
        side = golfer.side
        base = records(12, seed=3, path_deg=5.0, face_deg=2.0)
        balls = records(n, seed=4, sd=sd, **{"path_deg": centre, "face_deg": 1.0, **more})
        for i, ball in enumerate(balls):
            mark = marks[i % len(marks)]
            ball |= {"stage": stage, **({"intent": mark} if mark in ("old", "new") else {"movement": mark})}
            ball |= {"mark_basis": basis} if basis else {}
            ball["path_deg"] += without - centre if without is not None and mark in ("missed", "old") else 0.0
        for ball in base + balls:
            ball["path_deg"] *= side
            ball["face_deg"] *= side
        checked = read_correction(SHIPPED, correction, golfer, seven_iron)
        return prove(
            block_of(read_shots(base), golfer, seven_iron), block_of(read_shots(balls), golfer, seven_iron), checked
        )

    return make


@pytest.mark.parametrize(
    ("centre", "mark", "verdict"),
    [
        (1.0, "done", "linked"),
        (1.0, "partly", "linked"),
        (8.0, "done", "moved-no-change"),
        (1.0, "missed", "changed-without-move"),
        (8.0, "missed", "neither"),
        (1.0, "unseen", "unclear"),
    ],
)
def test_two_questions_give_four_verdicts(proved, centre, mark, verdict):
    proof = proved(centre, [mark], 6, sd=0.2)
    assert {v.verdict for v in proof.verdicts} == {verdict}
    assert all(v.reasons for v in proof.verdicts)


@pytest.mark.parametrize("hand", ["right", "left"])
def test_verdict_states_value_direction_and_gate_side(proved, hand):
    inside, outside = proved(1.0, ["done"], 5, hand, sd=0.0), proved(8.0, ["done"], 5, hand, sd=0.0)
    for proof, value, place in ((inside, 1.0, "prove-inside"), (outside, 8.0, "prove-outside")):
        gate = next(r.values for r in proof.verdicts[0].reasons if r.code == "prove-gate")
        shown = gate["text"].values["text"].values
        assert (shown["size"], shown["side"], gate["where"]) == (value, "in-to-out", place)


@pytest.mark.parametrize(
    ("old", "new"),
    [("ball", "ball"), ("ball", "all"), ("all", "ball")],
)
def test_unmeasured_proof_number_is_marked_inferred(hit, seven_iron, old, new):
    correction = read_correction(SHIPPED, CORRECTION | {"guards": {}}, Golfer("right", 12.0), seven_iron)
    base = hit("early-extension", 5, 12, columns=old)
    proof = prove(base, hit(None, 6, 8, columns=new, movements=["done"] * 8), correction)
    judged = [v for v in proof.verdicts if v.answered is not None]
    assert judged
    (note,) = (n.values for n in proof.notes if "inferred" in n)
    assert (note["inferred"] == 0, note["new"] == 0) == (old == "all", new == "all")
    assert (note["new"], note["counted"]) == (len(judged) if new == "ball" else 0, len(judged))
    marked = ["prove-about-inferred" in repr(v.reasons) for v in judged]
    assert marked == [new == "ball"] * len(judged)


def test_measured_number_is_not_called_inferred(proved):
    proof = proved(1.0, ["done"], 10)
    assert "inferred" not in repr([*proof.notes, *(r for v in proof.verdicts for r in v.reasons)])


def test_violated_limit_is_not_a_response(proved):
    proof = proved(1.0, ["done"], 5, sd=0.2, strike_toe_mm=-18.0)
    assert {v.verdict for v in proof.verdicts} == {"moved-no-change"}
    assert "prove-outside-limit" in proof.verdicts[0].reasons


def test_a_real_change_with_the_movement_is_verified(proved):
    proof = proved(1.0, ["done", "done", "missed"], without=5.0)
    assert proof.status == "verified"
    assert 6 <= proof.verified_at <= 14
    assert proof.change.low < proof.change.estimate < proof.change.high < 0
    assert proof.link.tested
    assert (proof.link.estimate, proof.link.unit) == (proof.change.estimate, "°")
    assert proof.in_gate.balls == 14


def test_left_handers_are_proved_in_their_own_frame(proved):
    one, other = (proved(1.0, ["done", "missed"], hand=hand, without=5.0) for hand in ("right", "left"))
    assert [v.verdict for v in one.verdicts] == [v.verdict for v in other.verdicts]
    assert one.change.estimate == pytest.approx(other.change.estimate)
    assert one.status == other.status


def test_a_change_without_the_movement_is_a_compensation(proved):
    proof = proved(1.0, ["missed"])
    assert proof.status == "compensated"
    assert "without-move" in [a.id for a in proof.alarms]
    assert proof.advice.stage != "up"


def test_change_on_every_ball_is_supported_until_calls(proved):
    """All balls carry the change and the movement: what did it cannot be told, and four old and four new can tell."""
    untested = proved(1.0, ["done"])
    assert (untested.status, untested.call_balls, untested.link.tested) == ("supported", True, False)
    assert untested.reason.code == "prove-changed-whether-move-did-not"
    called = proved(1.0, [*["done"] * 10, *["old", "new"] * 4], 18, without=5.0)
    assert (called.status, called.call_balls, called.link.tested) == ("verified", False, True)
    assert called.verified_at > 10
    assert called.in_gate.balls == 14  # the old ones are no part of the change


def test_unchanged_called_balls_rule_out_the_movement(proved):
    """The number stays where it is with the old move as well: the change did not come with the movement."""
    proof = proved(1.0, [*["done"] * 10, *["old", "new"] * 10], 30)
    assert proof.status == "compensated"
    assert proof.reason.code == "prove-number-changed-but-not-move"


def test_path_and_face_together_raise_the_aim_alarm(proved):
    proof = proved(1.0, ["done"], face_deg=-2.0)
    assert "aim-shift" in [a.id for a in proof.alarms]
    assert proof.status == "compensated"


def test_easier_swings_raise_an_alarm(proved):
    assert "swing-easier" in [a.id for a in proved(1.0, ["done"], club_speed_mps=28.0).alarms]


def test_balls_beyond_the_gate_are_overcorrected(proved):
    proof = proved(-4.0, ["done"])
    assert proof.status == "overcorrected"


def test_a_movement_that_changes_nothing_is_not_supported(proved):
    proof = proved(5.0, ["done", "done", "missed"], 30)
    assert proof.status == "not-supported"
    assert proof.verified_at is None


def test_baseline_cache_is_thread_safe(hit, seven_iron, monkeypatch):
    """Lessons that prove at the same moment make room for one another without losing what is being read."""

    class Slow(dict):
        """Gives way to the others right after it was written to."""

        def __setitem__(self, key, value):
            super().__setitem__(key, value)
            time.sleep(0.001)

    monkeypatch.setattr(baseline, "MAX_REMEMBERED", 1)
    monkeypatch.setattr(baseline, "_remembered", Slow())
    correction = read_correction(SHIPPED, CORRECTION, Golfer(), seven_iron)
    blocks = [hit("early-extension/from-inside", seed, 8) for seed in range(4)]
    result = {id(block): baseline._read(block, correction, frozenset()) for block in blocks}
    monkeypatch.setattr(baseline, "_read", lambda block, *_: result[id(block)])
    with ThreadPoolExecutor(8) as pool:
        asked = [pool.submit(baseline.baseline_of, blocks[i % 4], correction) for i in range(400)]
        assert all(future.result() is result[id(blocks[i % 4])] for i, future in enumerate(asked))


def test_two_balls_of_baseline_verify_nothing(seven_iron, records):
    golfer = Golfer()
    base = block_of(read_shots(records(2, path_deg=5.0)), golfer, seven_iron)
    balls = [{**b, "movement": "done"} for b in records(20, seed=2, path_deg=0.0)]
    proof = prove(
        base, block_of(read_shots(balls), golfer, seven_iron), read_correction(SHIPPED, CORRECTION, golfer, seven_iron)
    )
    assert proof.status in ("not-yet", "supported")
    assert proof.change.low is None
    assert proof.notes


def test_other_stages_do_not_count_and_old_calls_do(seven_iron, records):
    golfer = Golfer()
    base = block_of(read_shots(records(12, path_deg=5.0)), golfer, seven_iron)
    balls = [{**b, "movement": "done", "stage": "half"} for b in records(6, seed=2, path_deg=0.0)]
    balls += [{**b, "movement": "done", "stage": "full"} for b in records(3, seed=3, path_deg=5.0)]
    balls += [{**b, "movement": "done", "stage": "full", "intent": "old"} for b in records(4, seed=5, path_deg=9.0)]
    proof = prove(
        base, block_of(read_shots(balls), golfer, seven_iron), read_correction(SHIPPED, CORRECTION, golfer, seven_iron)
    )
    assert len(proof.verdicts) == 13
    assert proof.change.balls == 7
    assert proof.in_gate.balls == 3
    assert proof.stage == "full"


def test_ladder_goes_up_down_and_holds(proved):
    half = {"sd": 0.3, "stage": "half", "club_speed_mps": 24.0}
    assert proved(1.0, ["done"], 10, **half).advice.stage == "up"
    assert proved(8.0, ["done"], 6, **half).advice.stage == "down"
    assert proved(1.0, ["done"], 3, **half).advice.stage == "hold"
    assert proved(1.0, ["done"], 3, stage="feel").advice.stage == "hold"


@pytest.mark.parametrize(("stage", "fits", "too_fast"), [("chip", 14.0, 24.0), ("half", 24.0, 36.0)])
def test_balls_faster_than_their_stage_do_not_count(proved, stage, fits, too_fast):
    balls = {"sd": 0.3, "stage": stage}
    counted = proved(1.0, ["done"], 10, club_speed_mps=fits, **balls)
    assert counted.advice.hits > 0
    assert counted.change.balls == 10
    fast = proved(1.0, ["done"], 10, club_speed_mps=too_fast, **balls)
    assert {v.excluded_by for v in fast.verdicts} == {"stage-speed"}
    assert (fast.advice.hits, fast.change.balls, fast.in_gate.balls) == (0, 0, 0)
    assert fast.advice.stage == "hold"
    assert "too-fast-stage" in repr(fast.verdicts[0].reasons[0])


def test_short_baseline_does_not_define_full_speed(seven_iron, records):
    golfer = Golfer("right", 12.0)
    rows = records(12, seed=3, path_deg=5.0), records(8, seed=4, path_deg=1.0)
    for row in [*rows[0], *rows[1]]:
        row |= {"stage": "half", "movement": "done", "mark_basis": "blind"}
    blocks = [block_of(read_shots(balls), golfer, seven_iron) for balls in rows]
    proof = prove(*blocks, read_correction(SHIPPED, CORRECTION, golfer, seven_iron), stage="half")
    assert {v.excluded_by for v in proof.verdicts} == {None}


# --- error control -------------------------------------------------------------------------------


def draw(rng, n, skewed):
    """Standardised balls: normal, or skewed with one ball in twenty a wild one."""
    if not skewed:
        return rng.normal(size=n)
    values = (rng.gamma(4, size=n) - 4) / 2
    wild = rng.random(n) < 0.05
    values[wild] += rng.normal(0, 4, wild.sum())
    return values


def followed(rng, change, baseline=12, skewed=False, balls=MAX_BALLS, form=0.0):
    """The evidence after every ball that a stage moved by ``change`` spreads, to the negative side."""
    running = RunningChange(draw(rng, baseline, skewed))
    stage = draw(rng, balls, skewed) - change + rng.normal(0, form or 1e-9)
    return running.follow(stage, (np.ones(balls), form)).of(0)


@pytest.mark.parametrize(("skewed", "form"), [(False, 0.0), (True, 0.0), (False, 0.35)])
def test_false_claims_are_at_most_one_in_twenty_lessons(skewed, form):
    rng = np.random.default_rng(21)
    assert np.mean([followed(rng, 0.0, skewed=skewed, form=form).evidence(-1).max() >= BAR for _ in range(500)]) <= 0.05


@pytest.mark.parametrize(("change", "within"), [(1.5, 14), (2.5, 9)])
def test_true_changes_are_found_in_time(change, within):
    rng = np.random.default_rng(22)
    found = [followed(rng, change, skewed=True).evidence(-1) >= BAR for _ in range(200)]
    assert np.median([int(np.argmax(f)) + 1 if f.any() else 99 for f in found]) <= within


@pytest.mark.parametrize("made", [1.0, 0.6])
def test_slope_interval_covers_at_all_balls_together(made):
    rng, broken = np.random.default_rng(23), 0
    for _ in range(300):
        doses = (rng.random(40) < made).astype(float)
        running = RunningChange(rng.normal(size=12))
        link = running.follow(rng.normal(size=40) - doses + rng.normal(0, 0.35), (doses, 0.35)).of(0)
        broken += bool((np.abs(link.estimate + 1.0) > link.half_width(0.95))[link.known].any())
    assert broken / 300 <= 0.05


def test_e_value_equals_the_likelihood_ratio():
    """Against a numerical integral over the half-normal prior of the non-central t likelihoods."""
    rng = np.random.default_rng(1)
    base, balls = rng.normal(size=4), rng.normal(-1.2, 1, 3)
    m, n = 4, 3
    balance, freedom = m * n / (m + n), m + n - 2
    pooled = np.sqrt(((m - 1) * base.var(ddof=1) + (n - 1) * balls.var(ddof=1)) / freedom)
    t = -(balls.mean() - base.mean()) / pooled * np.sqrt(balance)
    grid = np.linspace(0, 12, 4001)
    prior = 2 * stats.norm.pdf(grid, 0, np.sqrt(2.0))
    ratio = stats.nct.pdf(t, freedom, grid * np.sqrt(balance)) / stats.t.pdf(t, freedom)
    shift = RunningChange(base).follow(balls, (np.ones(n), 0.0)).of(0)
    assert shift.evidence(-1)[-1] == pytest.approx(np.trapezoid(prior * ratio, grid), rel=1e-3)


@pytest.mark.parametrize("form", [0.0, 0.35, 2.0])
def test_slope_equals_generalized_least_squares(form):
    """Against the textbook formula with the whole covariance matrix, after every ball."""
    rng = np.random.default_rng(2)
    base, stage = rng.normal(size=4), rng.normal(size=4)
    doses = np.array([1.0, 0.0, 0.5, 1.0])
    link = RunningChange(base).follow(stage, (doses, form)).of(0)
    for k in (2, 3, 4):
        y = np.append(base, stage[:k])
        design = np.column_stack([np.ones(4 + k), np.append(np.zeros(4), doses[:k])])
        s = np.append(np.zeros(4), np.ones(k))
        weight = np.linalg.inv(np.eye(4 + k) + form**2 * np.outer(s, s))
        covariance = np.linalg.inv(design.T @ weight @ design)
        estimate = covariance @ design.T @ weight @ y
        rest = y - design @ estimate
        spread = np.sqrt(rest @ weight @ rest / (2 + k))
        assert link.estimate[k - 1] == pytest.approx(estimate[1])
        assert link.t[k - 1] == pytest.approx(estimate[1] / (spread * np.sqrt(covariance[1, 1])))


def test_stage_alone_equals_ordinary_least_squares():
    rng = np.random.default_rng(3)
    stage, doses = rng.uniform(size=12), rng.choice([0.0, 0.5, 1.0], 12)
    within = RunningChange(rng.normal(7, 1, 9)).follow(stage, (doses, np.inf)).of(0)
    fit = stats.linregress(doses, stage)
    assert within.estimate[-1] == pytest.approx(fit.slope)
    assert within.t[-1] == pytest.approx(fit.slope / fit.stderr)


def test_long_stage_in_chunks_equals_one_pass():
    rng = np.random.default_rng(4)
    stage, doses = rng.normal(size=150), rng.choice([0.0, 1.0], 150)
    running = RunningChange(rng.normal(size=12))
    longer, start = running.follow(stage, (doses, 0.35)), running.follow(stage[:100], (doses[:100], 0.35))
    assert longer.evidence(-1)[0, :100] == pytest.approx(start.evidence(-1)[0])
    step_by_step = [running.follow(stage[:k], (doses[:k], 0.35)) for k in range(1, 151)][-1]
    assert step_by_step.evidence(-1) == pytest.approx(longer.evidence(-1))


# --- proof sets ----------------------------------------------------------------------------------


def test_permutation_p_is_exact_and_agrees_with_another_implementation():
    rng = np.random.default_rng(9)
    old, new = rng.normal(5, 1, 6), rng.normal(3, 1, 7)
    result = evaluate_proof_set(np.append(old, new), np.repeat([False, True], [6, 7]))
    other = stats.permutation_test(
        (new, old),
        lambda a, b, axis: np.abs(a.mean(axis) - b.mean(axis)),
        permutation_type="independent",
        alternative="greater",
        n_resamples=np.inf,
    )
    assert result.p == pytest.approx(other.pvalue)
    assert result.effect == pytest.approx(new.mean() - old.mean())
    assert result.low < result.effect < result.high


@pytest.mark.parametrize(("old", "new"), [(1, 6), (6, 1), (15, 15)])
def test_proof_sets_of_the_wrong_size_are_refused(old, new):
    with pytest.raises(InputError):
        evaluate_proof_set(np.zeros(old + new), np.repeat([False, True], [old, new]))


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"fault": "bad-luck"}, "correction.fault"),
        ({"primary": "mood"}, "correction.primary"),
        ({"direction": "sideways"}, "correction.direction"),
        ({"gate": {"path_deg": [3, -1]}}, "correction.gate.path_deg"),
        ({"gate": {"face_deg": [-1, 1]}}, "correction.gate"),
        ({"gate": {"path_deg": [0, float("nan")]}}, "correction.gate.path_deg"),
        ({"guards": {"strike": [0, 1]}}, "correction.guards.strike"),
    ],
)
def test_corrections_that_cannot_be_tested_are_refused(seven_iron, change, field):
    with pytest.raises(InputError) as caught:
        read_correction(SHIPPED, {**CORRECTION, **change}, Golfer(), seven_iron)
    assert caught.value.field == field


def test_verified_needs_an_interval_without_zero(seven_iron, records):
    """The fault's pattern may be certain before its primary number is: the interval shown is the one that is."""
    golfer, statuses = Golfer("right", 12.0), []
    correction = read_correction(SHIPPED, CORRECTION, golfer, seven_iron)
    for seed in range(80):
        base = records(12, seed=seed, path_deg=5.0, face_deg=2.0, attack_deg=-2.0, dynamic_loft_deg=28.0)
        balls = records(16, seed=500 + seed, path_deg=4.0, face_deg=1.2, attack_deg=-4.0, dynamic_loft_deg=24.0)
        for i, ball in enumerate(balls):
            ball |= {"stage": "full", "movement": "missed" if i % 3 == 2 else "done", "mark_basis": "blind"}
            if i % 3 == 2:
                ball |= {"path_deg": ball["path_deg"] + 1.0, "attack_deg": ball["attack_deg"] + 2.0}
                ball["dynamic_loft_deg"] += 4.0
        blocks = [block_of(read_shots(rows), golfer, seven_iron) for rows in (base, balls)]
        proof = prove(*blocks, correction)
        statuses.append(proof.status)
        if proof.status == "verified":
            statuses.append(proof.rests_on)
            shown = proof.change if proof.rests_on == "number" else proof.pattern
            assert shown.low is not None
            assert shown.low > 0 or shown.high < 0
    assert {"number", "pattern"} <= set(statuses)

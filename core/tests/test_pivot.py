"""Pivot metrics: gates from table and baseline, marks, and a slope that is valid after every ball."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from instavis_core.errors import InputError
from instavis_core.golfer import Golfer
from instavis_core.knowledge import load_motion, vocabulary
from instavis_core.knowledge.loader import KnowledgeError, load_knowledge_from, shipped_knowledge, shipped_text
from instavis_core.knowledge.model import Observed
from instavis_core.proof import pivot_gate, pivot_mark, prove, read_correction
from instavis_core.proof.slope import Pairs, slope_of
from instavis_core.shots import PivotValue, block_of, read_shots

FAULT = "early-extension"
THRUST = Observed(series="thrust_cm", at="halfway-down", guards=("lift_cm",))
GOLFER, CLUB = Golfer("right", 12.0), vocabulary().clubs["7i"]


def observed(*values: float, error: float = 0.5, lift: float = 0.5) -> list[PivotValue]:
    return [PivotValue(value=v, error=error, others=(("lift_cm", lift),)) for v in values]


BASELINE = observed(4.8, 5.4, 4.4, 5.0, 5.2, 4.6)


def test_gate_is_on_the_good_side_of_the_baseline():
    gate = pivot_gate(THRUST, FAULT, BASELINE)
    assert gate.centre == pytest.approx(4.9)
    assert gate.balls == 6
    assert gate.reach < 0
    assert gate.gate[0] < gate.gate[1] < gate.partly < gate.band[0] < gate.centre < gate.band[1]
    assert gate.dose(gate.centre) == 0
    assert gate.dose(gate.centre + gate.reach) == 1


@pytest.mark.parametrize(("value", "mark"), [(5.0, "missed"), (2.6, "partly"), (-0.5, "done"), (-4.5, "done")])
def test_marks_follow_from_the_value(value, mark):
    assert pivot_mark(pivot_gate(THRUST, FAULT, BASELINE), observed(value)[0]).mark == mark


def test_mark_near_an_edge_is_close():
    gate = pivot_gate(THRUST, FAULT, BASELINE)
    edge = gate.gate[1] - 0.3
    assert pivot_mark(gate, observed(edge, error=0.5)[0]).close
    assert not pivot_mark(gate, observed(edge, error=0.05)[0]).close


def test_violated_limit_means_partly_at_most():
    gate = pivot_gate(THRUST, FAULT, BASELINE)
    result = pivot_mark(gate, observed(-0.5, lift=9.0)[0])
    assert (result.mark, result.broken) == ("partly", "lift_cm")
    # The lift that goes with the fault itself may go with it.
    relieved = 0.5 - float(load_motion().adds[FAULT]["lift_cm"][load_motion().place("halfway-down")])
    assert pivot_mark(gate, observed(-0.5, lift=relieved)[0]).mark == "done"


def test_gate_without_baseline_comes_from_the_table():
    gate = pivot_gate(THRUST, FAULT, observed(4.0, 5.0))
    assert gate.balls == 0
    assert pivot_mark(gate, observed(-1.5)[0]).mark == "done"


def test_fault_not_visible_in_the_series_has_no_gate():
    assert pivot_gate(THRUST, "spin-out", BASELINE) is None
    assert pivot_gate(replace(THRUST, at="address"), FAULT, BASELINE) is None


def test_scattered_baseline_gives_no_marks():
    gate = pivot_gate(THRUST, FAULT, observed(0, 9, 2, 8, 1, 10))
    assert gate.blunt
    assert pivot_mark(gate, observed(-2.0)[0]).mark is None


def test_every_measured_drill_shows_one_of_its_faults():
    for drill in shipped_knowledge().drills.values():
        if drill.seen:
            assert any(pivot_gate(drill.seen, fault, []) for fault in drill.faults), drill.id


@pytest.mark.parametrize("wrong", ['series = "thrust"', 'series = "thrust_cm", at = "noon"', 'series = "thrust_cm"'])
def test_drill_with_unknown_series_or_moment_is_refused(wrong):
    def text(name: str) -> str:
        result = 'series = "thrust_cm", at = "halfway-down", guards = ["lift_cm"]'
        return shipped_text(name).replace(result, wrong if "at" in wrong.split() else wrong + "")

    with pytest.raises(KnowledgeError, match="bar-stool.seen"):
        load_knowledge_from(text)


def golfer_of(rng, slope: float, error: float, n: int) -> tuple[Pairs, Pairs]:
    """Baseline and stage of somebody whose path goes with the thrust, heavy-tailed, through an erring instrument."""
    made = np.concatenate([np.zeros(12), rng.choice([0.0, 0.5, 1.0], n)])
    thrust = 5 - 5 * made + rng.standard_t(6, 12 + n)
    path = 3 + slope * thrust + 2 * rng.standard_t(5, 12 + n)
    path[12:] += rng.normal(0, 0.35 * 2.6)
    shown = thrust + error * (0.5 * rng.normal() + 0.87 * rng.standard_t(6, 12 + n) / 1.22)
    errors = np.full(12 + n, error)
    return (
        Pairs(values=path[:12], pivot=shown[:12], errors=errors[:12]),
        Pairs(values=path[12:], pivot=shown[12:], errors=errors[12:]),
    )


def result(baseline: Pairs, stage: Pairs):
    return slope_of(baseline, stage, vocabulary().metrics["path_deg"], load_motion().series["thrust_cm"], -1, -1)


@pytest.mark.parametrize("slope", [1.5, 0.0])
def test_slope_interval_covers_at_every_ball(slope):
    rng, held = np.random.default_rng(4), []
    for _ in range(60):
        baseline, stage = golfer_of(rng, slope, 1.17, 16)
        stops = (result(baseline, Pairs(**{k: v[:n] for k, v in vars(stage).items()})) for n in range(6, 17))
        held.append(all(s.low <= slope <= s.high for s in stops if s.low is not None))
    assert np.mean(held) >= 0.93


def test_instrument_error_does_not_shrink_the_slope():
    rng = np.random.default_rng(5)
    found = [result(*golfer_of(rng, 1.5, 1.6, 24)).estimate for _ in range(80)]
    assert np.median([f for f in found if f is not None]) == pytest.approx(1.5, abs=0.12)


def test_pivot_of_pure_error_has_no_slope():
    baseline, stage = golfer_of(np.random.default_rng(6), 1.5, 9.0, 16)
    assert result(baseline, stage).estimate is None


def test_slope_sentence_states_the_effect_of_a_step():
    slope = result(*golfer_of(np.random.default_rng(7), 1.5, 0.4, 24))
    step, change = slope.sentence.values["size"], slope.sentence.values["change"]
    assert (slope.sentence.code, step.values["size"]) == ("prove-to", -2.0)
    assert change.values["size"] < 0
    assert slope.evidence > 20


def record(path: float, thrust: float | None, **more) -> dict:
    return {"club": "7i", "path_deg": path, "pivot": thrust, "pivot_sd": 0.5, "stage": "full", **more}


def lesson(rng, n: int = 14, **more) -> tuple[list[dict], list[dict]]:
    made = rng.choice([0.0, 1.0], n, p=[0.4, 0.6])
    base = [record(6 + 1.5 * rng.normal(), 5 + 0.8 * rng.normal()) for _ in range(12)]
    stage = [record(6 - 5 * m + 1.5 * rng.normal(), 5 - 5 * m + 0.8 * rng.normal(), **more) for m in made]
    return base, stage


def proof_of(base: list[dict], stage: list[dict], aim_held: bool = True, **changes):
    document = {
        "fault": FAULT,
        "primary": "path_deg",
        "direction": "decrease",
        "gate": {"path_deg": [-2, 3.5]},
        "drill": "bar-stool",
        **changes,
    }
    blocks = [block_of(read_shots(rows), GOLFER, CLUB) for rows in (base, stage)]
    correction = read_correction(shipped_knowledge(), document, GOLFER, CLUB)
    return prove(*blocks, correction, aim_held=[aim_held] * len(stage))


def test_instrument_values_prove_a_lesson_without_marks():
    proof = proof_of(*lesson(np.random.default_rng(1)))
    assert proof.status == "verified"
    assert proof.marks.measured == 14
    assert proof.pivot.by in ("marks", "slope")
    assert proof.pivot.slope.low > 0


def test_path_alone_proves_nothing_without_a_fixed_aim():
    proof = proof_of(*lesson(np.random.default_rng(1)), aim_held=False)
    assert (proof.status, proof.held_back_by) == ("supported", ["aim"])


def test_measured_values_count_without_marks():
    rng = np.random.default_rng(3)
    base, stage = lesson(rng, 24)
    wide = [row | {"pivot": row["pivot"] + 6 * (-1) ** i} for i, row in enumerate(base)]
    proof = proof_of(wide, stage)
    assert proof.pivot.gate.blunt
    assert proof.marks.unmarked < 24
    assert proof.evidence > 1
    assert all(v.moved is None for v in proof.verdicts)


def test_balls_without_pivot_are_judged_by_marks():
    base, stage = lesson(np.random.default_rng(1), movement="done", mark_basis="blind")
    plain = [[{k: v for k, v in r.items() if not k.startswith("pivot")} for r in rows] for rows in (base, stage)]
    with_drill, without = proof_of(*plain), proof_of(*plain, drill=None)
    assert with_drill == without
    assert with_drill.pivot is None


def test_excluded_ball_is_not_in_the_slope():
    base, stage = lesson(np.random.default_rng(2))
    document = {"fault": FAULT, "primary": "path_deg", "direction": "decrease", "gate": {"path_deg": [-2, 3.5]}}
    correction = read_correction(shipped_knowledge(), {**document, "drill": "bar-stool"}, GOLFER, CLUB)
    blocks = [block_of(read_shots(rows), GOLFER, CLUB) for rows in (base, stage)]
    assert prove(*blocks, correction, shots_aside=frozenset({0, 3})).pivot.slope.balls == 12


def test_coach_mark_overrules_the_instrument():
    base, stage = lesson(np.random.default_rng(2))
    stage[0] |= {"movement": "missed" if stage[0]["pivot"] < 2 else "done", "mark_basis": "blind"}
    proof = proof_of(base, stage)
    assert (proof.pivot.agreement.both, proof.pivot.agreement.same) == (1, 0)
    assert proof.pivot.slope.balls == 13


@pytest.mark.parametrize(
    ("raw", "field"),
    [
        ({"series": "thrust", "at": "top"}, "correction.seen.series"),
        ({"series": "thrust_cm", "at": "noon"}, "correction.seen.at"),
        ({"series": "thrust_cm", "at": "top", "since": "noon"}, "correction.seen.since"),
        ({"series": "thrust_cm", "at": "top", "guards": ["nose"]}, "correction.seen.guards"),
        ({"series": "thrust_cm", "at": "top", "guards": 3}, "correction.seen.guards"),
        ("thrust_cm", "correction.seen"),
    ],
)
def test_invalid_movement_measure_is_named(raw, field):
    with pytest.raises(InputError) as error:
        proof_of([], [], seen=raw)
    assert error.value.field == field

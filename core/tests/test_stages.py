"""Gates by stage, the two rules for moving between stages, and what is cached between balls."""

from __future__ import annotations

import numpy as np
import pytest

from instavis_core.choice import gates_of_stages
from instavis_core.errors import InputError
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.proof import Verdict, judge, prove, read_correction
from instavis_core.proof.baseline import _remembered
from instavis_core.proof.stages import advise
from instavis_core.proof.verdicts import _judge_one
from instavis_core.reading.completion import complete
from instavis_core.shots import block_of, read_shots

GOLFER, CLUB = Golfer("right", 12.0), vocabulary().clubs["7i"]

SHIPPED = shipped_knowledge()


def test_gate_widens_by_stage():
    """One ball outside the full gate and inside the half one answers at half only."""
    raw = {
        "fault": "early-extension",
        "primary": "path_deg",
        "direction": "decrease",
        "gate": {"path_deg": [-1, 3]},
        "gate_by_stage": {"half": [-2, 4]},
    }
    correction = read_correction(SHIPPED, raw, GOLFER, CLUB)
    balls = [{"path_deg": 3.6, "movement": "done", "stage": stage} for stage in ("half", "full")]
    block = block_of(read_shots(balls), GOLFER, CLUB)
    verdicts = judge(block, complete(block), correction, None, frozenset())
    assert [v.verdict for v in verdicts] == ["linked", "moved-no-change"]


@pytest.mark.parametrize("raw", [{"nowhere": [0, 1]}, {"half": [3, 1]}, {"half": [float("nan"), 1]}, [1], {"half": 4}])
def test_gates_of_stages_are_checked_like_the_gate(raw):
    document = {
        "fault": "early-extension",
        "primary": "path_deg",
        "direction": "decrease",
        "gate": {"path_deg": [-1, 3]},
    }
    with pytest.raises(InputError, match="gate_by_stage"):
        read_correction(SHIPPED, {**document, "gate_by_stage": raw}, GOLFER, CLUB)


@pytest.mark.parametrize(("at", "window"), [("half", (-2.0, 2.5)), ("full", (-1.0, 2.0)), ("chip", (-4.0, 1.0))])
def test_gate_set_by_hand_is_adapted_to_other_stages(at, window):
    baseline = block_of(read_shots([{"path_deg": 5.0 + 0.3 * (i % 3)} for i in range(12)]), GOLFER, CLUB)
    gates = gates_of_stages("path_deg", window, at, baseline, -5.0)
    assert gates[at] == window
    widths = [gates[s][1] - gates[s][0] for s in ("chip", "half", "three-quarter", "full")]
    assert widths == sorted(widths, reverse=True)
    assert all(high <= 3.0 for _, high in gates.values())  # half-way back, rounded
    assert gates_of_stages("strike_toe_mm", (-3, 3), "half", baseline, 4.0) == {}


def _run(linked: str):
    return [
        Verdict(
            verdict="linked" if c == "+" else "neither",
            reasons=[],
            moved=c == "+",
            answered=c == "+",
            beyond=False,
            value=0.0,
        )
        for c in linked
    ]


@pytest.mark.parametrize(
    ("balls", "by_count", "by_chance"),
    [
        ("+++++", "up", "up"),
        ("+-+-+", "hold", "hold"),
        ("----", "down", "down"),
        ("----++++", "up", "hold"),  # the chance looks further back than the last six
        ("++", "hold", "hold"),
    ],
)
def test_stage_is_passed_by_count_or_probability(balls, by_count, by_chance):
    assert advise(_run(balls), "half", False, "count").stage == by_count
    assert advise(_run(balls), "half", False, "chance").stage == by_chance
    if by_chance == "up":
        assert advise(_run(balls), "half", True, "chance").stage == "hold"


def test_stage_probability_is_a_beta_posterior():
    """4 of 5 linked under Jeffreys' prior: the share of simulated posterior draws above 4 of 6."""
    rng = np.random.default_rng(8)
    share = float((rng.beta(4.5, 1.5, 400_000) >= 4 / 6).mean())
    advice = advise(_run("+++-+"), "half", False, "chance")
    assert advice.reason.values["text"].values["chance"] == pytest.approx(share, abs=0.005)


def test_caches_change_no_result():
    """Ball after ball gives the same proof as all balls at once in a process that has seen none of them."""
    rng = np.random.default_rng(31)
    base = [{"path_deg": float(v), "face_deg": float(v) / 2} for v in rng.normal(5, 1.2, 12)]
    balls = [
        {"path_deg": float(v), "face_deg": float(v) / 2, "movement": ("done", "missed")[i % 3 == 0], "stage": "full"}
        for i, v in enumerate(rng.normal(1, 1.2, 20))
    ]
    raw = {"fault": "early-extension", "primary": "path_deg", "direction": "decrease", "gate": {"path_deg": [-1, 3]}}

    def proof_after(n: int):
        correction = read_correction(SHIPPED, raw, GOLFER, CLUB)
        return prove(*(block_of(read_shots(b), GOLFER, CLUB) for b in (base, balls[:n])), correction)

    for n in range(1, 21):
        step_by_step = proof_after(n)
    _judge_one.cache_clear()
    _remembered.clear()
    assert proof_after(20) == step_by_step

"""Choice: how a golfer without the fault follows the prediction, and how many of those balls pass the gate."""

from __future__ import annotations

import functools

import numpy as np

from instavis_core.choice import GateProposal, propose_gate
from instavis_core.choice.gates import ANSWER
from instavis_core.golfer import Golfer
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.reading import clean_balls
from instavis_core.shots import Block, block_of, read_shots
from instavis_core.simulate import draw_golfer, simulate_shots
from validation.cause import START
from validation.report import Table

LESSONS, BASELINE, AFTER = 240, 14, 40
SEVERITY = 0.85  # the ranking's average for a fault


@functools.lru_cache(maxsize=2)
def answers(lessons: int = LESSONS) -> tuple[tuple[GateProposal, np.ndarray, np.ndarray], ...]:
    """Return the gate proposed from a baseline, and the number on the balls before and after the fault is fully
    removed.
    """
    rng, known = np.random.default_rng(3), shipped_knowledge()
    club, faults = known.vocabulary.clubs["7i"], known.of_kind("fault")
    rows = []
    for i in range(lessons):
        cause = faults[i % len(faults)]
        golfer = Golfer("right", float(rng.uniform(3, 28)))
        sim = draw_golfer(rng, {cause.key: float(rng.uniform(0.6, 1.1))}, golfer, club)

        def hit(count: int, golfer=golfer, sim=sim) -> Block:
            return block_of(read_shots(simulate_shots(sim, club, count, rng, START)), golfer, club)

        before = hit(BASELINE)
        gate = propose_gate(before, cause, SEVERITY)
        if gate is None:
            continue
        sim.severity = {}
        rows.append((gate, *(_number(block, gate.primary) for block in (before, hit(AFTER)))))
    return tuple(rows)


def _number(block: Block, metric: str) -> np.ndarray:
    values = block.columns[metric][clean_balls(block)]
    return values[~np.isnan(values)]


def passing(gate: GateProposal, balls: np.ndarray) -> float:
    """Share of balls within the primary gate."""
    low, high = gate.gate[gate.primary]
    return float(np.mean((balls >= low) & (balls <= high)))


def tables() -> list[Table]:
    """Actual ÷ predicted, and the share of balls through the gate."""
    some = answers()
    share = [(after.mean() - before.mean()) / gate.predicted for gate, before, after in some]
    low, middle, high = np.percentile(share, [10, 50, 90])
    text = f"{ANSWER[0]:.1f} to {ANSWER[1]:.1f}"
    prediction = Table(
        f"Actual ÷ predicted, {len(some)} golfers without their fault",
        ["10 %", "middle", "90 %", "said on screen"],
        [[f"{low:.2f}", f"{middle:.2f}", f"{high:.2f}", text]],
    )
    rows = []
    for name, place in (("of the baseline", 1), ("of the movement made whole", 2)):
        shares = [passing(row[0], row[place]) for row in some]
        rows.append([name, f"{np.mean(shares):.2f}", f"{np.median(shares):.2f}"])
    return [prediction, Table("Balls through the gate", ["balls", "mean", "median"], rows)]

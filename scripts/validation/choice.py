"""Choice: how a golfer without the fault follows the prediction, and how many of those balls pass the gate."""

from __future__ import annotations

import functools

import numpy as np

from instavis_core.cause import rank_causes
from instavis_core.choice import GateProposal, likely_answer, propose_gate
from instavis_core.golfer import Golfer
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.reading import clean_balls
from instavis_core.shots import Block, block_of, read_shots
from instavis_core.simulate import draw_golfer, simulate_shots
from validation.cause import EYES, OWN_HABITS, START, STRANGE, drawn
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


@functools.lru_cache(maxsize=2)
def leaders(lessons: int) -> tuple[tuple[float, float, float], ...]:
    """Return, for the leader after three checks, the stated range and the true change without that fault.

    Golfers have no fault, one or two, and every second one has habits and effects of their own.
    """
    rng, known = np.random.default_rng(29), shipped_knowledge()
    club, rows = known.vocabulary.clubs["7i"], []
    for i in range(lessons):
        golfer, faults = Golfer("right", float(rng.uniform(3, 28))), drawn(rng, i, (0, 1, 1, 2)[i % 4], False)
        severity = {f: float(rng.uniform(0.5, 1.2)) for f in faults}
        sim = draw_golfer(rng, severity, golfer, club, traits=STRANGE if i % 2 else None)
        sim.offset = sim.offset * (OWN_HABITS if i % 2 else 1.0)
        block = block_of(read_shots(simulate_shots(sim, club, BASELINE, rng, START)), golfer, club)
        checks: dict[str, str] = {}
        for _ in range(3):
            name = rank_causes(known, block, checks=checks).next_checks[0].id
            checks[name] = EYES[i % 3].grade(known.checks[name], {f.partition("/")[0] for f in faults}, rng)
        leader = rank_causes(known, block, checks=checks).faults[0]
        gate = propose_gate(block, known.cause(leader.id, leader.variant), leader.severity, leader.probability)
        if gate is None:
            continue
        means = []
        for left in (severity, {f: s for f, s in severity.items() if f.partition("/")[0] != leader.id}):
            sim.severity = left
            hit = block_of(read_shots(simulate_shots(sim, club, AFTER, rng, START)), golfer, club)
            means.append(float(np.mean(_number(hit, gate.primary))))
        rows.append((*gate.likely, means[1] - means[0]))
    return tuple(rows)


def _ranges() -> Table:
    held = [low <= change <= high for low, high, change in leaders(LESSONS)]
    rows = [["all leaders", len(held), f"{np.mean(held):.2f}"]]
    return Table(
        "The 80 % range of what the leading correction would do, after three checks", ["", "lessons", "holds"], rows
    )


def tables() -> list[Table]:
    """Actual ÷ predicted, and the share of balls through the gate."""
    some = answers()
    share = [(after.mean() - before.mean()) / gate.predicted for gate, before, after in some]
    low, middle, high = np.percentile(share, [10, 50, 90])
    text = "{:.1f} to {:.1f}".format(*likely_answer(1.0, 1.0))
    prediction = Table(
        f"Actual ÷ predicted, {len(some)} golfers without their fault",
        ["10 %", "middle", "90 %", "said on screen"],
        [[f"{low:.2f}", f"{middle:.2f}", f"{high:.2f}", text]],
    )
    rows = []
    for name, place in (("of the baseline", 1), ("of the movement made whole", 2)):
        shares = [passing(row[0], row[place]) for row in some]
        rows.append([name, f"{np.mean(shares):.2f}", f"{np.median(shares):.2f}"])
    return [prediction, _ranges(), Table("Balls through the gate", ["balls", "mean", "median"], rows)]

"""Cause: how often the right fault is found, and whether "likely" is true as often as it says.

Golfers are simulated with effects that differ from the table's. Checks are chosen by the engine's own advice and
answered by an eye that misses and errs; the engine does not know how often.
"""

from __future__ import annotations

import functools
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

import numpy as np

from instavis_core.cause import USUAL_EYE, Ranking, rank_causes
from instavis_core.golfer import Golfer
from instavis_core.knowledge import Check, vocabulary
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.shots import Block, block_of, read_shots
from instavis_core.simulate import Traits, draw_golfer, simulate_shots
from validation.report import Table

START = datetime(2026, 5, 4, 9, tzinfo=UTC)
BALLS, CHECKS = (5, 12, 30), (0, 3, 6, 12)
LESSONS = 60
LEANS = 0.2  # share of answers that repeat the leader, of a coach who has seen the ranking
STRANGE = Traits(effect_spread=0.5)  # own effects twice as far from the table as the engine expects
OWN_HABITS = 1 / 0.6  # times the deviation without faults: as wide as golfers of a level differ
BANDS = ((0.55, 0.7), (0.7, 0.85), (0.85, 0.95), (0.95, 1.01))


@dataclass(frozen=True, kw_only=True)
class Eye:
    """How a coach answers: the share of strong and weak signs missed, and of signs seen that are not there."""

    name: str
    misses_strong: float
    misses_weak: float
    errs: float

    def grade(self, check: Check, faults: set[str], rng: np.random.Generator) -> str:
        """Return the answer to a check of a golfer with these faults (ids)."""
        shown = {g: max((check.speaks.get(g, {}).get(f, 0) for f in faults), default=0) for g in check.grades}
        sign = max(shown, key=lambda g: shown[g])
        lucky = rng.random()
        if shown[sign] > 0:
            missed = self.misses_strong if shown[sign] == 2 else self.misses_weak
            return check.grades[0] if lucky < missed else sign
        return str(rng.choice(check.grades[1:])) if lucky < self.errs else check.grades[0]


CAREFUL = Eye(name="careful", misses_strong=0.04, misses_weak=0.40, errs=0.05)  # with a still picture
PRACTISED = Eye(name="practised", misses_strong=0.10, misses_weak=0.50, errs=0.08)
ROUGH = Eye(name="rough", misses_strong=0.20, misses_weak=0.50, errs=0.15)
EYES = (CAREFUL, PRACTISED, ROUGH)


@dataclass(frozen=True)
class Case:
    """One lesson: the true fault ids, and the ranking after each number of checks."""

    truth: frozenset[str]
    rankings: dict[int, Ranking]


@functools.lru_cache(maxsize=64)
def cases(count: int, balls: int, faults: int, eye: Eye, linked: bool = False) -> tuple[Case, ...]:
    """Simulate lessons with a number of faults each; ``linked`` faults are upstream and downstream of each other."""
    rng = np.random.default_rng(1000 * balls + 10 * faults + linked)
    return tuple(_case(rng, drawn(rng, i, faults, linked), balls, eye) for i in range(count))


def drawn(rng: np.random.Generator, place: int, faults: int, linked: bool) -> list[str]:
    """Return keys of the faults of one golfer; the first rotates so that every row is covered."""
    known = shipped_knowledge()
    keys = [c.key for c in known.of_kind("fault")]
    if linked:
        pivot = {c.id for c in known.of_kind("fault")}
        edges = [e for e in known.edges if e.source in pivot and e.target in pivot]
        edge = edges[int(rng.integers(len(edges)))]
        return [_key(rng, edge.source), _key(rng, edge.target, edge.target_variant)]
    drawn = [keys[place % len(keys)]] if faults else []
    while len(drawn) < faults:
        other = str(rng.choice(keys))
        if other.partition("/")[0] not in {d.partition("/")[0] for d in drawn}:
            drawn.append(other)
    return drawn


def _key(rng: np.random.Generator, fault: str, variant: str = "") -> str:
    rows = [c.key for c in shipped_knowledge().causes.values() if c.id == fault and variant in ("", c.variant)]
    return str(rng.choice(rows))


def _case(rng: np.random.Generator, faults: Sequence[str], balls: int, eye: Eye) -> Case:
    known = shipped_knowledge()
    club, golfer = known.vocabulary.clubs["7i"], Golfer(str(rng.choice(["right", "left"])), float(rng.uniform(3, 28)))
    sim = draw_golfer(rng, {f: float(rng.uniform(0.6, 1.1)) for f in faults}, golfer, club)
    block = block_of(read_shots(simulate_shots(sim, club, balls, rng, START)), golfer, club)
    truth = frozenset(f.partition("/")[0] for f in faults)
    return Case(truth, _ranked(rng, block, truth, eye, max(CHECKS)))


def recall(some: Sequence[Case], answered: int, places: int) -> float:
    """Return the share of lessons whose faults are all among the first places."""
    return float(np.mean([c.truth <= {f.id for f in c.rankings[answered].faults[:places]} for c in some]))


def reliability(some: Sequence[Case]) -> list[tuple[str, float, float, int]]:
    """Return, by probability word: mean probability, share that was true, number of statements."""
    text = [(f.word, f.probability, f.id in c.truth) for c in some for r in c.rankings.values() for f in r.faults]
    rows = []
    for word in dict.fromkeys(row.word for row in vocabulary().probability_words):
        mine = [(p, t) for w, p, t in text if w == word]
        if mine:
            rows.append((word, float(np.mean([p for p, _ in mine])), float(np.mean([t for _, t in mine])), len(mine)))
    return rows


def tables() -> list[Table]:
    """Recall with one and two faults, calibration, and golfers without any fault."""
    return [_one(), _two(), _three(), _calibration(), _strange(), _leaning(), _none()]


def _one() -> Table:
    rows = []
    for eye in EYES:
        for balls in BALLS:
            some = cases(LESSONS, balls, 1, eye)
            figures = [f"{recall(some, n, 1):.2f} / {recall(some, n, 2):.2f}" for n in CHECKS]
            rows.append([eye.name, balls, *figures])
    header = ["eye", "balls", *(f"{n} checks" for n in CHECKS)]
    return Table(f"One fault: first / among the first two, {LESSONS} lessons a cell", header, rows)


def _two() -> Table:
    rows = []
    kinds = ((False, CAREFUL), (False, PRACTISED), (True, CAREFUL), (True, PRACTISED))
    for linked, eye in kinds:
        for balls in BALLS:
            some = cases(LESSONS, balls, 2, eye, linked)
            first = [np.mean([c.rankings[n].faults[0].id in c.truth for c in some]) for n in CHECKS]
            figures = [f"{recall(some, n, 3):.2f} / {f:.2f}" for n, f in zip(CHECKS, first, strict=True)]
            rows.append(["one upstream of the other" if linked else "any two", eye.name, balls, *figures])
    header = ["faults", "eye", "balls", *(f"{n} checks" for n in CHECKS)]
    return Table("Two faults: both among the first three / one of them first", header, rows)


def _three() -> Table:
    rows = []
    for eye in (CAREFUL, PRACTISED):
        some = cases(LESSONS, 12, 3, eye)
        found = [f"{recall(some, n, 3):.2f} / {recall(some, n, 4):.2f} / {_places(some, n):.2f}" for n in CHECKS]
        rows.append([eye.name, *found])
    header = ["eye", *(f"{n} checks" for n in CHECKS)]
    return Table(
        "Three faults, 12 balls: all among the first three / four / share of them in the first three", header, rows
    )


def _places(some: Sequence[Case], answered: int) -> float:
    """Return the share of the true faults that are among the first three."""
    shares = [len(c.truth & {f.id for f in c.rankings[answered].faults[:3]}) / len(c.truth) for c in some]
    return float(np.mean(shares))


def _all() -> list[Case]:
    """Yield lessons of every kind: without a fault, with one, with two; three eyes."""
    kinds = [(balls, n, eye) for balls in BALLS for n in (1, 2) for eye in (CAREFUL, PRACTISED)]
    kinds += [(12, 0, PRACTISED)] + [(balls, 1, ROUGH) for balls in BALLS]
    return [c for balls, n, eye in kinds for c in cases(LESSONS, balls, n, eye)]


def _calibration() -> Table:
    rows = [[word, f"{p:.2f}", f"{true:.2f}", n] for word, p, true, n in reliability(_all())]
    return Table(
        "Is a word true as often as stated? (no fault, one or two; three eyes)",
        ["word", "stated", "true", "statements"],
        rows,
    )


@functools.lru_cache(maxsize=2)
def strange_cases(count: int) -> tuple[Case, ...]:
    """Simulate golfers whose habits and effects are their own: no fault, one or two, and each eye in turn."""
    rng, known = np.random.default_rng(11), shipped_knowledge()
    club, some = known.vocabulary.clubs["7i"], []
    for place in range(count):
        faults = drawn(rng, place, place % 5 % 3, False)
        golfer = Golfer(str(rng.choice(["right", "left"])), float(rng.uniform(3, 28)))
        severity = {f: float(rng.uniform(0.5, 1.2)) for f in faults}
        sim = draw_golfer(rng, severity, golfer, club, traits=STRANGE)
        sim.offset = sim.offset * OWN_HABITS
        balls = BALLS[place % len(BALLS)]
        block = block_of(read_shots(simulate_shots(sim, club, balls, rng, START)), golfer, club)
        truth = frozenset(f.partition("/")[0] for f in faults)
        some.append(Case(truth, _ranked(rng, block, truth, EYES[place % len(EYES)], 6)))
    return tuple(some)


def _ranked(rng: np.random.Generator, block: Block, truth: frozenset[str], eye: Eye, most: int) -> dict[int, Ranking]:
    checks: dict[str, str] = {}
    rankings = {}
    for answered in range(most + 1):
        ranking = rank_causes(shipped_knowledge(), block, checks=checks)
        if answered in CHECKS:
            rankings[answered] = ranking
        name = ranking.next_checks[0].id
        checks[name] = eye.grade(shipped_knowledge().checks[name], set(truth), rng)
    return rankings


def _strange() -> Table:
    rows = []
    for name, some in (("as expected", _all()), ("own habits", list(strange_cases(6 * LESSONS)))):
        for answered in (0, 3, 6):
            text = [(f.probability, f.id in c.truth) for c in some for f in c.rankings[answered].faults]
            cells = []
            for low, high in BANDS:
                mine = [(p, t) for p, t in text if low <= p < high]
                stated, true = np.mean(mine, axis=0) if mine else (np.nan, np.nan)
                cells.append(f"{stated:.2f} → {true:.2f} ({len(mine)})")
            rows.append([name, answered, *cells])
    header = ["golfers", "checks", *(f"{low:.2f}–{min(high, 1):.2f}" for low, high in BANDS)]
    return Table("By checks answered: stated → true (statements)", header, rows)


def _leaning() -> Table:
    """A coach who has seen the ranking and answers the leader's sign on one check in five."""
    rows = []
    for name, counted_less in (("counted in full", False), ("counted less", True)):
        stated = [_leaned(seed, counted_less) for seed in range(2 * LESSONS)]
        sure = [(p, true) for p, true, faults in stated if p >= 0.9 and faults]
        named = np.mean([p >= 0.4 for p, _, faults in stated if not faults])
        share = np.mean([true for _, true in sure]) if sure else np.nan
        mean = np.mean([p for p, _ in sure]) if sure else np.nan
        rows.append([name, f"{mean:.2f}", f"{share:.2f}", len(sure), f"{named:.2f}"])
    header = ["answers", "very likely, stated", "true", "statements", "sound golfers with a possible fault"]
    return Table(f"An eye that leans on the leader on {LEANS:.0%} of 6 checks", header, rows)


def _leaned(seed: int, counted_less: bool) -> tuple[float, bool, int]:
    """Return the leader's probability, whether it is true, and the number of faults of one lesson."""
    rng, known = np.random.default_rng([17, seed]), shipped_knowledge()
    club, golfer = known.vocabulary.clubs["7i"], Golfer("right", float(rng.uniform(3, 28)))
    faults = drawn(rng, seed, int(seed % 4 > 0), False)
    sim = draw_golfer(rng, {f: float(rng.uniform(0.6, 1.1)) for f in faults}, golfer, club)
    block = block_of(read_shots(simulate_shots(sim, club, 12, rng, START)), golfer, club)
    truth = {f.partition("/")[0] for f in faults}
    checks: dict[str, str] = {}
    for _ in range(6):
        eye = USUAL_EYE.after_ranking(checks) if counted_less else USUAL_EYE
        ranking = rank_causes(known, block, checks=checks, eye=eye)
        name = ranking.next_checks[0].id
        shown = {ranking.faults[0].id} if rng.random() < LEANS else truth
        checks[name] = PRACTISED.grade(known.checks[name], shown, rng)
    leader = rank_causes(
        known, block, checks=checks, eye=USUAL_EYE.after_ranking(checks) if counted_less else USUAL_EYE
    ).faults[0]
    return leader.probability, leader.id in truth, len(faults)


def _none() -> Table:
    some = cases(LESSONS, 12, 0, PRACTISED)
    rows = []
    for answered in CHECKS:
        highest = [c.rankings[answered].faults[0].probability for c in some]
        rows.append([answered, f"{np.mean([p < 0.4 for p in highest]):.2f}", f"{np.median(highest):.2f}"])
    return Table(
        "No fault, 12 balls: share with nothing called possible",
        ["checks", "nothing possible", "median of the highest"],
        rows,
    )


def draw(axes) -> None:
    """Draw the reliability: what was stated against how often it was true."""
    text = [(f.probability, f.id in c.truth) for c in _all() for r in c.rankings.values() for f in r.faults]
    probability, true = np.array([p for p, _ in text]), np.array([t for _, t in text])
    edges = np.array([0, 0.05, 0.15, 0.3, 0.5, 0.7, 0.9, 1.0001])
    for low, high in zip(edges, edges[1:], strict=False):
        inside = (probability >= low) & (probability < high)
        if inside.sum() >= 10:
            share = true[inside].mean()
            error = 1.96 * np.sqrt(share * (1 - share) / inside.sum())
            axes.errorbar(probability[inside].mean(), share, error, fmt="o", color="#2f5d7c")
    axes.plot([0, 1], [0, 1], "--", color="#999999")
    axes.set(xlabel="stated", ylabel="true", title="Faults: stated probability and share true")

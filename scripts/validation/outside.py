"""Lessons outside the tables: patterns of arms and club that no row makes, and the several clubs of one golfer."""

from __future__ import annotations

import functools

import numpy as np

from instavis_core.cause import Ranking, rank_causes
from instavis_core.cause.evidence import CENTRES
from instavis_core.cause.likelihood import effect_table
from instavis_core.golfer import Golfer
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.shots import Block, block_of, read_shots
from instavis_core.simulate import draw_golfer, simulate_shots
from validation.cause import CAREFUL, PRACTISED, START, Eye
from validation.report import Table

PATTERNS = {
    "arms lift and drop steeply": (-2.5, 1.5, -3.0, 1.5, 4.0, -3.0, 0.15, 0.3),
    "club laid off, then crossing": (3.0, 4.0, 0.5, 1.0, -4.0, 0.0, 0.25, 0.1),
    "forearms roll open going back": (1.0, 5.0, 1.0, 3.0, 2.0, 0.0, 0.3, 0.1),
    "lead arm bends through": (-1.0, 3.0, 2.0, 3.5, 5.0, -5.0, 0.2, 0.25),
    "trail arm throws early": (-4.0, -1.0, -1.0, 3.0, -6.0, -2.0, 0.2, 0.2),
    "hands high at impact": (2.0, 2.5, -0.5, -1.0, -8.0, 0.0, 0.1, 0.1),
    "hands drag late": (3.0, 1.0, -3.0, -5.0, 0.0, 3.0, 0.1, 0.1),
    "over-long and loose at the top": (-1.5, -2.5, 1.5, 1.0, 5.0, 0.0, 0.4, 0.4),
    "held off": (0.5, 3.5, -1.0, 0.0, 0.0, 0.0, 0.0, 0.0),
    "flat chop": (-3.0, 2.0, -2.5, -2.0, 6.0, 4.0, 0.1, 0.2),
}
"""Path, face, attack, loft [°], strike toe and high [mm], log spreads of face and low point; our own numbers, not the
tables'.
"""
LESSONS, BALLS, CHECKS = 160, 12, (0, 3, 6)
RESEMBLING = 0.5  # share of checks of a resembling golfer that show the nearest fault's sign
SETS = {"7i 12": {"7i": 12}, "7i 24": {"7i": 24}, "7i 8, driver 8, PW 8": {"7i": 8, "D": 8, "PW": 8}}


@functools.lru_cache(maxsize=8)
def strangers(eye: Eye, resembling: bool, count: int = LESSONS) -> tuple[tuple[Ranking, ...], ...]:
    """Rank golfers whose pattern is in no table, after each number of checks.

    The checks of ``resembling`` ones show signs of the fault with the nearest pattern.
    """
    rng = np.random.default_rng(5)
    return tuple(_stranger(rng, i, eye, resembling) for i in range(count))


def _stranger(rng: np.random.Generator, place: int, eye: Eye, resembling: bool) -> tuple[Ranking, ...]:
    known = shipped_knowledge()
    golfer, club = Golfer(str(rng.choice(["right", "left"])), float(rng.uniform(3, 28))), known.vocabulary.clubs["7i"]
    sim = draw_golfer(rng, {}, golfer, club)
    row = np.array(list(PATTERNS.values())[place % len(PATTERNS)])
    row = row * np.exp(rng.normal(0, 0.25, row.size)) * rng.uniform(0.6, 1.1)
    sim.offset = sim.offset + row
    block = block_of(read_shots(simulate_shots(sim, club, BALLS, rng, START)), golfer, club)
    nearest = _nearest(row, golfer)
    checks: dict[str, str] = {}
    rankings = []
    for _ in range(max(CHECKS) + 1):
        rankings.append(rank_causes(known, block, checks=checks))
        check = known.checks[rankings[-1].next_checks[0].id]
        shown = {nearest} if resembling and rng.random() < RESEMBLING else set()
        checks[check.id] = eye.grade(check, shown, rng)
    return tuple(rankings)


def _nearest(row: np.ndarray, golfer: Golfer) -> str:
    """Return the fault whose pattern points the same way, in units of the usual scatter."""
    known = shipped_knowledge()
    faults = known.of_kind("fault")
    effects = effect_table(tuple(faults), golfer, known.vocabulary.clubs["7i"])
    scale = np.array([golfer.skill.scatter[m] for m in CENTRES] + [0.3, 0.3])
    sizes = np.linalg.norm(effects / scale, axis=1) * np.linalg.norm(row / scale)
    return faults[int(((effects / scale) @ (row / scale) / sizes).argmax())].id


@functools.lru_cache(maxsize=4)
def by_clubs(name: str, rounds: int = 4) -> tuple[float, float]:
    """Return the share of lessons whose fault is first, and among the first two, with the balls of several clubs and no
    check.
    """
    known = shipped_knowledge()
    first = two = lessons = 0
    for again in range(rounds):
        for i, cause in enumerate(known.of_kind("fault")):
            golfer = Golfer("right", float(4 + 7 * again % 24))
            block, *others = [_hit(1000 * again + i, cause.key, golfer, *one) for one in SETS[name].items()]
            ids = [f.id for f in rank_causes(known, block, others=others).faults]
            first, two, lessons = first + (ids[0] == cause.id), two + (cause.id in ids[:2]), lessons + 1
    return first / lessons, two / lessons


def _hit(seed: int, key: str, golfer: Golfer, club: str, count: int) -> Block:
    """Simulate the same golfer with a club: own effects and offsets are the same for every club."""
    row = shipped_knowledge().vocabulary.clubs[club]
    sim = draw_golfer(np.random.default_rng(seed), {key: 0.85}, golfer, row)
    rng = np.random.default_rng([seed, *club.encode()])
    return block_of(read_shots(simulate_shots(sim, row, count, rng, START)), golfer, row)


def tables() -> list[Table]:
    """Wrong certainty about patterns outside the tables, and what several clubs add."""
    rows = []
    for eye in (CAREFUL, PRACTISED):
        for resembling in (False, True):
            some = strangers(eye, resembling)
            shares = [np.mean([r[n].faults[0].probability >= 0.9 for r in some]) for n in CHECKS]
            shown_as = "like the nearest fault" if resembling else "sound"
            rows.append([eye.name, shown_as, *(f"{share:.3f}" for share in shares)])
    header = ["eye", "answers are", *(f"{n} checks" for n in CHECKS)]
    wrong = Table(
        f"A pattern no fault makes, {BALLS} balls: a fault is wrongly very likely, {LESSONS} lessons", header, rows
    )
    clubs = [[name, *(f"{share:.2f}" for share in by_clubs(name))] for name in SETS]
    return [
        wrong,
        Table("Several clubs, no check: the fault is first / among the first two", ["balls", "first", "two"], clubs),
    ]

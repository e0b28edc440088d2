"""Made-up lessons for the claims: golfers with six correlated, widely scattered numbers that differ from the tables.

Nothing here comes from the engine: scatter is Student's t with common factors, form and warm-up are added, effects are
drawn around the table's, and marks are blind, or follow the ball, or leave bad balls out.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from instavis_core.cause.evidence import CENTRES
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.proof import Proof, prove, read_correction
from instavis_core.shots import Block, block_of, read_shots

GOLFER, CLUB = Golfer("right", 12.0), vocabulary().clubs["7i"]
SCATTER = np.array([GOLFER.skill.scatter[m] for m in CENTRES])
MIDDLE = np.array([25.0 if m == "dynamic_loft_deg" else 0.0 for m in CENTRES])
SPEED = 36.0
LIMITS = {m.id: m.range for m in vocabulary().metrics.values()}
BASELINE, BALLS = 14, 60
EFFECT_ERROR = 0.35  # of the table's effects, log
FACTORS = 0.6  # loading of each of two common factors, one SD
SPEED_SCATTER = 0.015  # of a golfer's club speed, one SD
SPEED_EFFECT = 0.6  # change of the primary number with one SD of speed, in its own spreads, where it follows speed
LEARNED = (0.35, 0.85)  # share of balls on which the movement is made, first and last
PARTLY = 1 / 3
KNOWLEDGE = shipped_knowledge()


@dataclass(frozen=True, kw_only=True)
class World:
    """What happens in a lesson besides the movement; sizes in spreads of every number, toward the correction.

    ``made`` is the share of balls with the movement, rising from the first to the last. ``follow`` is the share of
    marks that follow the ball instead, ``unmarked`` the share of bad balls left out. ``worst`` takes the worst of three
    blocks as the baseline. ``moved`` are shifts by metric [its own unit] of every ball of the stage. ``aim`` turns path
    and face of the balls with the movement toward the correction [°]. ``slower`` is the share of speed they lose, with
    the primary number following speed: 4 % are worth a full change. ``stick`` is true if an alignment stick lies there.
    ``old`` are balls (from 0) hit without the movement on request.
    """

    tail: float = 5.0
    skew: bool = False
    ar: float = 0.0
    form: float = 0.0
    warm: float = 0.0
    shift: float = 0.0
    made: tuple[float, float] = LEARNED
    partly: float = PARTLY
    follow: float = 0.0
    unmarked: float = 0.0
    worst: bool = False
    moved: dict[str, float] = field(default_factory=dict)
    basis: str = "blind"
    stage: str = "full"
    aim: float = 0.0
    slower: float = 0.0
    stick: bool = False
    old: tuple[int, ...] = ()
    only: tuple[str, ...] = CENTRES


@dataclass(frozen=True, kw_only=True)
class Fault:
    """One fault of one golfer: what removing it does to every number (6,) in spreads, and its document."""

    change: np.ndarray
    document: dict[str, object]

    @property
    def primary(self) -> int:
        """Index of the primary number."""
        return CENTRES.index(str(self.document["primary"]))


def draw_fault(rng: np.random.Generator, size: float | None = None, primary: str | None = None) -> Fault:
    """Draw a fault by its prior with this golfer's own effects; ``size`` is the primary number's change in spreads.

    The true change has a median of 1.27 spreads; four of five golfers are between 0.58 and 2.30.
    """
    causes = [c for c in KNOWLEDGE.causes.values() if any(m in c.effect for m in CENTRES)]
    if primary:
        causes = [c for c in causes if c.effect.get(primary)]
    weights = np.array([c.prior if isinstance(c.prior, float) else 1.0 for c in causes])
    cause = causes[rng.choice(len(causes), p=weights / weights.sum())]
    table = -np.array([cause.effect.get(m, 0.0) for m in CENTRES]) / SCATTER
    own = table * np.exp(rng.normal(0, EFFECT_ERROR, table.size))
    place = CENTRES.index(primary) if primary else int(np.argmax(np.abs(table)))
    wanted = size if size is not None else float(np.exp(rng.normal(np.log(1.27), np.log(2.30 / 0.58) / 2.563)))
    change = own * wanted / abs(own[place])
    moved = float(change[place] * SCATTER[place])
    half, middle = max(abs(moved) / 2, float(SCATTER[place])), moved + float(MIDDLE[place])
    document = {
        "fault": cause.id,
        "variant": cause.variant,
        "primary": CENTRES[place],
        "direction": "increase" if moved > 0 else "decrease",
        "gate": {CENTRES[place]: [middle - half, middle + half]},
    }
    return Fault(change=change, document=document)


def hit(rng: np.random.Generator, world: World, fault: Fault, size: float = 1.0, balls: int = BALLS) -> Proof:
    """Simulate one lesson under a correction; a full dose causes ``size`` of the fault's change, 0 for a movement
    without effect.
    """
    place, toward = fault.primary, np.sign(fault.change)
    towards = np.where(toward == 0, rng.choice([-1.0, 1.0], toward.size), toward)
    scatter = _scatter(rng, world, 3 * BASELINE + balls)
    base, stage = scatter[2 * BASELINE : 3 * BASELINE], scatter[3 * BASELINE :].copy()
    if world.worst:
        base = _worst(rng, world, scatter[: 3 * BASELINE], place, toward[place])
    stage += world.form * rng.normal(size=len(CENTRES))
    cooling = world.warm * (1 - np.exp(-np.arange(BASELINE + balls) / 10))[:, None] * towards
    base, stage = base + cooling[:BASELINE], stage + cooling[BASELINE:] + world.shift * towards
    doses = _doses(rng, world, balls)
    stage = stage + size * doses[:, None] * fault.change
    made = doses > 0
    for metric in ("path_deg", "face_deg") if world.aim else ():
        at = CENTRES.index(metric)
        stage[made, at] += toward[place] * world.aim / SCATTER[at]
    speeds = np.full(balls, SPEED)
    if world.slower:
        speeds *= 1 + SPEED_SCATTER * rng.normal(size=balls)
        speeds[made] *= 1 - world.slower
        stage[:, place] += toward[place] * SPEED_EFFECT * (1 - speeds / SPEED) / SPEED_SCATTER
    marks = _marks(rng, world, doses, stage[:, place] * toward[place], np.median(base[:, place]) * toward[place])
    document = KNOWLEDGE, fault.document
    correction = read_correction(*document, GOLFER, CLUB)
    return prove(
        _block(base, [None] * BASELINE, world),
        _block(stage, marks, world, world.moved, speeds),
        correction,
        world.stage,
        aim_held=[world.stick] * balls,
    )


def _scatter(rng: np.random.Generator, world: World, n: int) -> np.ndarray:
    """Draw balls (n, 6) of spread one, heavy-tailed, skewed or serially correlated, with two common factors."""
    loads = rng.normal(0, FACTORS, (2, len(CENTRES)))

    def draw(width: int) -> np.ndarray:
        if world.skew:
            values = (rng.gamma(4, size=(n, width)) - 4) / 2
        else:
            values = rng.standard_t(world.tail, (n, width)) / np.sqrt(world.tail / (world.tail - 2))
        for i in range(1, n):
            values[i] = world.ar * values[i - 1] + np.sqrt(1 - world.ar**2) * values[i]
        return values

    values = draw(2) @ loads + draw(len(CENTRES))
    return values / np.sqrt((loads**2).sum(0) + 1)


def _worst(rng, world: World, scatter: np.ndarray, place: int, toward: float) -> np.ndarray:
    blocks = scatter.reshape(3, BASELINE, -1) + world.form * rng.normal(size=(3, 1, scatter.shape[1]))
    return blocks[int(np.argmin(toward * blocks[:, :, place].mean(1)))]


def _doses(rng: np.random.Generator, world: World, n: int) -> np.ndarray:
    made = (rng.random(n) < np.linspace(*world.made, n)) & ~np.isin(np.arange(n), world.old)
    return np.where(made, np.where(rng.random(n) < world.partly, 0.5, 1.0), 0.0)


def _marks(rng, world: World, doses: np.ndarray, good: np.ndarray, middle: float) -> list[str | None]:
    words = {1.0: "done", 0.5: "partly", 0.0: "missed"}
    marks: list[str | None] = [words[float(d)] for d in doses]
    for i, value in enumerate(good):
        if rng.random() < world.follow:
            marks[i] = "done" if value > middle + 0.5 else "missed"
        if value < middle and rng.random() < world.unmarked:
            marks[i] = None
    return marks


def _block(
    values: np.ndarray,
    marks: list[str | None],
    world: World,
    moved: dict[str, float] | None = None,
    speeds: np.ndarray | None = None,
) -> Block:
    shifts = moved or {}
    rows = []
    driven = np.full(len(values), SPEED) if speeds is None else speeds
    for ball, mark, speed in zip(values * SCATTER + MIDDLE, marks, driven, strict=True):
        row = {"club": CLUB.id, "stage": world.stage if moved is not None else "full"}
        result = dict(zip(CENTRES, ball, strict=True)) | {"club_speed_mps": speed}
        result = {m: v + shifts.get(m, 0.0) for m, v in result.items() if m in world.only or m not in CENTRES}
        row |= {m: float(np.clip(v, *LIMITS[m])) for m, v in result.items()}
        if mark:
            row |= {"movement": mark, "mark_basis": world.basis}
        rows.append(row)
    return block_of(read_shots(rows), GOLFER, CLUB)

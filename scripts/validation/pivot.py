"""The pivot lane in lessons that do not come from the engine: slopes that hold, right marks, claims without cause.

Golfers here differ from the motion table in how far their fault goes, how much of it a movement removes and how much
they scatter; the instrument has an error that all balls share and a heavy-tailed error of each ball.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from instavis_core.knowledge import load_motion
from instavis_core.knowledge.camera import load_camera
from instavis_core.proof import Proof, prove, read_correction
from instavis_core.shots import Block, block_of, read_shots
from validation.lessons import CLUB, GOLFER, KNOWLEDGE, LEARNED, PARTLY, SCATTER, SPEED
from validation.report import Table

LESSONS, BASELINE, BALLS = 400, 14, 25
TRUE_SLOPE = 1.5  # ° of path for a centimeter of thrust
FAULT, DRILL = "early-extension", "bar-stool"
CAMERA = load_camera()["down-the-line"]["thrust_cm"].error
BELT = 0.4  # cm
ALIKE = 0.5  # share of the instrument's error that is the same on every ball
PATH = float(SCATTER[0])


@dataclass(frozen=True, kw_only=True)
class World:
    """What a lesson has: ``slope`` of path on thrust [°/cm]; ``error`` of the instrument [cm]; ``form`` and ``shift``
    of the stage, in spreads of the path, toward the correction; ``marks`` of a blind coach without an instrument's
    pivot.
    """

    slope: float = TRUE_SLOPE
    error: float = CAMERA
    form: float = 0.35
    shift: float = 0.0
    made: tuple[float, float] = LEARNED
    instrument: bool = True
    coach: bool = False


@dataclass(frozen=True, kw_only=True)
class Hit:
    """A lesson: the proof after every ball, and the doses that were truly made (n,)."""

    proofs: list[Proof]
    doses: np.ndarray


def tables() -> Iterator[Table]:
    """Slopes, marks and claims, each as soon as it is known."""
    return (make() for make in (_slopes, _marks, _claims))


def _slopes() -> Table:
    rows = []
    for name, world, balls in (
        ("camera, 14 balls", World(), 14),
        ("camera, 25 balls", World(), 25),
        ("belt, 14 balls", World(error=BELT), 14),
        ("camera, no slope, 25 balls", World(slope=0.0), 25),
        ("camera, no slope, shift of 1.5 SD on all balls", World(slope=0.0, shift=1.5), 25),
    ):
        held, first, middle = [], [], []
        for lesson in lessons(world, 6, balls):
            result = [p.pivot.slope for p in lesson.proofs if p.pivot]
            bounded = [s for s in result if s.low is not None and s.high is not None]
            held.append(all(s.low <= world.slope <= s.high for s in bounded))
            away = [s.balls for s in bounded if s.low > 0 or s.high < 0]
            first.append(away[0] if away else balls + 1)
            middle += [result[-1].estimate] if result[-1].estimate is not None else []
        median = int(np.median(first))
        soon = f"{median}" if median <= balls else f"> {balls}"
        rows.append([name, _share(held), f"{np.median(middle):.2f}", soon, _share([f <= balls for f in first])])
    title = f"Slope of path on thrust, {TRUE_SLOPE}°/cm where nothing else is said, {LESSONS} lessons a row, every look"
    wanted = ["wanted", "≥ .93", "1.5", "≤ 10", ""]
    header = ["", "interval holds at every look", "middle", "balls until it excludes 0", "lessons that exclude 0"]
    return Table(title, header, [*rows, wanted])


def _marks() -> Table:
    rows = []
    for name, world in (("camera", World()), ("belt", World(error=BELT))):
        right: dict[float, list[bool]] = {0.0: [], 0.5: [], 1.0: []}
        opposite: list[bool] = []
        for lesson in lessons(world, 7, BALLS, every=BALLS):
            for dose, seen in zip(lesson.doses, lesson.proofs[-1].pivot.balls, strict=True):
                if seen.mark is None:  # a baseline that scatters as widely as the movement reaches makes no marks
                    continue
                place = {"done": 1.0, "partly": 0.5, "missed": 0.0}[seen.mark]
                right[float(dose)].append(place == dose)
                opposite.append(abs(place - dose) == 1)
        rows.append([name, *(_share(right[d]) for d in (1.0, 0.5, 0.0)), _share(opposite)])
    return Table(
        "Marks by an instrument compared with the true doses",
        ["", "done is marked done", "partly as partly", "missed as missed", "the opposite mark"],
        rows,
    )


def _claims() -> Table:
    rows = []
    seen = {
        "blind coach": replace(World(), instrument=False, coach=True),
        "camera": World(),
        "belt": World(error=BELT),
    }
    for name, world in seen.items():
        cells = []
        for at in (
            world,
            replace(world, slope=0.0),
            replace(world, slope=0.0, shift=1.5, made=(0.6, 0.6)),
        ):
            cells.append(
                _share([lesson.proofs[-1].verified_at is not None for lesson in lessons(at, 8, BALLS, every=BALLS)])
            )
        rows.append([name, *cells])
    return Table(
        f"*verified* within {BALLS} balls by who saw the movement",
        ["marks by", "true slope", "no slope (wanted ≤ .03)", "no slope, all balls shifted by 1.5 SD (≤ .05)"],
        rows,
    )


def lessons(world: World, seed: int, balls: int, every: int = 1, count: int = LESSONS) -> Iterator[Hit]:
    """Made-up lessons, proved after every ``every`` balls from the sixth on."""
    rng = np.random.default_rng(seed)
    for _ in range(count):
        yield _hit(rng, world, balls, every)


def _hit(rng: np.random.Generator, world: World, balls: int, every: int) -> Hit:
    motion = load_motion()
    place = motion.place("halfway-down")
    sound = float(motion.series["thrust_cm"].sound[place])
    off = float(motion.adds[FAULT]["thrust_cm"][place]) * rng.uniform(0.6, 1.1) * np.exp(rng.normal(0, 0.3))
    made = rng.random(balls) < np.linspace(*world.made, balls)
    doses = np.where(made, np.where(rng.random(balls) < PARTLY, 0.5, 1.0), 0.0)
    taken = np.concatenate([np.zeros(BASELINE), doses]) * rng.normal(0.8, 0.15)
    thrust = sound + off * (1 - taken) + 0.8 * rng.standard_t(6, BASELINE + balls)
    alike = ALIKE * world.error * rng.normal()
    own = np.sqrt(1 - ALIKE**2) * world.error * rng.standard_t(6, thrust.size) / np.sqrt(6 / 4)
    path = 4 + world.slope * (thrust - sound - off) + PATH * rng.standard_t(5, thrust.size) / np.sqrt(5 / 3)
    path[BASELINE:] -= PATH * (world.form * rng.normal() + world.shift)
    seen = np.round(thrust + alike + own, 2)
    expected = world.slope * 0.8 * 0.8 * float(motion.adds[FAULT]["thrust_cm"][place]) or 4.0
    document = {
        "fault": FAULT,
        "primary": "path_deg",
        "direction": "decrease",
        "predicted": -expected,
        "gate": {"path_deg": [-expected - 4, 4 - expected / 2]},
        "drill": DRILL,
    }
    correction = read_correction(KNOWLEDGE, document, GOLFER, CLUB)
    base = _block(world, path[:BASELINE], seen[:BASELINE], None)
    stage = _block(world, path[BASELINE:], seen[BASELINE:], doses if world.coach else None)
    counts = [n for n in range(6, balls + 1) if (n - balls) % every == 0]
    rows = np.arange(balls)
    return Hit(proofs=[prove(base, stage.keep(rows < n), correction, "full") for n in counts], doses=doses)


def _block(world: World, path: np.ndarray, seen: np.ndarray, doses: np.ndarray | None) -> Block:
    words = {1.0: "done", 0.5: "partly", 0.0: "missed"}
    rows = []
    for i, value in enumerate(path):
        row = {"club": CLUB.id, "stage": "full", "club_speed_mps": SPEED, "path_deg": float(np.clip(value, -40, 40))}
        if world.instrument:
            row |= {"pivot": float(seen[i]), "pivot_sd": world.error}
        if doses is not None:
            row |= {"movement": words[float(doses[i])], "mark_basis": "blind"}
        rows.append(row)
    return block_of(read_shots(rows), GOLFER, CLUB)


def _share(hits: list[bool]) -> str:
    share = float(np.mean(hits))
    return f"{share:.3f} ± {np.sqrt(max(share * (1 - share), 1e-9) / len(hits)):.3f}"

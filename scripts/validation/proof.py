"""Error control of the proof: what is called verified for nothing, how soon a change is, what the alarms catch."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.proof import Proof, prove, read_correction
from instavis_core.shots import Block, block_of, read_shots
from instavis_core.terms import ProofStatus
from validation.report import Table

LESSONS, BALLS = 300, 60
BASELINES = (6, 12, 24)
EFFECTS = (1.0, 1.5, 2.0, 2.5)
SPREAD = 1.6  # ° of path from ball to ball
MADE = 0.7  # share of balls on which the movement is made and marked so
WILD = 0.05
GOLFER, CLUB = Golfer("right", 12.0), vocabulary().clubs["7i"]
GATE = {"fault": "restricted-hip-turn", "primary": "path_deg", "direction": "increase", "gate": {"path_deg": [-1, 6]}}

Scatter = Callable[[np.random.Generator, int], np.ndarray]


def _normal(rng: np.random.Generator, n: int) -> np.ndarray:
    return rng.normal(0, SPREAD, n)


def _skew(rng: np.random.Generator, n: int) -> np.ndarray:
    """Gamma scatter, skewness 1, and one ball in twenty anywhere."""
    values = (rng.gamma(4.0, 1.0, n) - 4.0) / 2.0 * SPREAD
    wild = rng.random(n) < WILD
    return np.where(wild, rng.normal(0, 5 * SPREAD, n), values)


SCATTERS: dict[str, Scatter] = {"normal": _normal, "skew and 5 % wild": _skew}


def _block(path: np.ndarray, marks: list[str], rng: np.random.Generator, **moved: float) -> Block:
    shifts = {"face_deg": 0.0, "attack_deg": 0.0, "club_speed_mps": 0.0, **moved}
    n = path.size
    columns = {
        "path_deg": path,
        "face_deg": rng.normal(1 + shifts["face_deg"], 1.8, n),
        "attack_deg": rng.normal(-4 + shifts["attack_deg"], 1.0, n),
        "club_speed_mps": rng.normal(36, 0.5, n) * (1 + shifts["club_speed_mps"]),
    }
    rows = [
        {"club": "7i", "movement": mark, "stage": "full", **{name: float(v[i]) for name, v in columns.items()}}
        for i, mark in enumerate(marks)
    ]
    return block_of(read_shots(rows), GOLFER, CLUB)


def _lesson(rng, scatter: Scatter, baseline: int, change: np.ndarray, wider: float = 1.0, **moved: float) -> Proof:
    """One lesson; ``change`` (n,) is added to each stage ball whose movement was made."""
    n = change.size
    marks = ["done" if rng.random() < MADE else "missed" for _ in range(n)]
    made = np.array([m == "done" for m in marks])
    before = _block(-3 + scatter(rng, baseline), ["unseen"] * baseline, rng)
    after = _block(-3 + wider * scatter(rng, n) + np.where(made, change, 0.0), marks, rng, **moved)
    return prove(before, after, read_correction(shipped_knowledge(), GATE, GOLFER, CLUB), "full")


def tables() -> list[Table]:
    """False verified shares, balls to verified, alarms caught."""
    return [_false(), _soon(), _caught()]


def _false() -> Table:
    """No change, looked at after every ball up to sixty."""
    rows = []
    trend = np.linspace(0, 1, BALLS) * SPREAD
    kinds = {
        "normal": (_normal, np.zeros(BALLS), 1.0),
        "skew and 5 % wild": (_skew, np.zeros(BALLS), 1.0),
        "half as wide a stage": (_normal, np.zeros(BALLS), 0.5),
        "twice as wide a stage": (_normal, np.zeros(BALLS), 2.0),
        "drift of one spread, with the movement": (_normal, trend, 1.0),
    }
    for name, (scatter, change, wider) in kinds.items():
        shares = []
        for baseline in BASELINES:
            rng = np.random.default_rng(baseline)
            told = [_lesson(rng, scatter, baseline, change, wider).verified_at for _ in range(LESSONS)]
            shares.append(f"{np.mean([t is not None for t in told]):.3f}")
        rows.append([name, *shares])
    header = ["no change, 60 balls", *(f"baseline of {b}" for b in BASELINES)]
    return Table(f"Share of lessons falsely called verified at any time, {LESSONS} a cell", header, rows)


def _soon() -> Table:
    """Balls until verified; the change is on balls whose movement was made, seven of ten."""
    rows = []
    for name, scatter in SCATTERS.items():
        for baseline in BASELINES:
            cells = []
            for effect in EFFECTS:
                rng = np.random.default_rng(int(100 * effect) + baseline)
                change = np.full(BALLS, effect * SPREAD / MADE)
                found = [_lesson(rng, scatter, baseline, change).verified_at or np.inf for _ in range(LESSONS // 3)]
                cells.append(" (".join(_count(q) for q in np.quantile(found, [0.5, 0.9], method="higher")) + ")")
            rows.append([name, baseline, *cells])
    header = ["scatter", "baseline", *(f"{e:g} SD" for e in EFFECTS)]
    return Table(
        "Balls to verified: median (90th percentile); the mean change of all balls in baseline SD", header, rows
    )


def _count(value: float) -> str:
    return f"over {BALLS}" if np.isinf(value) else f"{value:.0f}"


def _caught() -> Table:
    """Shifts that are no correction, on 12 baseline and 20 stage balls."""
    cases = {
        "aim 4° elsewhere": ("aim-shift", 4.0, {"face_deg": 4.0}),
        "aim 6° elsewhere": ("aim-shift", 6.0, {"face_deg": 6.0}),
        "ball moved back: path +3°, attack −3°": ("ball-position", 3.0, {"attack_deg": -3.0}),
        "8 % slower": ("swing-easier", 0.0, {"club_speed_mps": -0.08}),
        "12 % slower": ("swing-easier", 0.0, {"club_speed_mps": -0.12}),
    }
    rows = []
    for name, (alarm, path, moved) in cases.items():
        rng, caught, called = np.random.default_rng(7), [], []
        for _ in range(LESSONS // 2):
            before = _block(-3 + _normal(rng, 12), ["unseen"] * 12, rng)
            after = _block(-3 + path + _normal(rng, 20), ["done"] * 20, rng, **moved)
            proof = prove(before, after, read_correction(shipped_knowledge(), GATE, GOLFER, CLUB), "full")
            caught.append(alarm in [a.id for a in proof.alarms])
            called.append(proof.status == ProofStatus.VERIFIED)
        rows.append([name, alarm, f"{np.mean(caught):.2f}", f"{np.mean(called):.2f}"])
    return Table(
        "Compensations: share caught, and share called verified all the same",
        ["what", "alarm", "caught", "verified"],
        rows,
    )

"""Targets of the core: no database, no server."""

from __future__ import annotations

import json
import subprocess
import sys
from collections.abc import Iterator
from datetime import UTC, datetime

import numpy as np
from scipy.integrate import solve_ivp
from validation.published import averages

from bench.target import Measured, seconds
from instavis_core.cause import rank_causes
from instavis_core.flight import Air, fly
from instavis_core.flight.aerodynamics import (
    BALL_AREA,
    BALL_MASS,
    BALL_RADIUS,
    drag_coefficient,
    lift_coefficient,
    spin_decay_rate,
)
from instavis_core.flight.trajectory import GRAVITY
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.proof import prove, read_correction
from instavis_core.reading import read_block
from instavis_core.shots import Block, block_of, read_shots
from instavis_core.simulate import draw_golfer, simulate_shots

START = datetime(2026, 5, 4, 9, tzinfo=UTC)
BALLS = 5000
CLOSE = 0.0006  # largest allowed difference of carry from the exact run
CHECKS = (
    "foot-pressure",
    "hip-hinge",
    "ball-position",
    "stance-width",
    "pelvis-travel-back",
    "hip-turn-back",
    "trail-hip-depth",
    "first-mover",
    "pressure-shift",
    "flexion-change",
    "shaft-plane-change",
    "seat-line",
    "pelvis-open-impact",
    "head-down",
    "finish-balance",
)


def targets() -> Iterator[Measured]:
    """Measure one target after another."""
    yield from _flight()
    yield from _published()
    yield from _cause()
    yield _proof()
    yield _reading()
    yield _verb()


def _balls(n: int) -> list[np.ndarray]:
    rng = np.random.default_rng(5)
    return [
        rng.uniform(35, 75, n),
        rng.uniform(8, 32, n),
        rng.normal(0, 3, n),
        rng.uniform(2000, 9500, n),
        rng.normal(0, 8, n),
    ]


def _flight() -> Iterator[Measured]:
    balls = _balls(BALLS)
    took = seconds(lambda: fly(*balls), 5)
    few = [c[:40] for c in balls]
    exact = np.array([_integrated(ball, 1e-9) for ball in zip(*few, strict=True)])
    error = float(np.abs(fly(*few).carry_m / exact - 1).max())
    # The loosest tolerance of the general solver that is as close to the exact run as ours should be.
    for rtol in (1e-3, 1e-4, 1e-5, 1e-6):
        loose = np.array([_integrated(ball, rtol) for ball in zip(*few, strict=True)])
        if np.abs(loose / exact - 1).max() <= CLOSE:
            break
    loop = seconds(lambda: [_integrated(ball, rtol) for ball in zip(*few, strict=True)], 3) / 40 * BALLS
    yield Measured(
        what="flight, rate in one call",
        figure=f"{BALLS / took:,.0f} balls/s",
        wanted="≥ 5,000 balls/s",
        met=BALLS / took >= 5000,
    )
    yield Measured(
        what=f"flight against a loop of solve_ivp (rtol {rtol:g})",
        figure=f"{loop / took:.0f} ×",
        wanted="≥ 160 ×",
        met=loop / took >= 160,
    )
    yield Measured(
        what="flight against rtol 1e-9, largest",
        figure=f"{100 * error:.3f} % of carry",
        wanted="≤ 0.06 %",
        met=error <= CLOSE,
    )


def _integrated(ball, rtol: float) -> float:
    """Return the carry of one ball by the general solver, with forces written for one ball [m]."""
    speed, angle, direction, spin, tilt = ball
    a, d, t = np.radians([angle, direction, tilt])
    velocity = speed * np.array([np.cos(a) * np.cos(d), np.sin(a), np.cos(a) * np.sin(d)])
    turn = np.cos(t) * np.array([-np.sin(d), 0, np.cos(d)]) - np.sin(t) * np.array([0.0, 1, 0])
    turn -= velocity * (turn @ velocity) / (velocity @ velocity)
    turn /= np.sqrt(turn @ turn)
    air = Air()
    density, viscosity = air.density, air.viscosity

    def slope(_, y):
        vx, vy, vz, w = y[3:]
        v = np.sqrt(vx * vx + vy * vy + vz * vz)
        ratio = BALL_RADIUS * w / v
        force = 0.5 * density * BALL_AREA / BALL_MASS * v
        drag = -force * drag_coefficient(ratio, 2 * BALL_RADIUS * v / viscosity)
        lift = force * lift_coefficient(ratio)
        tx, ty, tz = turn
        return (
            vx,
            vy,
            vz,
            drag * vx + lift * (ty * vz - tz * vy),
            drag * vy + lift * (tz * vx - tx * vz) - GRAVITY,
            drag * vz + lift * (tx * vy - ty * vx),
            -spin_decay_rate(v) * w,
        )

    def ground(at, y):
        return y[1] if at > 0 else 1.0

    ground.terminal, ground.direction = True, -1
    start = [0, 0, 0, *velocity, spin * 2 * np.pi / 60]
    done = solve_ivp(slope, (0, 20), start, rtol=rtol, atol=rtol, events=ground)
    forward, _, right = done.y_events[0][0][:3]
    return float(np.hypot(forward, right))


def _published() -> Iterator[Measured]:
    for name in ("men", "women"):
        known = averages(name)
        flight = fly(known.ball_speed, known.launch, 0, known.spin, 0, Air(temperature_c=25))
        errors = np.abs(flight.carry_m / known.carry - 1)
        yield Measured(
            what=f"carry, published averages of elite {name} ({len(known.clubs)} clubs)",
            figure=f"largest {100 * errors.max():.1f} %, mean {100 * errors.mean():.1f} %",
            wanted="≤ 5 %, ≤ 3 %",
            met=bool(errors.max() <= 0.05 and errors.mean() <= 0.03),
        )


def _hit(fault: str, balls: int, marks: list[str] | None = None, seed: int = 3) -> list[dict]:
    golfer, club = Golfer("right", 12.0), vocabulary().clubs["7i"]
    rng = np.random.default_rng(seed)
    sim = draw_golfer(rng, {fault: 0.9}, golfer, club)
    return simulate_shots(sim, club, balls, rng, START, marks)


def _block(records: list[dict]) -> Block:
    return block_of(read_shots(records), Golfer("right", 12.0), vocabulary().clubs["7i"])


def _cause() -> Iterator[Measured]:
    block = _block(_hit("early-extension", 30))
    grades = {c: shipped_knowledge().checks[c].grades[0] for c in CHECKS}
    took = seconds(lambda: rank_causes(shipped_knowledge(), block, checks=grades))
    yield Measured(
        what="cause, 30 balls and 15 looks", figure=f"{1000 * took:.1f} ms", wanted="≤ 12 ms", met=took <= 0.012
    )
    document = json.dumps({"club": "7i", "checks": grades, "shots": _hit("early-extension", 30)})
    code = (
        "import resource, sys; from instavis_io.documents import answer_of; import json;"
        " answer_of('cause')(json.loads(sys.stdin.read()));"
        " print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss)"
    )
    done = subprocess.run([sys.executable, "-c", code], input=document, capture_output=True, text=True, check=True)
    megabytes = int(done.stdout) / 1024
    yield Measured(
        what="cause, memory of the whole process", figure=f"{megabytes:.0f} MB", wanted="≤ 200 MB", met=megabytes <= 200
    )


def _proof() -> Measured:
    golfer, club = Golfer("right", 12.0), vocabulary().clubs["7i"]
    baseline = _block(_hit("early-extension", 12))
    balls = [{**b, "stage": "full"} for b in _hit("early-extension", 72, ["done", "missed"] * 36)]
    raw = {"fault": "early-extension", "primary": "path_deg", "direction": "decrease", "gate": {"path_deg": [-1, 3]}}
    correction = read_correction(shipped_knowledge(), raw, golfer, club)
    growing = iter([_block(balls[:n]) for n in range(60, 72)])  # each time a ball that was never seen before
    prove(baseline, next(growing), correction)
    took = seconds(lambda: prove(baseline, next(growing), correction), 9)
    return Measured(
        what="proof, one more ball from 60 on", figure=f"{1000 * took:.2f} ms", wanted="≤ 1 ms", met=took <= 0.001
    )


def _reading() -> Measured:
    block = _block(_hit("early-extension", 30) * 167)
    took = seconds(lambda: read_block(block), 1)
    return Measured(what="reading of 5,000 balls", figure=f"{took:.2f} s", wanted="≤ 0.3 s", met=took <= 0.3)


def _verb() -> Measured:
    command = [sys.executable, "-m", "instavis_cli", "fly"]
    document = '{"launch": {"ball_speed_mps": 60, "launch_angle_deg": 14, "spin_rpm": 4000}}'
    took = seconds(lambda: subprocess.run(command, input=document, capture_output=True, text=True, check=True), 3)
    return Measured(what="a core verb, start to answer", figure=f"{took:.2f} s", wanted="≤ 1 s", met=took <= 1)

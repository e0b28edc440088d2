"""A golfer with hidden faults who hits balls.

The golfer's own effects are drawn around the table's and never equal them, the scatter has heavier tails than a normal
distribution, and some balls are plain mishits, so the engine's assumptions do not hold exactly.
"""

from __future__ import annotations

import uuid
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

import numpy as np

from instavis_core.cause.evidence import CENTRES, SPREADS
from instavis_core.cause.likelihood import effect_table
from instavis_core.errors import InputError
from instavis_core.flight import Air, fly
from instavis_core.golfer import Golfer, mirror
from instavis_core.impact import Delivery, launch_of
from instavis_core.knowledge import Club, vocabulary
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.message import Message

READING_ERROR = 0.5  # of the metrics' stated noise
HABIT = 0.25  # chance of the new movement when nothing was retained
PRACTICE_GAIN = 0.012  # of what is missing, a repetition at home
BALL_ONLY = ("ball_speed_mps", "launch_angle_deg", "launch_direction_deg", "spin_rpm", "spin_axis_deg")
FLIGHT = ("carry_m", "side_m", "apex_m")


@dataclass(frozen=True, kw_only=True)
class Traits:
    """Traits of a golfer: distance from the engine's assumptions, steadiness, learning and forgetting.

    ``effect_spread`` is the log SD of the golfer's own effects about the table's. ``tail_freedom`` is the degrees of
    freedom of the t scatter (large: normal). ``mishit_rate`` is the share of plain mishits. ``fatigue_from`` is the
    ball after which club speed falls by ``fatigue_share`` every ten balls. ``learning`` is the part of the missing
    skill that a try adds. ``retention_days`` is after how many days without practice about a third of the skill is
    left. ``relief`` is how much of the fault the movement removes.
    """

    effect_spread: float = 0.25
    tail_freedom: float = 6.0
    mishit_rate: float = 0.05
    fatigue_from: int = 45
    fatigue_share: float = 0.012
    learning: float = 0.06
    retention_days: float = 12.0
    relief: float = 0.85


@dataclass(kw_only=True)
class SimulatedGolfer:
    """One simulated golfer.

    ``effects[key]`` are this golfer's own effects (pieces of the engine); ``severity[key]`` is how strong each fault is
    now; ``offset`` is this golfer's deviation without faults; ``skill_of_move`` is the probability that the new
    movement succeeds when asked for; ``balls`` is how many were hit today.
    """

    golfer: Golfer
    club_speed_7i: float
    severity: dict[str, float]
    effects: dict[str, np.ndarray]
    offset: np.ndarray
    traits: Traits = Traits()
    skill_of_move: float = 0.35
    balls: int = field(default=0)

    def severity_now(self, movement: str | None) -> dict[str, float]:
        """Return the severities of one swing; the movement reduces the strongest fault."""
        relief = {"done": self.traits.relief, "partly": 0.5 * self.traits.relief}.get(movement or "", 0.0)
        lead = max(self.severity, key=lambda k: self.severity[k]) if self.severity else None
        return {key: s * (1 - relief if key == lead else 1.0) for key, s in self.severity.items()}

    def rest(self, days: float, repetitions: int = 0) -> None:
        """Let days pass between lessons: skill fades, repetitions at home retain and add to it."""
        remaining = HABIT + (self.skill_of_move - HABIT) * float(np.exp(-days / self.traits.retention_days))
        practised = 1 - (1 - PRACTICE_GAIN) ** repetitions
        self.skill_of_move = remaining + practised * (0.95 - remaining)
        self.balls = 0

    def tries(self, rng: np.random.Generator) -> str:
        """Return whether the new movement succeeds this time; each try teaches a little."""
        lucky = rng.random()
        mark = "done" if lucky < self.skill_of_move else "partly" if lucky < self.skill_of_move + 0.15 else "missed"
        self.skill_of_move += self.traits.learning * (0.95 - self.skill_of_move)
        return mark


def draw_golfer(
    rng: np.random.Generator,
    faults: dict[str, float],
    golfer: Golfer,
    club: Club,
    club_speed_7i: float | None = None,
    traits: Traits | None = None,
) -> SimulatedGolfer:
    """Draw a golfer with given faults.

    Parameters
    ----------
    rng : numpy.random.Generator
    faults : dict of float
        Severity by cause id or ``id/variant``.
    golfer : Golfer
    club : Club
        The club whose effect scale is drawn (other clubs scale from the table).
    club_speed_7i : float, optional
        Club speed with a 7 iron [m/s]; drawn from the handicap when left out.
    traits : Traits, optional

    Raises
    ------
    InputError
        For unknown faults.
    """
    known, traits = shipped_knowledge().causes, traits or Traits()
    effects = {}
    for key in faults:
        name, _, variant = key.partition("/")
        if not any(key == c.key or (c.id == name and not variant) for c in known.values()):
            raise InputError("fault", key, Message("common-one", known=", ".join(known)))
        row = effect_table((shipped_knowledge().cause(name, variant or None),), golfer, club)[0]
        effects[key] = row * np.exp(rng.normal(0, traits.effect_spread, row.size)) + rng.normal(0, 0.15, row.size) * (
            row != 0
        )
    between_sd = np.array([golfer.skill.between_sd[m] for m in CENTRES])
    offset = np.append(rng.normal(0, 0.6, between_sd.size) * between_sd, rng.normal(0, 0.12, len(SPREADS)))
    handicap = 14.0 if golfer.handicap is None else golfer.handicap
    speed = club_speed_7i or float(np.clip(38.5 - 0.28 * handicap + rng.normal(0, 1.2), 24, 43))
    return SimulatedGolfer(
        golfer=golfer, club_speed_7i=speed, severity=dict(faults), effects=effects, offset=offset, traits=traits
    )


def simulate_shots(
    sim: SimulatedGolfer,
    club: Club,
    count: int,
    rng: np.random.Generator,
    start: datetime,
    movements: list[str] | None = None,
    columns: str = "all",
    aim_deg: float = 0.0,
    speed_share: float = 1.0,
    air: Air | None = None,
    seconds: float = 45.0,
) -> list[dict[str, Any]]:
    """Simulate balls as shot records (device frame).

    Parameters
    ----------
    sim : SimulatedGolfer
    club : Club
    count : int
        Number of balls.
    rng : numpy.random.Generator
    start : datetime
        Moment of the first ball, with zone.
    movements : list of str, optional
        For each ball whether the correction's movement is made (done, partly, missed): relieves the
        strongest fault.
    columns : {"all", "ball"}
        What the monitor measures.
    aim_deg : float
        Aim away from the target [°], golfer frame.
    speed_share : float
        Of the golfer's full speed.
    air : Air, optional
    seconds : float
        Between balls.
    """
    deliveries, turfs = [], []
    for i in range(count):
        ball, turf = _swing(sim, club, rng, movements[i] if movements else None, aim_deg, speed_share)
        deliveries.append(ball)
        turfs.append(turf)
        sim.balls += 1
    table = np.array(deliveries)
    launch = launch_of(Delivery(*table.T), club)
    flight = fly(*launch.columns(), air)
    side = sim.golfer.side
    # The flight of a left-hander is the mirror image of the right-handed one computed here.
    values = dict(zip(("club_speed_mps", *CENTRES), table.T, strict=True))
    values |= dict(zip(BALL_ONLY, launch.columns(), strict=True))
    values |= {"carry_m": flight.carry_m, "side_m": flight.side_m, "apex_m": flight.apex_m}
    wanted = set(values) if columns == "all" else {*BALL_ONLY, *FLIGHT}
    measured = {name: _measured(name, column, rng) for name, column in values.items() if name in wanted}
    records = []
    for i in range(count):
        record: dict[str, Any] = {
            "shot_id": str(uuid.UUID(bytes=rng.bytes(16), version=4)),
            "at": (start + timedelta(seconds=seconds * i)).isoformat().replace("+00:00", "Z"),
            "club": club.id,
            "hand": "left" if side < 0 else "right",
        }
        for name, column in measured.items():
            record[name] = round(float(mirror(name, column[i], sim.golfer)), 2)
        if turfs[i]:
            record["turf"] = turfs[i]
        if movements:
            record["movement"] = movements[i]
        records.append(record)
    return records


def _swing(
    sim: SimulatedGolfer,
    club: Club,
    rng: np.random.Generator,
    movement: str | None,
    aim: float,
    speed_share: float,
) -> tuple[np.ndarray, str | None]:
    """Draw one delivery (speed and ``CENTRES``) and its turf mark, golfer frame."""
    skill, traits = sim.golfer.skill, sim.traits
    mean = sim.offset[: len(CENTRES)].copy()
    log_spread = sim.offset[len(CENTRES) :].copy()
    speed = sim.club_speed_7i * (club.arc_radius / vocabulary().clubs["7i"].arc_radius) * speed_share
    for key, now in sim.severity_now(movement).items():
        row = sim.effects[key]
        mean += now * row[: len(CENTRES)]
        log_spread += now * row[len(CENTRES) :]
        name, _, variant = key.partition("/")
        speed *= 1 + now * shipped_knowledge().cause(name, variant or None).effect.get("club_speed_pct", 0.0) / 100
    widen = dict.fromkeys(CENTRES, 1.0)
    for k, metric in enumerate(SPREADS.values()):
        widen[metric] = float(np.exp(log_spread[k]))
    freedom = traits.tail_freedom
    noise = rng.standard_t(freedom, len(CENTRES)) / np.sqrt(freedom / (freedom - 2))
    ball = mean + noise * np.array([skill.scatter[m] * widen[m] for m in CENTRES])
    ball[:2] += aim
    ball[2] += club.attack
    ball[3] += club.usual_dynamic_loft
    tired = max(0, sim.balls - traits.fatigue_from) / 10
    speed *= 1 - min(traits.fatigue_share * tired, 0.15)
    turf = None
    if rng.random() < traits.mishit_rate:
        turf = str(rng.choice(["thin", "fat"]))
        ball[4] += rng.normal(0, 12)
        ball[5] -= abs(rng.normal(14, 4)) if turf == "thin" else -abs(rng.normal(8, 3))
        speed *= 0.93
    return np.append(speed * (1 + rng.normal(0, 0.012)), ball), turf


def _measured(name: str, values: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    metric = vocabulary().metrics[name]
    return np.clip(values + rng.normal(0, READING_ERROR * metric.noise, values.size), *metric.range)

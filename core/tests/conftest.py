"""Golfers and balls for the core's tests; everything seeded."""

from __future__ import annotations

from datetime import UTC, datetime

import numpy as np
import pytest

from instavis_core.golfer import Golfer
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.shots import Block, block_of, read_shots
from instavis_core.simulate import draw_golfer, simulate_shots

START = datetime(2026, 5, 4, 9, tzinfo=UTC)


@pytest.fixture(scope="session")
def knowledge():
    return shipped_knowledge()


@pytest.fixture(scope="session")
def seven_iron(knowledge):
    return knowledge.vocabulary.clubs["7i"]


@pytest.fixture(scope="session")
def hit(seven_iron):
    """hit(fault or None, seed, balls=12, hand="right", …) gives the block of a simulated golfer."""

    def make(fault: str | None, seed: int, balls: int = 12, hand: str = "right", **options) -> Block:
        rng = np.random.default_rng(seed)
        golfer = Golfer(hand, options.pop("handicap", 12.0))
        severity = options.pop("severity", 0.9)
        sim = draw_golfer(rng, {fault: severity} if fault else {}, golfer, seven_iron)
        sim.offset[4] += options.pop("toe_mm", 0.0)
        return block_of(read_shots(simulate_shots(sim, seven_iron, balls, rng, START, **options)), golfer, seven_iron)

    return make


@pytest.fixture
def records():
    """records(n, **centres) gives plain shot records with small seeded scatter."""

    def make(n: int, seed: int = 1, sd: float = 1.0, **centres) -> list[dict]:
        rng = np.random.default_rng(seed)
        usual = {"club_speed_mps": 36.0, "path_deg": 0.0, "face_deg": 0.0, "attack_deg": -3.8, "dynamic_loft_deg": 27.0}
        middle = {**usual, "strike_toe_mm": 0.0, "strike_high_mm": 0.0, **centres}
        return [{"club": "7i", **{k: float(v + sd * rng.normal()) for k, v in middle.items()}} for _ in range(n)]

    return make

"""How many balls a comparison needs, and their order."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.special import nctdtr, stdtrit

from instavis_core.errors import InputError
from instavis_core.message import Message
from instavis_core.proof.proof_set import MAX_BALLS

ALPHA, POWER = 0.05, 0.80
MIN_PAIRS = 4  # fewer cannot reach p ≤ 0.05: 2 of C(8, 4) = 70 orders


@dataclass(frozen=True)
class Plan:
    """A comparison: ``balls`` in total, half of each; ``power`` to detect the wanted effect; a sentence."""

    balls: int
    power: float
    sentence: Message


def plan_comparison(effect: float, spread: float) -> Plan:
    """Return the balls needed to detect an effect, two-sided at 0.05 with power 0.8.

    Power of the two-sample t test (noncentral t), which the exact permutation test follows closely here; at most twenty
    balls, because every order is counted.

    Parameters
    ----------
    effect : float
        Wanted difference between both moves, in the metric's unit; the sign does not matter.
    spread : float
        One SD from ball to ball in the baseline.

    Raises
    ------
    InputError
        For an effect or spread that is not a positive number.
    """
    for name, value in (("effect", abs(effect)), ("spread", spread)):
        if not np.isfinite(value) or value <= 0:
            raise InputError(name, value, Message("prove-number-above-0"))
    size = abs(effect) / spread
    pairs = MIN_PAIRS
    while pairs < MAX_BALLS // 2 and _power(size, pairs) < POWER:
        pairs += 1
    power = _power(size, pairs)
    balls = 2 * pairs
    if power >= POWER:
        sentence = Message(
            "prove-balls-detect-difference-100-tests",
            balls=balls,
            effect=abs(effect),
            power=100 * power,
        )
    else:
        sentence = Message(
            ("prove-even-balls-detect-difference-only"),
            balls=balls,
            effect=abs(effect),
            power=100 * power,
        )
    return Plan(balls, power, sentence)


def _power(size: float, pairs: int) -> float:
    freedom, shift = 2 * pairs - 2, size * np.sqrt(pairs / 2)
    bar = stdtrit(freedom, 1 - ALPHA / 2)
    return float(1 - nctdtr(freedom, shift, bar) + nctdtr(freedom, shift, -bar))


def call_order(balls: int, rng: np.random.Generator) -> list[bool]:
    """Return a random order, as many new as old, at most three of a kind in a row; True is new.

    Raises
    ------
    InputError
        For an odd number of balls, or one out of range.
    """
    if not 2 * 2 <= balls <= MAX_BALLS or balls % 2:
        raise InputError("balls", balls, Message("prove-even-number-4", most=MAX_BALLS))
    while True:
        order = rng.permutation([True] * (balls // 2) + [False] * (balls // 2)).tolist()
        if not any(len(set(order[i : i + 4])) == 1 for i in range(balls - 3)):
            return order

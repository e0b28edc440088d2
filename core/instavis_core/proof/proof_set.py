"""Old move against new move in a called order: exact permutation test and effect."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

import numpy as np
from scipy.special import stdtrit

from instavis_core.errors import InputError
from instavis_core.message import Message

MAX_BALLS = 20  # C(20, 10) = 184,756 orders are still enumerated
MIN_EACH = 2


@dataclass(frozen=True, kw_only=True)
class ProofSetResult:
    """Effect (new minus old, golfer frame), its 95 % interval, the exact two-sided p and a sentence."""

    effect: float
    low: float
    high: float
    confidence: float
    p: float
    balls_old: int
    balls_new: int
    miscalled: int
    sentence: Message


def evaluate_proof_set(values: np.ndarray, new: np.ndarray, miscalled: int = 0) -> ProofSetResult:
    """Evaluate a proof set.

    Parameters
    ----------
    values : array, shape (n,)
        The metric of each ball, golfer frame.
    new : array of bool, shape (n,)
        Whether the ball was hit with the new move (or the second cue).
    miscalled : int
        Balls hit against the call; they are counted in the sentence and left out of the test.

    Raises
    ------
    InputError
        With fewer than two balls of a kind or more than twenty in all.
    """
    values, new = np.asarray(values, float), np.asarray(new, bool)
    n, k = values.size, int(new.sum())
    if k < MIN_EACH or n - k < MIN_EACH:
        raise InputError(
            "proof_set.shots",
            {"old": n - k, "new": k},
            Message("prove-least-each", least=MIN_EACH),
        )
    if n > MAX_BALLS:
        raise InputError(
            "proof_set.shots",
            n,
            Message("prove-most-balls-one-test", most=MAX_BALLS),
        )
    effect = float(values[new].mean() - values[~new].mean())
    p = _permutation_p(values, k, effect)
    half = _half_width(values[new], values[~new])
    sure = "does" if p <= 0.05 else Message("prove-may-may-not")
    sentence = Message(
        "prove-new-move-change-number-student",
        sure=sure,
        effect=effect,
        p=p,
    )
    if miscalled:
        sentence += Message("prove-hit-against-call", n=miscalled)
    return ProofSetResult(
        effect=effect,
        low=effect - half,
        high=effect + half,
        confidence=0.95,
        p=p,
        balls_old=n - k,
        balls_new=k,
        miscalled=miscalled,
        sentence=sentence,
    )


def _permutation_p(values: np.ndarray, k: int, effect: float) -> float:
    n = values.size
    count = math.comb(n, k)
    picks = np.fromiter(itertools.chain.from_iterable(itertools.combinations(range(n), k)), np.int8, count * k)
    sums = values[picks.reshape(count, k)].sum(axis=1)
    differences = sums / k - (values.sum() - sums) / (n - k)
    return float(np.mean(np.abs(differences) >= abs(effect) - 1e-9))


def _half_width(a: np.ndarray, b: np.ndarray) -> float:
    va, vb = a.var(ddof=1) / a.size, b.var(ddof=1) / b.size
    if va + vb <= 0:
        return 0.0
    freedom = (va + vb) ** 2 / (va**2 / (a.size - 1) + vb**2 / (b.size - 1))
    return float(stdtrit(freedom, 0.975) * np.sqrt(va + vb))

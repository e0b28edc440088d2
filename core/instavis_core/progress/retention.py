"""How much of a change remains in the cold test: a ratio of two differences with its interval.

Retained share = (cold − baseline) / (exit − baseline). Both differences share the baseline, so the interval is
Fieller's for a ratio of correlated normals (Fieller, *J. R. Stat. Soc. B* 16 (1954) 175). If the exit change may be
zero, there is no share.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.special import stdtrit

from instavis_core.message import Message
from instavis_core.proof.change import clipped

MIN_COLD, MIN_EXIT, MIN_BASELINE = 5, 4, 5
CONFIDENCE = 0.90
RETAINED, LOST = 0.7, 0.5


@dataclass(frozen=True, kw_only=True)
class Retention:
    """``share`` with its 90 % interval, or None; a word and a sentence.

    ``word`` is kept, partly, relapsed, or open. ``relapse`` is true if at most half can remain.
    """

    share: float | None
    low: float | None
    high: float | None
    word: str
    relapse: bool
    sentence: Message
    baseline: float | None
    exit: float | None
    cold: float | None


def retained_share(baseline: np.ndarray, exit_balls: np.ndarray, cold: np.ndarray) -> Retention:
    """Return the share of a change that a cold test still shows.

    Parameters
    ----------
    baseline, exit_balls, cold : array
        The correction's number on the first lesson's baseline, its last balls, and the first balls of the next
        lesson, golfer frame.
    """
    groups = [clipped(np.asarray(g, float)[~np.isnan(np.asarray(g, float))]) for g in (baseline, exit_balls, cold)]
    sizes = [g.size for g in groups]
    middles = [float(g.mean()) if g.size else None for g in groups]
    if sizes[2] < MIN_COLD:
        left = MIN_COLD - sizes[2]
        return _open(
            middles,
            Message("take-home-more-balls-needed", n=left),
        )
    if sizes[0] < MIN_BASELINE or sizes[1] < MIN_EXIT:
        return _open(middles, Message("take-home-last-lesson-too-few-balls"))
    base, end, now = (float(g.mean()) for g in groups)
    freedom = sum(sizes) - 3
    pooled = sum(((g - g.mean()) ** 2).sum() for g in groups) / freedom
    errors = [pooled / n for n in sizes]
    ratio = fieller(end - base, now - base, errors[1] + errors[0], errors[2] + errors[0], errors[0], freedom)
    if ratio is None:
        return _open(middles, Message("take-home-change-last-lesson-not-certain"))
    share, low, high = ratio
    word, sentence = _words(share, low, high)
    return Retention(
        share=share,
        low=low,
        high=high,
        word=word,
        relapse=high < LOST,
        sentence=sentence,
        baseline=base,
        exit=end,
        cold=now,
    )


def fieller(
    full: float, remaining: float, v_full: float, v_remaining: float, shared: float, freedom: int
) -> tuple[float, float, float] | None:
    """Return the ratio of retained to full change with its 90 % interval; None if the full change may be zero.

    ``v_whole``, ``v_kept`` and ``shared`` are the variances of the two differences and their covariance.
    """
    bar = float(stdtrit(freedom, 0.5 + CONFIDENCE / 2)) ** 2
    a = full**2 - bar * v_full
    if a <= 0:
        return None
    b, c = full * remaining - bar * shared, remaining**2 - bar * v_remaining
    root = np.sqrt(max(b * b - a * c, 0.0))
    return remaining / full, float((b - root) / a), float((b + root) / a)


def _open(middles: list[float | None], sentence: Message) -> Retention:
    baseline, end, cold = middles
    return Retention(
        share=None,
        low=None,
        high=None,
        word="open",
        relapse=False,
        sentence=sentence,
        baseline=baseline,
        exit=end,
        cold=cold,
    )


def _words(share: float, low: float, high: float) -> tuple[str, Message]:
    result = Message(
        "take-home-change-cold-test",
        share=_percent(share),
        low=_percent(low),
        high=_percent(high),
    )
    if share <= 0:
        most = Message("take-home-most", percent=_percent(high)) if high > 0 else ""
        result = Message("take-home-nothing-change-left-cold-test", most=most)
    if high < LOST:
        return "relapsed", Message("take-home-relapsed-step-down-find-movement", text=result)
    if low > LOST and share >= RETAINED:
        return "kept", Message("take-home-held-continue-stage-you-reached", text=result)
    if low > 0:
        return "partly", Message("take-home-partly-retained-one-stage-down", text=result)
    return "open", Message("take-home-not-clear-yet-hit-more", text=result)


def _percent(share: float) -> Message:
    return Message("percent", share=f"{100 * share:.0f}".replace("-", "−"))

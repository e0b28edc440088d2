"""Whether a change learned with one club carries over to another: a ratio of two independent differences.

Transferred share = (other club now − other club before) / (exit − baseline) of the club it was learned with, Fieller's
interval as for the retained share, without a shared baseline.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.message import Message
from instavis_core.progress.retention import RETAINED, fieller
from instavis_core.proof.change import clipped

MINIMUM = 5


@dataclass(frozen=True, kw_only=True)
class Transfer:
    """``share`` of the change with its 90 % interval, or None; ``word`` is carries-over, partly, not-yet or open."""

    share: float | None
    low: float | None
    high: float | None
    word: str
    sentence: Message


def transferred_share(
    baseline: np.ndarray, exit_balls: np.ndarray, other_before: np.ndarray, other_now: np.ndarray
) -> Transfer:
    """Return the share of a change that another club shows.

    Parameters
    ----------
    baseline, exit_balls : array
        The correction's number with the club it was learned with, before and at the end, golfer frame.
    other_before, other_now : array
        The same number with the other club, before the correction and now.
    """
    groups = [
        clipped(np.asarray(g, float)[~np.isnan(np.asarray(g, float))])
        for g in (baseline, exit_balls, other_before, other_now)
    ]
    if min(g.size for g in groups) < MINIMUM:
        return _open(Message("take-home-needs-balls-before-after-both", least=MINIMUM))
    freedom = sum(g.size for g in groups) - 4
    pooled = sum(((g - g.mean()) ** 2).sum() for g in groups) / freedom
    base, end, before, now = (float(g.mean()) for g in groups)
    n = [g.size for g in groups]
    errors = pooled * (1 / n[0] + 1 / n[1]), pooled * (1 / n[2] + 1 / n[3])
    ratio = fieller(end - base, now - before, *errors, 0.0, freedom)
    if ratio is None:
        return _open(Message("take-home-change-first-club-not-certain"))
    share, low, high = ratio
    result = Message(
        "take-home-change-shows",
        share=100 * share,
        low=100 * low,
        high=100 * high,
    ).replace("-", "−")
    if low > 0 and share >= RETAINED:
        return Transfer(
            share=share,
            low=low,
            high=high,
            word="carries-over",
            sentence=Message("take-home-carries-over", text=result),
        )
    if low > 0:
        return Transfer(
            share=share, low=low, high=high, word="partly", sentence=Message("take-home-partly", text=result)
        )
    if high < RETAINED:
        return Transfer(
            share=share,
            low=low,
            high=high,
            word="not-yet",
            sentence=Message("take-home-not-yet-practice-club-too", text=result),
        )
    return Transfer(
        share=share,
        low=low,
        high=high,
        word="open",
        sentence=Message("take-home-not-clear-yet-hit-more-balls", text=result),
    )


def _open(sentence: Message) -> Transfer:
    return Transfer(share=None, low=None, high=None, word="open", sentence=sentence)

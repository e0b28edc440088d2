"""Which drill works for which fault, and whether more practice gives more retention, from small numbers.

Shares with Jeffreys' interval; dose and retention by Kendall's rank correlation with its exact p-value (*Biometrika* 30
(1938) 81).
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from instavis_core.message import Message
from instavis_core.reading.robust import share_interval
from instavis_core.terms import JUDGED, Outcome

MIN_JUDGED, MIN_LESSONS = 5, 5
CONFIDENCE = 0.90
CLEAR_WIDTH = 0.45  # of the interval from which a share is more than a hint (assumption)
CALLED_AT = 0.10


@dataclass(frozen=True, kw_only=True)
class DrillOutcome:
    """Results of a drill for a fault: counts by outcome, and the share verified with its 90 % interval."""

    fault: str
    drill: str
    verified: int
    not_supported: int
    stopped: int
    open: int
    share: float | None
    low: float | None
    high: float | None
    word: Message


@dataclass(frozen=True, kw_only=True)
class DoseLink:
    """Dose against retention over several lessons: rank correlation (None for too few), its p-value, and a sentence."""

    lessons: int
    tau: float | None
    p: float | None
    sentence: Message


def drill_outcomes(corrections: Sequence[tuple[str, str, str]]) -> list[DrillOutcome]:
    """Count corrections by fault and drill.

    Parameters
    ----------
    corrections : sequence of (fault, drill, outcome)

    Returns
    -------
    list of DrillOutcome
        The surest first: by the lower end of the interval, then by how many were judged.
    """
    counts: dict[tuple[str, str], Counter[str]] = {}
    for fault, drill, outcome in corrections:
        counts.setdefault((fault, drill), Counter())[outcome] += 1
    rows = [_row(fault, drill, count) for (fault, drill), count in counts.items()]
    return sorted(rows, key=lambda r: (-(r.low or 0.0), -(r.verified + r.not_supported), r.fault, r.drill))


def _row(fault: str, drill: str, count: Counter[str]) -> DrillOutcome:
    hits, misses = (count[name] for name in JUDGED)
    n = hits + misses
    share, low, high = share_interval(hits, n, CONFIDENCE)
    if low is None or high is None or n < MIN_JUDGED:
        word = (
            Message("take-home-needs-more-results", least_judged=MIN_JUDGED - n)
            if n
            else Message("take-home-not-judged-yet")
        )
    elif high - low > CLEAR_WIDTH:
        word = Message("take-home-hint-only")
    else:
        word = (
            Message("take-home-often-works")
            if low > 0.5
            else Message("take-home-often-fails")
            if high < 0.5
            else Message("take-home-sometimes")
        )
    return DrillOutcome(
        fault=fault,
        drill=drill,
        verified=hits,
        not_supported=misses,
        stopped=count[Outcome.STOPPED],
        open=count[Outcome.OPEN],
        share=share,
        low=low,
        high=high,
        word=word,
    )


def dose_against_retention(pairs: Sequence[tuple[float, float]]) -> DoseLink:
    """Test whether more practice goes with more retention.

    Parameters
    ----------
    pairs : sequence of (share of the planned days practised, retained share)
    """
    n = len(pairs)
    if n < MIN_LESSONS:
        return DoseLink(
            lessons=n,
            tau=None,
            p=None,
            sentence=Message(
                "take-home-needs-more-cold-tests-compare",
                least_lessons=MIN_LESSONS - n,
            ),
        )
    dose, retained = np.array(pairs, float).T
    if np.ptp(dose) == 0 or np.ptp(retained) == 0:
        return DoseLink(
            lessons=n,
            tau=None,
            p=None,
            sentence=Message("take-home-all-lessons-alike-here-so"),
        )
    # Statistics take most of a second to import, and only outcomes need them.
    from scipy.stats import kendalltau

    found = kendalltau(dose, retained)
    tau, p = float(found.statistic), float(found.pvalue)
    if p > CALLED_AT:
        return DoseLink(
            lessons=n,
            tau=tau,
            p=p,
            sentence=Message("take-home-lessons-practice-retention-show-no", n=n),
        )
    direction = "more" if tau > 0 else "less"
    return DoseLink(
        lessons=n,
        tau=tau,
        p=p,
        sentence=Message("take-home-lessons-more-practice-went-retention", n=n, way=direction, p=100 * p),
    )

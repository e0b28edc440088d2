"""Where the baseline ran: what the balls of a proof are drawn against."""

from __future__ import annotations

import numpy as np

from instavis_core.knowledge import vocabulary
from instavis_core.proof.baseline import baseline_of
from instavis_core.proof.correction import Correction
from instavis_core.reading.completion import complete
from instavis_core.reading.robust import summarise
from instavis_core.shots import Block

MIN_BALLS = 3


def baseline_band(
    block: Block, correction: Correction, aside: frozenset[int] = frozenset()
) -> dict[str, tuple[float, float]]:
    """Middle minus and plus one spread of every metric of club and ball that three clean baseline balls know.

    Parameters
    ----------
    block : Block
        The baseline that the correction is measured from, golfer frame.
    correction : Correction
    aside : frozenset of int
        0-based balls the coach set apart.

    Returns
    -------
    dict of (low, high)
        In the metric's unit, golfer frame.
    """
    columns = complete(baseline_of(block, correction, aside).clean, check_readings=False).columns
    band = {}
    for metric in vocabulary().metrics.values():
        values = columns.get(metric.id)
        if metric.lane not in ("club", "ball") or values is None or np.count_nonzero(~np.isnan(values)) < MIN_BALLS:
            continue
        told = summarise(values)
        spread = told.spread or 0.0
        band[metric.id] = (round(told.centre - spread, 2), round(told.centre + spread, 2))
    return band

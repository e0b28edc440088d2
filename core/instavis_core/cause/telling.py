"""Compare how much two checks or more balls would help, and in how many minutes."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from instavis_core.cause.evidence import Measured
from instavis_core.cause.likelihood import Fit, between_subjects
from instavis_core.cause.results import NextCheck
from instavis_core.golfer import Golfer
from instavis_core.knowledge import Check, Club
from instavis_core.message import Message

MORE_BALLS, BALL_SECONDS = 18, 43.0  # joined with a word between them


def checks_or_balls(
    measured: Measured,
    fit: Fit,
    weight: np.ndarray,
    gains: Sequence[NextCheck],
    checks: dict[str, Check],
    golfer: Golfer,
    club: Club,
) -> Message | None:
    """Return the sentence that compares the two best open checks with more balls; None without balls or checks.

    Balls only sharpen the centers. Each piece is a channel: its signal is how the combinations differ, and its noise is
    how golfers differ plus its own error (capacity of a Gaussian channel, Shannon 1949). Both are counted in bits.
    Checks seldom give the same information, so theirs are added.
    """
    if not measured.clean or len(gains) < 2:
        return None
    known = np.flatnonzero(~np.isnan(measured.away))
    middle = fit.mean[known] @ weight
    signal = ((fit.mean[known] - middle[:, None]) ** 2) @ weight
    own = between_subjects(golfer, club)[known] ** 2
    device = measured.device[known] ** 2
    sampling = measured.error[known] ** 2 - device
    fewer = sampling * measured.clean / (measured.clean + MORE_BALLS)
    now, then = own + device + sampling, own + device + fewer
    balls = 0.5 * np.log2((1 + signal / then) / (1 + signal / now)).sum()
    best = gains[:2]
    result = {
        "seconds": sum(checks[check.id].seconds for check in best),
        "balls": MORE_BALLS,
        "minutes": MORE_BALLS * BALL_SECONDS / 60,
    }
    if sum(check.gain_bits for check in best) > balls:
        return Message("cause-two-checks-help-more-balls", **result)
    return Message("cause-balls-min-help-more-two", **result)

"""Numbers that contradict the other numbers of their balls too often: a wrong sign or unit, not the golfer."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

from instavis_core.knowledge import vocabulary
from instavis_core.message import Message

SHARE, MINIMUM = 0.2, 3  # share and number of balls above which it is not a single bad reading


def disagreements(doubtful: Sequence[str | None]) -> tuple[Message, ...]:
    """Return a sentence for every number that contradicts the others on a fifth of the balls, most frequent first.

    Parameters
    ----------
    doubtful : sequence of str or None
        For every ball the number that cannot be reconciled with the rest of it.
    """
    counts = Counter(name for name in doubtful if name)
    return tuple(
        Message(
            ("baseline-disagrees-rest-ball-balls-left"),
            label=vocabulary().metrics[name].label,
            count=count,
            balls=len(doubtful),
        )
        for name, count in counts.most_common()
        if count >= max(MINIMUM, SHARE * len(doubtful))
    )

"""Notes about a ranking as a whole."""

from __future__ import annotations

import numpy as np

from instavis_core.cause.calibration import logit
from instavis_core.cause.evidence import Measured
from instavis_core.cause.results import CauseRow, Evidence
from instavis_core.message import Message, joined

ENOUGH_PROBABILITY = 0.70
ENOUGH_BALLS = 5
CARRIED_BELOW = 0.0  # log-odds: without the check it would be even at most


def notes_of(
    measured: Measured, faults: list[CauseRow], compensations: list[CauseRow], telling: Message | None
) -> list[Message]:
    """Return notes on a ranking: what is missing, what else could explain it, and what it depends on."""
    notes = []
    if measured.clean == 0:
        notes.append(Message("cause-no-balls-yet-ranking-uses"))
    elif measured.clean < ENOUGH_BALLS:
        notes.append(Message("cause-only-clean-balls-take-first", clean=measured.clean))
    if telling is not None and faults[0].probability < ENOUGH_PROBABILITY:
        notes.append(Message("cause-several-faults-can-produce-these", telling=telling))
    if compensations and compensations[0].probability >= 0.4:
        notes.append(
            Message(
                "cause-may-explain-without-pivot",
                label=compensations[0].label,
                happens=compensations[0].happens,
            )
        )
    if len(measured.clubs) > 1:
        notes.append(
            Message(
                ("cause-balls-combined-one-golfers-numbers"),
                clubs=joined([club.label for club in measured.clubs], "and"),
                club=measured.clubs[0].label,
            )
        )
    if measured.inferred:
        notes.append(Message("cause-some-club-values-inferred-ball"))
    carried = _carried_by(faults[0])
    if carried is not None:
        notes.append(Message("cause-one-check-decides-see-twice", check=carried.text))
    return [*measured.disagreements, *notes]


def _carried_by(leader: CauseRow) -> Evidence | None:
    """Return the one check without which the leading fault would not be likely."""
    if leader.probability < ENOUGH_PROBABILITY:
        return None
    answers = [e for e in leader.evidence if e.kind == "check"]
    odds = float(logit(np.array(leader.probability)))
    return next((e for e in answers if odds - e.log_odds < CARRIED_BELOW), None)

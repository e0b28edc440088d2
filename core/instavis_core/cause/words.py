"""Log likelihoods of the intake's sides and words, and the text of evidence."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from scipy.special import ndtr

from instavis_core.cause.evidence import CENTRES, PIECES, SPREADS, Intake, Measured, golfer_side
from instavis_core.cause.hypotheses import Hypotheses
from instavis_core.golfer import Golfer
from instavis_core.knowledge import Check, vocabulary
from instavis_core.message import NOTHING, Message, joined
from instavis_core.reading.words import say

FACE_SHARE = 0.72  # of the start direction, mid iron (the impact model's own figure)
MEMORY_SD = 3.2  # ° between what a golfer remembers and what the balls did (assumption)
STRAIGHT_WITHIN = 2.0  # °
BOTH_BASE, BOTH_SLOPE = 0.10, 0.35
OLD_FAULT = 0.7  # log-odds: an earlier fault comes back more often than a new one appears (assumption)
REMEMBERED_WEIGHT = 0.5  # weight of a remembered side when the block already measured it


def log_side(name: str, intake: Intake, golfer: Golfer, means: np.ndarray, measured: bool) -> np.ndarray | None:
    """Log probability of the remembered start or curve for each combination, shape (s,)."""
    side = golfer_side(getattr(intake, name), golfer)
    if side is None:
        return None
    path, face = means[0], means[1]
    angle = FACE_SHARE * face + (1 - FACE_SHARE) * path if name == "start" else face - path
    both = np.clip(BOTH_BASE + BOTH_SLOPE * means[PIECES.index("face_spread")], 0.05, 0.6)
    trail = 1 - ndtr((STRAIGHT_WITHIN - angle) / MEMORY_SD)
    lead = ndtr((-STRAIGHT_WITHIN - angle) / MEMORY_SD)
    one = {"trail": trail, "lead": lead, "straight": 1 - trail - lead}
    share = both if side == "both" else (1 - both) * one[side]
    return (REMEMBERED_WEIGHT if measured else 1.0) * np.log(0.04 + 0.96 * share)


def metric_text(piece: str, measured: Measured) -> Message:
    """Return the text for a block statistic."""
    metrics = vocabulary().metrics
    k = PIECES.index(piece)
    value = measured.away[k]
    if piece in SPREADS:
        label = metrics[SPREADS[piece]].label
        times = np.exp(value)
        return Message("cause-varies-times-much-usual-level", label=label, times=times)
    label = metrics[piece].label
    origin = Message("cause-inferred") if piece in measured.inferred else ""
    if piece in ("attack_deg", "dynamic_loft_deg"):
        if round(value, 1) == 0:
            return Message("cause-as-usual-for-club", label=label, origin=origin)
        side = Message("cause-more") if value > 0 else Message("cause-less")
        return Message(
            "cause-usual-club",
            label=label,
            value=abs(value),
            side=side,
            origin=origin,
        )
    return Message("cause-value", label=label, say=say(piece, value), origin=origin)


def check_text(known: Check, grades: tuple[str, ...]) -> Message:
    """Return the text for an answered check."""
    answers = [Message.entry(f"answer-{grade}", grade.replace("-", " ")) for grade in grades]
    return (
        Message("cause-answer", label=known.label, seen=answers[0])
        if len(set(answers)) == 1
        else Message("cause-coaches-disagree", label=known.label, join=joined(answers, "or"))
    )


Spoken = tuple[str, str, Message, np.ndarray]
"""Kind, id, sentence and log likelihood (s,) of something the student said."""


SIDES = {
    "both": Message("cause-both-sides"),
    "straight": Message("common-straight"),
    "left": Message("cause-to-side", side=Message("common-left")),
    "right": Message("cause-to-side", side=Message("common-right")),
}


def side_text(name: str, side: str) -> Message:
    """Return the text for a remembered side."""
    result = SIDES[side]
    return Message(
        "cause-student-says-balls",
        name=Message("cause-start") if name == "start" else Message("common-curve"),
        text=result,
    )


def word_text(key: str) -> Message:
    """Return the text for a contact or feel word."""
    kind = Message("cause-contact") if key.startswith("contact") else Message("cause-feel")
    return Message("cause-students", kind=kind, label=vocabulary().intake_words[key].label.lower())


def intake_pieces(
    intake: Intake, golfer: Golfer, space: Hypotheses, means: np.ndarray, away: np.ndarray
) -> Iterator[Spoken]:
    """The intake as (kind, id, text, log likelihood) pieces."""
    for fault in intake.old_faults:
        columns = [i for i, cause in enumerate(space.causes) if cause.id == fault]
        label = space.causes[columns[0]].family.lower()
        yield (
            "intake",
            f"old:{fault}",
            Message("cause-earlier-fault-student", label=label),
            OLD_FAULT * space.membership[:, columns].max(1),
        )
    measured = not np.isnan(away[: len(CENTRES)]).all()
    for name in ("start", "curve"):
        log = log_side(name, intake, golfer, means, measured)
        if log is not None:
            yield "intake", name, side_text(name, getattr(intake, name)), log
    for kind, spoken in (("contact", intake.contact), ("feel", intake.feels)):
        if not spoken:
            continue
        for key, table in space.log_word.items():
            if not key.startswith(f"{kind}:"):
                continue
            if key.split(":")[1] in spoken:
                yield "intake", key, word_text(key), table[:, 1]
            else:
                # A word that was not mentioned is weak evidence: people do not list everything.
                yield "silence", key, NOTHING, 0.4 * table[:, 0]

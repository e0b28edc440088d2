"""Log likelihoods of the intake's sides and words, and the sentences evidence is told in."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from scipy.special import ndtr

from instavis_core.cause.evidence import CENTRES, PIECES, SPREADS, Intake, Measured, golfer_side
from instavis_core.cause.space import Space
from instavis_core.golfer import Golfer
from instavis_core.knowledge import Check, vocabulary
from instavis_core.reading.words import say

FACE_SHARE = 0.72  # of the start direction, mid iron (the impact model's own figure)
MEMORY_SD = 3.2  # ° between what a golfer remembers and what the balls do (assumption)
STRAIGHT_WITHIN = 2.0  # °
BOTH_BASE, BOTH_SLOPE = 0.10, 0.35
OLD_FAULT = 0.7  # log odds: what was once there comes back more often than it comes new (assumption)
TOLD_TWICE = 0.5  # weight of a remembered side when the block already measured it


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
    return (TOLD_TWICE if measured else 1.0) * np.log(0.04 + 0.96 * share)


def metric_text(piece: str, measured: Measured) -> str:
    """The sentence for a block statistic."""
    metrics = vocabulary().metrics
    k = PIECES.index(piece)
    value = measured.away[k]
    if piece in SPREADS:
        label = metrics[SPREADS[piece]].label
        times = np.exp(value)
        return f"{label} varies {times:.1f} times as much as usual at this level"
    label = metrics[piece].label
    origin = " (inferred)" if piece in measured.inferred else ""
    if piece in ("attack_deg", "dynamic_loft_deg"):
        side = "more than" if value > 0 else "less than"
        return f"{label} {abs(value):.1f}° {side} usual for this club{origin}"
    return f"{label} {say(piece, value)}{origin}"


def check_text(known: Check, grades: tuple[str, ...]) -> str:
    """The sentence for a graded look."""
    seen = [grade.replace("-", " ") for grade in grades]
    return f"{known.label}: {seen[0]}" if len(set(seen)) == 1 else f"{known.label}: coaches differ, {' or '.join(seen)}"


Spoken = tuple[str, str, str, np.ndarray]
"""Kind, id, sentence and log likelihood (s,) of something the student said."""


def side_text(name: str, side: str) -> str:
    """The sentence for a remembered side."""
    told = {"both": "to both sides", "straight": "straight"}.get(side, f"to the {side}")
    return f"Student says balls {'start' if name == 'start' else 'curve'} {told}"


def word_text(key: str) -> str:
    """The sentence for a contact or feel word."""
    kind = "contact" if key.startswith("contact") else "feel"
    return f"Student's {kind}: {vocabulary().intake_words[key].label.lower()}"


def intake_pieces(
    intake: Intake, golfer: Golfer, space: Space, means: np.ndarray, away: np.ndarray
) -> Iterator[tuple[str, str, str, np.ndarray]]:
    """The intake as (kind, id, text, log likelihood) pieces."""
    for fault in intake.old_faults:
        columns = [i for i, cause in enumerate(space.causes) if cause.id == fault]
        label = space.causes[columns[0]].label.split(",")[0].lower()
        yield (
            "intake",
            f"old:{fault}",
            f"An old fault of this student: {label}",
            OLD_FAULT * space.members[:, columns].max(1),
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
                # Not saying a word is weak evidence: people do not list everything.
                yield "silence", key, "", 0.4 * table[:, 0]

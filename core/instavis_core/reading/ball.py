"""One ball of a block in detail: what was measured, what was inferred, and what caused its flight."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from instavis_core.impact.edges import contact_of
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message
from instavis_core.reading.block import clean_balls, low_points
from instavis_core.reading.completion import CompletedBlock, complete
from instavis_core.reading.shares import BlockShares, ball_shares, shares_of
from instavis_core.reading.words import say
from instavis_core.shots import Block

START_PARTS = {
    "face_deg": Message("baseline-face"),
    "path_deg": Message("baseline-path"),
    "strike_deg": Message("baseline-strike"),
    "rest_deg": Message("baseline-something-else"),
}
CURVE_PARTS = {
    "face_to_path_deg": Message("baseline-face-path"),
    "strike_deg": Message("baseline-strike"),
    "rest_deg": Message("baseline-something-else"),
}
LOST_PARTS = {
    "off_centre_mps": Message("baseline-off-center-strike"),
    "glancing_mps": Message("baseline-glancing-blow"),
    "added_loft_mps": Message("baseline-added-loft"),
    "club_speed_mps": Message("baseline-club-speed"),
    "rest_mps": Message("baseline-something-else"),
}
MIN_TILT, MIN_START, MIN_LOSS = 2.0, 1.0, 1.0  # °, °, m/s; less is not worth a sentence


@dataclass(frozen=True, kw_only=True)
class BallValue:
    """One value of one ball, golfer frame; ``origin`` is measured or inferred; ``sd`` its error if inferred."""

    metric: str
    value: float
    origin: str
    sd: float | None
    doubtful: bool
    text: Message


@dataclass(frozen=True, kw_only=True)
class BallReading:
    """One ball: its values, its shares (None without a delivery) and a sentence on each."""

    values: list[BallValue]
    shares: BlockShares | None
    contact: str
    low_point_cm: float | None
    sentences: list[Message]


def read_ball(block: Block, place: int, set_aside: frozenset[int] = frozenset()) -> BallReading:
    """Read the ball at a position (from 0) of its block."""
    completed = complete(block)
    clean = clean_balls(block, set_aside)
    speed = completed.columns["club_speed_mps"][clean]
    speed = speed[~np.isnan(speed)]
    reference = float(np.median(speed)) if speed.size else None
    shares = ball_shares(shares_of(completed.columns, block.club, reference), place)
    toe, high = (np.nan_to_num(block.column(m)[place]) for m in ("strike_toe_mm", "strike_high_mm"))
    low_point = float(low_points(block, completed)[place])
    return BallReading(
        values=_values(block, completed, place),
        shares=shares,
        contact=str(contact_of(toe, high, block.club).part[0]),
        low_point_cm=None if np.isnan(low_point) else low_point,
        sentences=_sentences(shares) if shares else [],
    )


def _values(block: Block, completed: CompletedBlock, place: int) -> list[BallValue]:
    values = []
    for metric in vocabulary().metrics:
        value = float(completed.columns[metric][place])
        if np.isnan(value):
            continue
        inferred = bool(np.isnan(block.column(metric)[place]))
        sd = float(completed.sd[metric][place]) if inferred and metric in completed.sd else None
        doubtful = completed.doubtful[place] == metric
        values.append(
            BallValue(
                metric=metric,
                value=value,
                origin="inferred" if inferred else "measured",
                sd=sd,
                doubtful=doubtful,
                text=say(metric, value),
            )
        )
    return values


def _sentences(shares: BlockShares) -> list[Message]:
    result = (
        _most(Message("baseline-start-direction"), shares.start, START_PARTS, MIN_START),
        _most(Message("common-curve"), shares.curve, CURVE_PARTS, MIN_TILT),
        _lost(shares.compression),
    )
    return [sentence for sentence in result if sentence]


def _most(what: str, parts: dict[str, float], names: Mapping[str, str], least: float) -> Message:
    """Return the sentence "most of the … came from …"."""
    total = sum(parts.values())
    if abs(total) < least:
        return Message("baseline-hardly-any", what=what)
    along = {name: value * np.sign(total) for name, value in parts.items()}
    first, second = sorted(along, key=lambda name: -along[name])[:2]
    if along[first] > 0.75 * abs(total):
        against = min(along, key=lambda name: along[name])
        other = Message("baseline-offset-part", names=names[against]) if along[against] < -0.25 * abs(total) else ""
        return Message("baseline-most-came", what=what, names=names[first], other=other)
    return Message("baseline-came-together", what=what, first=names[first], second=names[second])


def _lost(ladder: dict[str, float]) -> Message:
    losses = {name: ladder[name] for name in LOST_PARTS}
    total = sum(losses.values())
    if total < MIN_LOSS:
        return Message("baseline-no-ball-speed-worth-mentioning")
    first = max(losses, key=lambda name: losses[name])
    usual = Message("baseline-below-what-golfers-usual-club")
    share = 100 * total / ladder["reference_mps"]
    return Message(
        "baseline-ball-speed-most-lost",
        share=share,
        usual=usual,
        lost_parts=LOST_PARTS[first],
    )

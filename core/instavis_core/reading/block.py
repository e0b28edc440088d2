"""The reading of a block: numbers, words, doubts, and how many more balls it needs."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

import numpy as np

from instavis_core.arc import low_point_cm, low_point_with_turf, swing_direction
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message, joined
from instavis_core.reading.completion import CompletedBlock, complete
from instavis_core.reading.disagreements import disagreements
from instavis_core.reading.drift import WATCHED, Drift, find_drifts
from instavis_core.reading.ellipse import Ellipse, robust_ellipse
from instavis_core.reading.mishits import Mishit, find_mishits
from instavis_core.reading.robust import Centre, balls_for, shrunk_spread, summarise
from instavis_core.reading.shares import BlockShares, block_shares, shares_of
from instavis_core.reading.two_sided import FACE_TO_FINISH, two_sided_probability
from instavis_core.reading.words import PatternWord, pattern_words, say
from instavis_core.shots import Block

NEEDED_FOR = ("path_deg", "face_deg", "strike_toe_mm")
MIN_BALLS = 5
MIN_BY_HAND = 8  # words are coarse; only their number counts
PAIRS = (("path_deg", "face_deg"), ("strike_toe_mm", "strike_high_mm"), ("side_m", "carry_m"))


@dataclass(frozen=True, kw_only=True)
class MetricReading:
    """One metric of the clean balls, golfer frame, in its own unit.

    ``usual`` is the usual spread at this golfer's level, if known. ``origin`` is measured, by-hand or inferred. ``low``
    to ``high`` is the 95 % interval of the center, including the uncertainty of inferred values; None with too few
    balls.
    """

    centre: float
    spread: float | None
    usual: float | None
    low: float | None
    high: float | None
    n: int
    origin: str
    text: Message


@dataclass(frozen=True)
class Doubt:
    """A value of one ball (0-based) that contradicts the others physically."""

    index: int
    field: str


@dataclass(frozen=True, kw_only=True)
class BlockReading:
    """The reading of a block of balls, in the golfer frame."""

    balls: int
    clean: int
    metrics: dict[str, MetricReading]
    pattern: list[PatternWord]
    mishits: list[Mishit]
    two_sided: float | None
    balls_needed: int | None
    low_point_cm: MetricReading | None
    swing_direction_deg: MetricReading | None
    doubtful: list[Doubt]
    ellipses: list[Ellipse]
    drifts: list[Drift]
    shares: BlockShares | None
    notes: list[Message]


def read_block(
    block: Block, set_aside: frozenset[int] = frozenset(), own: Mapping[str, float] | None = None
) -> BlockReading:
    """Read a block.

    Parameters
    ----------
    block : Block
        n balls of one club, golfer frame.
    set_aside : frozenset of int
        0-based balls the coach excluded; they count like mishits.
    own : mapping of float, optional
        This golfer's spread in earlier blocks, by metric: says more than the usual one of how many balls are needed.
    """
    mishits = [m for m in find_mishits(block) if m.index not in set_aside]
    clean = clean_balls(block, set_aside)
    completed = complete(block).without_doubtful()
    centres = {m: summarise(completed.columns[m][clean]) for m in vocabulary().metrics}
    two_sided = two_sided_probability(
        _finish_angle(completed)[clean], 1.5, FACE_TO_FINISH * block.golfer.skill.scatter["face_deg"]
    )
    clean_columns = {m: values[clean] for m, values in completed.columns.items()}
    ellipses = (robust_ellipse(clean_columns[x], clean_columns[y], (x, y)) for x, y in PAIRS)
    return BlockReading(
        balls=len(block),
        clean=int(clean.sum()),
        metrics={m: _metric(m, c, completed, clean, block) for m, c in centres.items() if c.n},
        pattern=pattern_words(_worth_words(centres, block), block.golfer, block.club, two_sided),
        mishits=mishits,
        two_sided=two_sided,
        balls_needed=balls_needed(centres, block, own or {}),
        low_point_cm=_derived(
            low_points(block, completed)[clean],
            (Message("baseline-cm-ahead-ball"), Message("baseline-cm-behind-ball")),
        ),
        swing_direction_deg=_derived(
            swing_direction(completed.columns["path_deg"], completed.columns["attack_deg"], block.club)[clean],
            (Message("baseline-degrees-in-to-out"), Message("baseline-degrees-out-to-in")),
        ),
        doubtful=[Doubt(i, name) for i, name in enumerate(completed.doubtful) if name],
        ellipses=[e for e in ellipses if e is not None],
        drifts=find_drifts({m: clean_columns[m] for m in WATCHED}, block.golfer.skill.tolerance),
        shares=block_shares(shares_of(completed.columns, block.club), clean),
        notes=_notes(block, completed, int(clean.sum())),
    )


def clean_balls(block: Block, set_aside: frozenset[int] = frozenset()) -> np.ndarray:
    """Return which balls count for the pattern: neither mishit nor excluded; bool, shape (n,)."""
    clean = np.ones(len(block), dtype=bool)
    clean[[m.index for m in find_mishits(block)]] = False
    clean[list(set_aside)] = False
    return clean


def low_points(block: Block, completed: CompletedBlock) -> np.ndarray:
    """Return the low point of every ball [cm], target side +, from attack angle and turf mark; shape (n,)."""
    return low_point_with_turf(low_point_cm(completed.columns["attack_deg"], block.club), block.turf)


def spreads_in(block: Block) -> dict[str, float]:
    """Return the measured spread of a block by metric, without excluded balls."""
    clean = clean_balls(block)
    spreads = {metric: summarise(block.columns[metric][clean]).spread for metric in NEEDED_FOR}
    return {metric: float(spread) for metric, spread in spreads.items() if np.isfinite(spread)}


def own_spreads(blocks: Iterable[Mapping[str, float]]) -> dict[str, float]:
    """Combine `spreads_in` of earlier blocks into a golfer's own spread by metric."""
    found: dict[str, list[float]] = {}
    for spreads in blocks:
        for metric, spread in spreads.items():
            found.setdefault(metric, []).append(spread)
    return {metric: float(np.sqrt(np.mean(np.square(spreads)))) for metric, spreads in found.items()}


def balls_still_needed(
    block: Block, set_aside: frozenset[int] = frozenset(), own: Mapping[str, float] | None = None
) -> int | None:
    """Return how many more clean balls the pattern needs, without reading the rest; None if unknown."""
    clean = clean_balls(block, set_aside)
    columns = complete(block, check_readings=False).columns
    return balls_needed({m: summarise(columns[m][clean]) for m in NEEDED_FOR}, block, own or {})


def balls_needed(centres: dict[str, Centre], block: Block, own: Mapping[str, float]) -> int | None:
    """Return how many more clean balls until path, face and strike are known within tolerance; None if unknown."""
    tolerance = block.golfer.skill.tolerance
    usual = {**block.golfer.skill.scatter, **own}
    if mostly_by_hand(block):
        return max(0, MIN_BY_HAND - max(centres[m].n for m in NEEDED_FOR))
    known = [m for m in NEEDED_FOR if centres[m].n]
    if not known:
        return None
    wanted = []
    for metric in known:
        # With few balls the spread is uncertain: shrink toward the usual one, of this golfer or this level.
        spread = shrunk_spread(centres[metric].spread, centres[metric].n, usual[metric])
        wanted.append(max(balls_for(spread, tolerance[metric]), MIN_BALLS) - centres[metric].n)
    return max(0, *wanted)


def mostly_by_hand(block: Block) -> bool:
    """Return True if more than half of the balls were entered in words."""
    return bool(len(block)) and block.hand_entered().mean() > 0.5


def _finish_angle(completed: CompletedBlock) -> np.ndarray:
    """Return where each ball finished as an angle from the target line [°]; the start direction without a landing."""
    side, carry = completed.columns["side_m"], completed.columns["carry_m"]
    with np.errstate(invalid="ignore", divide="ignore"):
        finish = np.degrees(np.arcsin(np.clip(side / np.maximum(carry, 1.0), -1, 1)))
    return np.where(np.isnan(finish), completed.columns["launch_direction_deg"], finish)


def _worth_words(centres: dict[str, Centre], block: Block) -> dict[str, Centre]:
    """Return the centers that may be put in words; balls entered in words have a median but no spread."""
    if not mostly_by_hand(block):
        return centres
    return {m: replace(c, n=min(c.n, 3), spread=float("nan")) for m, c in centres.items()}


def _metric(metric: str, centre: Centre, completed: CompletedBlock, clean: np.ndarray, block: Block) -> MetricReading:
    inferred = metric in completed.inferred
    by_hand = mostly_by_hand(block)
    usual = None if by_hand else block.golfer.skill.scatter.get(metric)
    low, high = centre.low, centre.high
    if inferred and np.isfinite(low):
        # Errors of the inference are common to all balls and do not average out.
        shared = float(np.mean(completed.sd[metric][clean]))
        half = float(np.hypot((high - low) / 2, 1.96 * shared))
        low, high = centre.centre - half, centre.centre + half
    return MetricReading(
        centre=centre.centre,
        spread=_known(centre.spread),
        usual=usual,
        low=_known(low),
        high=_known(high),
        n=centre.n,
        origin="inferred" if inferred else "by-hand" if by_hand else "measured",
        text=say(metric, centre.centre),
    )


def _derived(values: np.ndarray, words: tuple[Message, Message]) -> MetricReading | None:
    centre = summarise(values)
    if not centre.n:
        return None
    text = Message("baseline-size-word", size=abs(centre.centre), word=words[0] if centre.centre >= 0 else words[1])
    return MetricReading(
        centre=centre.centre,
        spread=_known(centre.spread),
        usual=None,
        low=_known(centre.low),
        high=_known(centre.high),
        n=centre.n,
        origin="inferred",
        text=text,
    )


def _known(value: float) -> float | None:
    return float(value) if np.isfinite(value) else None


def _notes(block: Block, completed: CompletedBlock, clean: int) -> list[Message]:
    notes = []
    if clean < MIN_BALLS:
        notes.append(
            Message(
                "baseline-only-clean-balls-pattern-needs",
                clean=clean,
                least_balls=MIN_BALLS,
            )
        )
    if mostly_by_hand(block):
        notes.append(Message("baseline-words-not-measured-start-curve"))
    if completed.inferred:
        names = joined(sorted(vocabulary().metrics[m].label.lower() for m in completed.inferred))
        notes.append(Message("baseline-not-measured-inferred-ball", names=names))
    return [*disagreements(completed.doubtful), *notes]

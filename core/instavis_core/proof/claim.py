"""What the balls allow us to claim after every ball: the number changed, and the movement did it.

Three questions, each with evidence that holds at every ball. *Changed*: did the number move from the baseline to the
stage, by more than form? *Link*: does it go with the dose of the movement, over baseline and stage together? *Within*:
does it go with the dose among the stage's balls alone, where everything else that is new (aim, cue, warmth, club) is
the same for all? *Verified* needs all three. The fault's whole pattern is tested in the same way beside the primary
number; the mean of both e-values is an e-value, and the primary number must point the same way. A claim is shown with
one number and its interval: *verified* also needs an interval that excludes zero, of the primary number or else of the
pattern. If an instrument measured the movement, its values are tested beside the marks in the same way.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from instavis_core.proof.change import FORM_SD, Regression, RunningChange
from instavis_core.proof.rivals import Rival
from instavis_core.shots import CALLED_DOSES, Block
from instavis_core.terms import MarkBasis

BAR = 20.0  # evidence at which the link counts as real: at most one false claim in twenty lessons
WITHIN_BAR = 12.0
WITHIN_BAR_ALONE = 20.0  # if something else that is new on every ball of the stage could explain the change
CHANGED_BAR_BLIND, CHANGED_BAR_NOT_BLIND = 0.5, 1.5  # marks that follow the ball create a false link
BLIND_ENOUGH = 0.9  # of the marks
LEANS = 1.0  # the primary number's own evidence if the pattern carries the claim
MIN_MOVED, MIN_STAGE, MIN_BASELINE = 3, 6, 6
CONFIDENCE = 0.95
RULED_OUT_BAR = 20.0  # evidence against a share of the prediction
RULED_OUT_SHARE = 0.6  # of the predicted change; a real one of 0.4 is called absent in at most one lesson in ten
RULED_OUT_FROM = 8  # balls on which the movement was made
LINK_RULED_OUT_BAR = 10.0
LINK_RULED_OUT_SHARE = 0.5  # of the change: a smaller slope within the stage is not a link


@dataclass(frozen=True, kw_only=True)
class Link:
    """What a full dose of the movement does to the primary number, and whether that was tested.

    ``evidence`` is from the stage alone; ``tested`` is true if its balls have answered, for or against.
    """

    estimate: float | None
    low: float | None
    high: float | None
    evidence: float
    tested: bool
    unit: str


@dataclass(frozen=True, kw_only=True)
class PatternChange:
    """What a full dose does to the fault's whole pattern, in its own spreads, and the metrics of the pattern."""

    estimate: float | None
    low: float | None
    high: float | None
    evidence: float
    metrics: list[str]


@dataclass(frozen=True, kw_only=True)
class MarkCounts:
    """How many of the stage's balls were marked blind, with visible numbers, by an instrument, or not at all."""

    blind: int
    seen: int
    measured: int
    unmarked: int


@dataclass(frozen=True, kw_only=True)
class Asked:
    """The three questions for one number after every ball; evidence as arrays (n,).

    ``clear`` is true where the interval of the link excludes zero on the expected side.
    """

    link: Regression
    within: Regression
    changed: np.ndarray
    linked: np.ndarray
    inside: np.ndarray
    shift: Regression
    clear: np.ndarray


def ask(running: RunningChange, values: np.ndarray, known: np.ndarray, doses: np.ndarray, sign: int) -> Asked:
    """Answer the three questions for one number.

    Parameters
    ----------
    running : RunningChange
        Of the baseline.
    values : array, shape (n,)
        Of the stage, NaN where not known.
    known : array of bool, shape (n,)
        Balls of the correction: not those hit with the old move on purpose, which are no part of the change.
    doses : array, shape (n,)
        Of the movement, NaN where nobody can say.
    sign : int
        Direction looked for.
    """
    everyone = np.where(known, 1.0, np.nan)
    asked = running.follow(values, (doses, FORM_SD), (doses, np.inf), (everyone, FORM_SD))
    linked, inside, changed = asked.evidence(sign)
    link = asked.of(0)
    clear = link.known & (sign * np.nan_to_num(link.estimate) > link.half_width(CONFIDENCE))
    return Asked(
        link=link,
        within=asked.of(1),
        shift=asked.of(2),
        changed=changed,
        linked=linked,
        inside=inside,
        clear=clear,
    )


@dataclass(frozen=True, kw_only=True)
class Claim:
    """Evidence after every ball, arrays (n,), and the claims it supports, for the number and the pattern together."""

    changed: np.ndarray
    linked: np.ndarray
    inside: np.ndarray
    real: np.ndarray
    carried: np.ndarray
    carried_alone: np.ndarray


@dataclass(frozen=True, kw_only=True)
class Effects:
    """The primary number and the fault's pattern (or None), for one set of doses."""

    number: Asked
    pattern: Asked | None

    @property
    def linked(self) -> np.ndarray:
        """Return the evidence (n,) that number and movement go together."""
        return self.number.linked if self.pattern is None else (self.number.linked + self.pattern.linked) / 2

    @property
    def clear(self) -> np.ndarray:
        """Return True where either interval excludes zero, (n,)."""
        return self.number.clear if self.pattern is None else self.number.clear | self.pattern.clear

    @property
    def inside(self) -> np.ndarray:
        """Return the same from the stage alone, (n,)."""
        return self.number.inside if self.pattern is None else (self.number.inside + self.pattern.inside) / 2


def claim_of(
    marked: Effects,
    measured: Effects | None,
    doses: np.ndarray,
    marks: MarkCounts,
    baseline: int,
    rivals: Sequence[Rival] = (),
) -> Claim:
    """Combine the evidence from marks and from an instrument (or None); a rival that stands holds a claim back."""
    number, linked, inside = marked.number, marked.linked, marked.inside
    if measured is not None:
        linked, inside = (linked + measured.linked) / 2, (inside + measured.inside) / 2
    balls = np.arange(1, doses.size + 1)
    enough = (balls >= MIN_STAGE) & (baseline >= MIN_BASELINE)
    moved = np.cumsum(np.nan_to_num(doses) > 0) >= MIN_MOVED
    guard = number.changed >= (CHANGED_BAR_BLIND if mostly_blind(marks) else CHANGED_BAR_NOT_BLIND)
    link = enough & moved & guard & (linked >= BAR) & (number.linked >= LEANS)
    alone = ~np.any([rival.stands for rival in rivals], axis=0) if rivals else np.ones(doses.size, bool)
    return Claim(
        changed=number.changed,
        linked=linked,
        inside=inside,
        real=link | (enough & (number.changed >= BAR)),
        carried=link & marked.clear & (inside >= WITHIN_BAR) & alone,
        carried_alone=link & marked.clear & (inside >= WITHIN_BAR_ALONE) & alone,
    )


def mostly_blind(marks: MarkCounts) -> bool:
    """Return True if nearly all marks were blind or made by an instrument."""
    made = marks.blind + marks.measured + marks.seen
    return made > 0 and marks.blind + marks.measured >= BLIND_ENOUGH * made


def ruled_out(number: Asked, predicted: float, moved: int) -> bool:
    """Return True if a full dose does not reach even a share of the prediction."""
    if moved < RULED_OUT_FROM or not number.link.known.size:
        return False
    sign = 1 if predicted > 0 else -1
    return bool(number.link.against(RULED_OUT_SHARE * predicted, sign)[-1] >= RULED_OUT_BAR)


def link_ruled_out(number: Asked, sign: int) -> bool:
    """Return True if the balls show that the change did not come with the movement."""
    if not number.within.known.size or not number.within.known[-1] or not number.shift.known[-1]:
        return False
    change = float(number.shift.estimate[-1])
    return bool(
        sign * change > 0 and number.within.against(LINK_RULED_OUT_SHARE * change, sign)[-1] >= LINK_RULED_OUT_BAR
    )


def count_marks(block: Block, rows: list[int], doses: np.ndarray) -> MarkCounts:
    """Count how the marks of balls with known doses were made.

    A call is made before the ball is hit and counts as blind; a mark of unknown basis counts as seen.
    """
    counts = dict.fromkeys(("blind", "seen", "measured", "unmarked"), 0)
    for i, dose in zip(rows, doses.tolist(), strict=True):
        known = MarkBasis.BLIND if block.intent[i] in CALLED_DOSES else block.basis[i] if block.basis else None
        counts["unmarked" if dose != dose else known or MarkBasis.SEEN] += 1
    return MarkCounts(**counts)

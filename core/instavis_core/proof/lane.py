"""The pivot lane in a proof: balls with instrument marks, and the slope."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from instavis_core.knowledge import load_motion, vocabulary
from instavis_core.proof.baseline import Baseline
from instavis_core.proof.claim import Effects
from instavis_core.proof.correction import Correction
from instavis_core.proof.pivot import PivotGate, PivotMark, by_coach, marked, pivot_gate, pivot_mark
from instavis_core.proof.slope import Pairs, Slope, slope_of
from instavis_core.reading.completion import complete
from instavis_core.shots import Block, PivotValue
from instavis_core.terms import LinkBasis, Movement


@dataclass(frozen=True, kw_only=True)
class Agreement:
    """Balls marked by a coach and by an instrument: count, and how many agree."""

    both: int
    same: int


@dataclass(frozen=True, kw_only=True)
class PivotProof:
    """What instruments measured of the movement.

    ``balls`` are those of the verdicts, None where none was measured. ``by`` names the stronger evidence of the link,
    the marks or the slope; None while neither says anything.
    """

    gate: PivotGate
    balls: list[PivotMark | None]
    slope: Slope
    by: LinkBasis | None
    agreement: Agreement


@dataclass(frozen=True, kw_only=True)
class Lane:
    """The balls of a proof with instrument marks and the gate used (None without an instrument)."""

    shots: Block
    gate: PivotGate | None
    marks: list[PivotMark | None]
    coach: tuple[str | None, ...]

    def trusted(self, rows: list[int]) -> list[PivotMark | None]:
        """Return instrument values without balls that the coach judged differently."""
        return [
            mark
            if (mark := self.marks[i]) and self.coach[i] in (None, Movement.UNSEEN, mark.mark or self.coach[i])
            else None
            for i in rows
        ]

    def doses(self, rows: list[int], marked: np.ndarray) -> np.ndarray:
        """Return the dose by instrument, (n,); by mark where there is none or the coach disagreed, NaN if unknown."""
        observed = self.trusted(rows)
        if self.gate is None or not any(observed):
            return np.full(len(rows), np.nan)
        doses = [np.nan if mark is None else self.gate.dose(mark.value) for mark in observed]
        return np.where(np.isnan(doses) | np.isnan(marked), marked, doses)

    def proof(
        self,
        base: Baseline,
        values: np.ndarray,
        rows: list[int],
        marks: Effects,
        measured: Effects | None,
        correction: Correction,
    ) -> PivotProof | None:
        """Return the lane for a screen; ``values`` (n,) are the primary number on the balls of ``rows``."""
        if self.gate is None:
            return None
        slope = slope_of(
            _pairs(complete(base.clean, check_readings=False).columns[correction.primary], _pivots(base.clean)),
            _pairs(values, self.trusted(rows)),
            vocabulary().metrics[correction.primary],
            load_motion().series[self.gate.series],
            1 if self.gate.reach > 0 else -1,
            correction.sign,
        )
        return PivotProof(
            gate=self.gate,
            balls=self.marks,
            slope=slope,
            by=_by(marks, measured),
            agreement=_agreement(self.coach, self.marks),
        )


def lane_of(base: Baseline, shots: Block, correction: Correction) -> Lane:
    """Apply instrument marks to a proof's balls; a coach's own marks stay."""
    observed = _pivots(shots)
    gate = gate_for(base.clean, correction) if any(observed) else None
    marks = [pivot_mark(gate, value) if gate and value else None for value in observed]
    return Lane(shots=marked(shots, marks, gate), gate=gate, marks=marks, coach=by_coach(shots))


def gate_for(clean: Block, correction: Correction) -> PivotGate | None:
    """Return the gate of a correction's movement, from instrument values of clean baseline balls."""
    if correction.seen is None:
        return None
    known = [value for value in _pivots(clean) if value is not None]
    return pivot_gate(correction.seen, correction.fault, known, correction.severity)


def _by(marks: Effects, measured: Effects | None) -> LinkBasis | None:
    if measured is None or not measured.linked.size:
        return None
    by_marks, by_slope = float(marks.linked[-1]), float(measured.linked[-1])
    if max(by_marks, by_slope) <= 1:
        return None
    return LinkBasis.SLOPE if by_slope > by_marks else LinkBasis.MARKS


def _agreement(coach: tuple[str | None, ...], marks: list[PivotMark | None]) -> Agreement:
    pairs = [
        (m, observed.mark)
        for m, observed in zip(coach, marks, strict=True)
        if observed and observed.mark and m and m != Movement.UNSEEN
    ]
    return Agreement(both=len(pairs), same=sum(m == observed for m, observed in pairs))


def _pivots(block: Block) -> Sequence[PivotValue | None]:
    return block.pivot or (None,) * len(block)


def _pairs(values: np.ndarray, observed: Sequence[PivotValue | PivotMark | None]) -> Pairs:
    return Pairs(
        values=values,
        pivot=np.array([np.nan if p is None else p.value for p in observed], float),
        errors=np.array([np.nan if p is None else p.error for p in observed], float),
    )

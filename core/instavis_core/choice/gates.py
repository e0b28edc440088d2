"""Gate and limits of one correction, from baseline, prediction, tolerance and stage."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from scipy.special import ndtri

from instavis_core.cause.evidence import CENTRES
from instavis_core.cause.likelihood import effect_table
from instavis_core.knowledge import Cause, vocabulary
from instavis_core.knowledge.model import Stage
from instavis_core.reading import clean_balls
from instavis_core.reading.completion import complete
from instavis_core.reading.robust import Centre, summarise
from instavis_core.shots import Block

GUARDED = ("strike_toe_mm", "strike_high_mm")
GUARD_TOLERANCES = 2.5
# Wide enough that three of four balls of a full movement pass, and one in four of the baseline's
# (`./instavis validate proof`): golfers reach 0.5 to 1.5 of the prediction, and balls scatter.
GATE_TOLERANCES, GATE_SPREADS = 1.2, 2.4
NEAR_EDGE = 0.36  # of the predicted change: minimum distance of the edge toward the baseline
# Gates of shorter swings are wider only on the far side: the usual miss with one spread stays out,
# unless that needs more than this share of the predicted change.
NEAR_EDGE_SHORT, MAX_NEAR_EDGE = 0.5, 0.6
RANGE = 0.8  # of golfers
OWN_SD = 0.6  # log SD of actual ÷ predicted where the fault is there: own effect, severity (`validate choice`)
ELSEWHERE_SHARE = 0.25  # of the prediction, one SD where it is not: what any new movement may do to a number
GRID = ndtri((np.arange(400) + 0.5) / 400)


@dataclass(frozen=True)
class Middle:
    """What the baseline shows about one metric (golfer frame): the values of clean balls and their median."""

    values: list[float]
    centre: float


@dataclass(frozen=True, kw_only=True)
class GateProposal:
    """The metric that should change, its direction and size, the gate and the limits (golfer frame).

    ``likely`` is the change in eight of ten golfers, with the chance ``absent`` [0 to 1] that the fault is not
    there and removing it gains nothing. ``by_stage`` is the primary gate at every stage with a ball, wider at the
    early ones. ``baseline`` holds the values that the prediction starts from, for the primary metric and every
    guarded one.
    """

    primary: str
    direction: str
    predicted: float
    likely: tuple[float, float]
    absent: float
    gate: dict[str, tuple[float, float]]
    guards: dict[str, tuple[float, float]]
    by_stage: dict[str, tuple[float, float]]
    baseline: dict[str, Middle]

    def gate_at(self, stage: str) -> dict[str, tuple[float, float]]:
        """Return the gate of a stage; the full stage's gate for a stage without a ball."""
        window = self.by_stage.get(stage)
        return {**self.gate, self.primary: window} if window else self.gate


def propose_gate(block: Block, cause: Cause, severity: float, probability: float = 1.0) -> GateProposal | None:
    """Propose the gate of a correction.

    The primary metric is the one that the prediction moves most, in tolerances, among those measured in the baseline.
    The gate is placed around the predicted median and ends before the baseline.

    Parameters
    ----------
    block : Block
        The baseline, golfer frame.
    cause : Cause
    severity : float
        How strong the cause is in this golfer (0 to about 1.3).
    probability : float
        That it is there at all; the range of the prediction is a mixture.

    Returns
    -------
    GateProposal or None
        None when nothing the cause moves was measured or inferred.
    """
    clean = clean_balls(block)
    columns = complete(block, check_readings=False).columns
    centres = {m: summarise(columns[m][clean]) for m in CENTRES}
    effects = effect_table((cause,), block.golfer, block.club)[0]
    tolerance = block.golfer.skill.tolerance
    shift = {m: -severity * effects[k] for k, m in enumerate(CENTRES) if centres[m].n >= 3}
    if not shift or max(abs(v) for v in shift.values()) < 1e-9:
        return None
    primary = max(shift, key=lambda m: _worth(m, shift[m], centres[m].centre) / tolerance[m])
    middle, moved = centres[primary].centre, centres[primary].centre + shift[primary]
    half = max(GATE_TOLERANCES * tolerance[primary], GATE_SPREADS * (centres[primary].spread or 0.0))
    spread = centres[primary].spread or 0.0
    by_stage = {
        s.id: _gate(primary, moved, s.widen * half, near_edge(middle, shift[primary], spread, s))
        for s in _stages_with_ball()
    }
    guards = _guards(centres, tolerance, primary, shift)
    return GateProposal(
        primary=primary,
        direction="decrease" if shift[primary] < 0 else "increase",
        predicted=float(shift[primary]),
        likely=likely_answer(float(shift[primary]), probability),
        absent=1 - probability,
        gate={primary: _gate(primary, moved, half, middle + NEAR_EDGE * shift[primary])},
        guards=guards,
        by_stage=by_stage,
        baseline=middles(block, (primary, *guards)),
    )


def likely_answer(predicted: float, probability: float) -> tuple[float, float]:
    """Return the range that eight of ten golfers fall into when they make the full move, lower bound first.

    It is the range of a mixture: where the fault is there, the change is the predicted one times a log-normal factor;
    where it is not, the movement changes the number by little, either way.

    Parameters
    ----------
    predicted : float
        The change without the fault, in the metric's unit.
    probability : float
        That the fault is there.

    Examples
    --------
    >>> likely_answer(4.0, probability=1.0)
    (1.8..., 8.6...)
    >>> likely_answer(4.0, probability=0.6)
    (-0.6..., 7.1...)
    """
    factor = np.concatenate([np.exp(OWN_SD * GRID), ELSEWHERE_SHARE * GRID])
    weight = np.repeat([probability, 1 - probability], GRID.size) / GRID.size
    order = np.argsort(factor)
    below = np.cumsum(weight[order])
    ends = factor[order][np.searchsorted(below, [(1 - RANGE) / 2, (1 + RANGE) / 2])]
    low, high = sorted((ends * predicted).tolist())
    return low, high


def middles(block: Block, metrics: Iterable[str]) -> dict[str, Middle]:
    """Return what a baseline (golfer frame) shows about some metrics; unknown ones are left out."""
    clean = clean_balls(block)
    columns = complete(block, check_readings=False).columns
    known = {m: columns[m][clean] for m in metrics if m in columns}
    return {
        m: Middle([round(float(v), 2) for v in values[~np.isnan(values)]], float(summarise(values).centre))
        for m, values in known.items()
        if not np.isnan(values).all()
    }


def gates_of_stages(
    primary: str, window: tuple[float, float], at_stage: str, block: Block, predicted: float
) -> dict[str, tuple[float, float]]:
    """Adapt a gate from one stage to every stage with a ball, as wide as each stage needs.

    Both edges move away from the predicted median. The edge toward the baseline stops at `near_edge`, unless it was set
    beyond. Nothing is adapted if the baseline does not know the metric.

    Parameters
    ----------
    primary : str
    window : (low, high)
        Golfer frame, at ``at_stage``.
    at_stage : str
    block : Block
        The baseline.
    predicted : float
        The change looked for.
    """
    usual = summarise(complete(block, check_readings=False).columns[primary][clean_balls(block)])
    if not np.isfinite(usual.centre):
        return {}
    moved, here = usual.centre + predicted, vocabulary().stages[at_stage].widen
    carried = {at_stage: window}
    for stage in _stages_with_ball():
        if stage.id == at_stage:
            continue
        border = near_edge(usual.centre, predicted, usual.spread or 0.0, stage)
        low, high = (moved + (edge - moved) * stage.widen / here for edge in window)
        if predicted < 0:
            high = min(high, max(border, window[1]))
        else:
            low = max(low, min(border, window[0]))
        carried[stage.id] = _rounded(low, primary), _rounded(high, primary)
    return {stage: (low, high) for stage, (low, high) in carried.items() if low < high}


def near_edge(middle: float, predicted: float, spread: float, stage: Stage) -> float:
    """Return where a stage's gate ends toward the baseline, in the unit of the metric.

    Parameters
    ----------
    middle, spread : float
        Of the baseline's balls.
    predicted : float
        The change looked for, with its sign.
    stage : Stage
        A shorter swing keeps the usual miss further out than a full one.
    """
    share = NEAR_EDGE
    if stage.speed[1] < vocabulary().stages["full"].speed[0] and predicted:
        share = max(NEAR_EDGE_SHORT, min(spread / abs(predicted), MAX_NEAR_EDGE))
    return middle + share * predicted


def _stages_with_ball() -> list[Stage]:
    return [s for s in vocabulary().stages.values() if s.ball]


def _gate(primary: str, moved: float, half: float, border: float) -> tuple[float, float]:
    """Return a gate around the predicted median that ends before the baseline at ``border``."""
    low, high = moved - half, moved + half
    low, high = (low, min(high, border)) if moved < border else (max(low, border), high)
    return _rounded(low, primary), _rounded(high, primary)


def _worth(metric: str, shift: float, centre: float) -> float:
    """Return the size of a shift, reduced if it does not lead toward zero; strike and loft rank after angles."""
    weight = {"path_deg": 1.0, "face_deg": 0.9, "attack_deg": 0.9, "dynamic_loft_deg": 0.8}.get(metric, 0.5)
    toward = metric in ("attack_deg", "dynamic_loft_deg") or centre * shift < 0
    return weight * abs(shift) * (1.0 if toward else 0.4)


def _guards(
    centres: dict[str, Centre], tolerance: dict[str, float], primary: str, shift: dict[str, float]
) -> dict[str, tuple[float, float]]:
    guards = {}
    for metric in GUARDED:
        if metric == primary or centres[metric].n < 3:
            continue
        middle = centres[metric].centre + 0.5 * shift.get(metric, 0.0)
        half = max(GUARD_TOLERANCES * tolerance[metric], 2.0 * (centres[metric].spread or 0.0))
        guards[metric] = (_rounded(middle - half, metric), _rounded(middle + half, metric))
    return guards


def _rounded(value: float, metric: str) -> float:
    step = 1.0 if vocabulary().metrics[metric].unit == "mm" else 0.5
    return float(np.round(value / step) * step)

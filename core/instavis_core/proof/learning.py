"""What a correction taught about this student: evidence about its fault, and the student's own effect."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.cause.likelihood import EFFECT_ERROR
from instavis_core.knowledge import Cause, Club
from instavis_core.proof.correction import RELIEF, Correction
from instavis_core.proof.engine import Proof

OWN_SD = 0.5  # of a golfer's own effect about the table's, as a share of it (docs/method.md)
RELIEF_SD = 0.25  # of the share of a fault's effect that a full movement removes (assumption)
ELSEWHERE_SHARE = 0.25  # of the predicted change: what any new movement may do to a number
MAX_LOG_ODDS = 6.0
MIN_BALLS = 4


@dataclass(frozen=True, kw_only=True)
class OwnEffect:
    """A student's own full-severity effect of one fault on one metric (mid-iron, mid-handicap scale), and its SD."""

    cause: str
    metric: str
    mean: float
    sd: float


def log_odds_of(proof: Proof, correction: Correction) -> float:
    """Return the evidence for (+) or against (−) the fault, as log-odds.

    It compares two explanations of the change on the balls with the movement: the fault was there, and the movement
    removed most of its predicted effect; or it was not, and the number changed only as with any new movement. Both are
    Gaussian with the change's own standard error. The result is bounded, because a movement mark is a coach's eye.
    """
    observation = _observed(proof)
    if observation is None:
        return 0.0
    change, error = observation
    predicted = correction.predicted
    there = np.hypot(error, abs(predicted) * np.hypot(RELIEF_SD, EFFECT_ERROR * RELIEF))
    not_there = np.hypot(error, ELSEWHERE_SHARE * abs(predicted))
    log = _log_normal(change, RELIEF * predicted, there) - _log_normal(change, 0.0, not_there)
    return float(np.clip(log, -MAX_LOG_ODDS, MAX_LOG_ODDS))


def own_effect(proof: Proof, correction: Correction, cause: Cause, severity: float, scale: float) -> OwnEffect | None:
    """Return the student's own effect: the table's, updated by the correction's result.

    Parameters
    ----------
    proof : Proof
    correction : Correction
    cause : Cause
        The row of the fault (its variant).
    severity : float
        How strong the fault was held to be before.
    scale : float
        Factor from the table's mid iron and mid handicap to this golfer and club for the primary metric.

    Returns
    -------
    OwnEffect or None
        None when the number was not changed on enough balls, or the table knows no effect on it.
    """
    table = cause.effect.get(correction.primary, 0.0)
    observation = _observed(proof)
    if observation is None or not table or severity <= 0 or scale <= 0:
        return None
    change, error = observation
    reach = RELIEF * severity * scale
    # Of the table's effect, not of the observed one: otherwise a large effect would always count for less.
    observed, observed_sd = -change / reach, np.hypot(error / reach, abs(table) * RELIEF_SD / RELIEF)
    prior_sd = OWN_SD * abs(table)
    weight = prior_sd**2 / (prior_sd**2 + observed_sd**2)
    mean = table + weight * (observed - table)
    return OwnEffect(
        cause=cause.key, metric=correction.primary, mean=float(mean), sd=float(prior_sd * np.sqrt(1 - weight))
    )


def scale_of(metric: str, club: Club, effect_scale: float) -> float:
    """Return the factor from the table to a golfer and club for a metric."""
    by_metric = {
        "path_deg": club.path_scale,
        "face_deg": club.path_scale,
        "attack_deg": club.attack_scale,
        "dynamic_loft_deg": club.attack_scale,
    }
    return effect_scale * by_metric.get(metric, 1.0)


def _observed(proof: Proof) -> tuple[float, float] | None:
    """Return the effect of a full dose of the movement and its standard error: the proof's slope, by mark or measured.

    The mean of the balls with the movement would be too small, because the movement was only partly made on some.
    """
    change, moved = proof.change, sum(v.moved is True and v.value is not None for v in proof.verdicts)
    if moved < MIN_BALLS or change.estimate is None or change.standard_error is None:
        return None
    return change.estimate, change.standard_error


def _log_normal(x: float, mean: float, sd: float) -> float:
    return -0.5 * ((x - mean) / sd) ** 2 - np.log(sd)

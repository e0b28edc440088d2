"""How well each combination of causes predicts what was measured.

Given a combination, block statistics are Gaussian: severities vary about a typical one, effects are only roughly known,
and every golfer has an offset of their own. The marginal likelihood is closed-form, and so is the contribution of each
statistic (the conditional of one coordinate given the others comes directly from the precision matrix).
"""

from __future__ import annotations

import functools
from dataclasses import dataclass

import numpy as np

from instavis_core.cause.evidence import CENTRES, PIECES, SPREADS, Measured, club_scale
from instavis_core.cause.hypotheses import Hypotheses
from instavis_core.golfer import Golfer
from instavis_core.knowledge import Cause, Club

SEVERITY, SEVERITY_SD = 0.80, 0.28  # of a present fault (assumption)
EFFECT_ERROR = 0.30  # of an effect, as a share of it (assumption)
EFFECT_FLOOR = {"path_deg": 0.5, "face_deg": 0.5, "attack_deg": 0.35, "dynamic_loft_deg": 0.5}
STRIKE_FLOOR = 1.0  # mm
OWN_SHARE = 0.75  # of how golfers differ at one level; faults cause the rest (assumption)
SPREAD_BETWEEN_SD = 0.22  # how golfers' spreads differ at one level, log (assumption)
SPREAD_EFFECT_ERROR = 0.15


@dataclass(frozen=True, kw_only=True)
class Fit:
    """The fit of each combination: log likelihood (s,), contribution of each piece (p, s), and expected pieces (p, s).

    ``weighted`` (p, s) is the residual times its precision; ``effects`` (c, p) are the effects at full severity.
    """

    log_likelihood: np.ndarray
    piece: np.ndarray
    weighted: np.ndarray
    mean: np.ndarray
    effects: np.ndarray


def effect_table(causes: tuple[Cause, ...], golfer: Golfer, club: Club) -> np.ndarray:
    """Mean shifts of the pieces by full-severity causes for this golfer and club, shape (c, p)."""
    scale = _scales(golfer, club)
    table = np.zeros((len(causes), len(PIECES)))
    for i, cause in enumerate(causes):
        for k, piece in enumerate(PIECES):
            if piece in SPREADS:
                table[i, k] = np.log(cause.effect.get(piece, 1.0))
            else:
                table[i, k] = cause.effect.get(piece, 0.0) * scale[k]
    return table


def fit_measured(space: Hypotheses, measured: Measured, golfer: Golfer, club: Club) -> Fit:
    """Compute the likelihood of every combination for the block statistics."""
    known = _known(space, golfer, club)
    effects, mean = known.effects, known.mean
    measured_pieces = np.flatnonzero(~np.isnan(measured.away))
    p, s = mean.shape
    piece, weighted = np.zeros((p, s)), np.zeros((p, s))
    if not measured_pieces.size:
        return Fit(log_likelihood=np.zeros(s), piece=piece, weighted=weighted, mean=mean, effects=effects)
    residual = measured.away[measured_pieces][:, None] - mean[measured_pieces]
    weighted[measured_pieces], own, log_det = _weigh(space, known, measured, measured_pieces, residual)
    piece[measured_pieces] = 0.5 * np.log(own) - 0.5 * weighted[measured_pieces] ** 2 / own
    log_likelihood = -0.5 * log_det - 0.5 * (weighted[measured_pieces] * residual).sum(0)
    return Fit(log_likelihood=log_likelihood, piece=piece, weighted=weighted, mean=mean, effects=effects)


def severities(space: Hypotheses, fit: Fit, weight: np.ndarray) -> np.ndarray:
    """Return the expected severity of each cause if present (c,), given the weights (s,) of the combinations."""
    effects = np.vstack([fit.effects, np.zeros(fit.effects.shape[1])])
    drawn = np.stack([np.einsum("sp,ps->s", effects[column], fit.weighted) for column in space.places.T], axis=1)
    each = np.clip(SEVERITY + SEVERITY_SD**2 * drawn, 0.0, 1.4) * space.weight_of * weight[:, None]
    held = space.summed(np.broadcast_to(weight[:, None], space.places.shape))
    result: np.ndarray = space.summed(each) / np.maximum(held, 1e-12)
    return result


@dataclass(frozen=True, kw_only=True)
class _Known:
    """What a level and a club predict before any ball: effects (c, p), expected pieces (p, s), variances (p,) between
    golfers and (p, s) of effects, and directions (c, p) of shifts of unknown size.
    """

    effects: np.ndarray
    mean: np.ndarray
    own: np.ndarray
    unsure: np.ndarray
    directions: np.ndarray


@functools.lru_cache(maxsize=16)
def _known(space: Hypotheses, golfer: Golfer, club: Club) -> _Known:
    effects = effect_table(space.causes, golfer, club)
    variance = _effect_variance(space.causes, golfer, club) * SEVERITY**2
    return _Known(
        effects=effects,
        mean=SEVERITY * (effects.T @ space.weights.T),
        own=between_subjects(golfer, club) ** 2,
        unsure=variance.T @ space.membership.T,
        directions=SEVERITY_SD * effects + _in_step(space.causes),
    )


def _weigh(
    space: Hypotheses, known: _Known, measured: Measured, measured_pieces: np.ndarray, residual: np.ndarray
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Precision times residual (q, s), the precision's diagonal (q, s) and log determinants (s,) of the covariances.

    A combination's covariance is a diagonal plus one outer product for each member (its unknown severity, or a shift of
    unknown size). Woodbury's identity inverts it in the members instead of in the pieces.
    """
    base = measured.error[measured_pieces] ** 2 + known.own[measured_pieces]
    inverse = 1 / (base[:, None] + known.unsure[measured_pieces])
    # The row after the last cause is zero: combinations with fewer members point there.
    padded = np.vstack([known.directions[:, measured_pieces], np.zeros(measured_pieces.size)]).T
    v = [padded[:, column] for column in space.places.T]  # one for each member, (q, s)
    scaled = [inverse * one for one in v]
    inner = [[(scaled[i] * v[j]).sum(0) + (i == j) for j in range(i + 1)] for i in range(len(v))]
    turned, determinant = _inverted(inner)
    weighted, own = inverse * residual, inverse.copy()
    along = [(one * residual).sum(0) for one in scaled]
    for i, row in enumerate(turned):
        spread = sum(share * one for share, one in zip(row, scaled, strict=True))
        weighted -= spread * along[i]
        own -= spread * scaled[i]
    return weighted, own, np.log(determinant) - np.log(inverse).sum(0)


def _inverted(inner: list[list[np.ndarray]]) -> tuple[list[list[np.ndarray]], np.ndarray]:
    """Return inverses and determinants of symmetric 3 × 3 matrices, entry by entry, each (s,)."""
    (a,), (b, d), (c, e, f) = inner
    first, second, third = d * f - e * e, c * e - b * f, b * e - c * d
    determinant = a * first + b * second + c * third
    fourth, fifth, sixth = a * f - c * c, b * c - a * e, a * d - b * b
    rows = [[first, second, third], [second, fourth, fifth], [third, fifth, sixth]]
    return [[entry / determinant for entry in row] for row in rows], determinant


def _scales(golfer: Golfer, club: Club) -> np.ndarray:
    scale: np.ndarray = golfer.skill.effect_scale * club_scale(club)
    return scale


def between_subjects(golfer: Golfer, club: Club) -> np.ndarray:
    """Return how much golfers of one level differ apart from their faults, one SD for each piece, shape (p,)."""
    own = [OWN_SHARE * golfer.skill.between_sd[m] for m in CENTRES]
    return np.array(own + [SPREAD_BETWEEN_SD] * len(SPREADS))


def _effect_variance(causes: tuple[Cause, ...], golfer: Golfer, club: Club) -> np.ndarray:
    """Return the uncertainty of the effects, (c, p) variances at full severity."""
    scale = _scales(golfer, club)
    table = np.zeros((len(causes), len(PIECES)))
    for i, cause in enumerate(causes):
        for k, piece in enumerate(PIECES):
            if piece in SPREADS:
                table[i, k] = SPREAD_EFFECT_ERROR**2 if cause.effect.get(piece, 1.0) != 1.0 else 0.0
                continue
            effect = cause.effect.get(piece, 0.0)
            wide = 2.0 if piece in cause.wide else 1.0
            floor = EFFECT_FLOOR.get(piece, STRIKE_FLOOR) if cause.effect else 0.0
            table[i, k] = (wide * EFFECT_ERROR * effect * scale[k]) ** 2 + (wide * floor) ** 2
            table[i, k] += (cause.scatter.get(piece, 0.0) / SEVERITY) ** 2
    return table


def _in_step(causes: tuple[Cause, ...]) -> np.ndarray:
    """Directions of shifts of unknown size that move several pieces together, (c, p), one SD long."""
    return np.array([[cause.together.get(piece, 0.0) for piece in PIECES] for cause in causes])

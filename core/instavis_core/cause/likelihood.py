"""How well each combination of causes predicts what was measured.

Block statistics are Gaussian given a combination: severities are Gaussian about a typical one, effects
are known only roughly, and every golfer is off by something of their own. The marginal likelihood is
closed-form, and so is what each single statistic adds to it (the conditional of one coordinate given
the others comes straight from the precision matrix).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.cause.evidence import CENTRES, PIECES, SPREADS, Measured
from instavis_core.cause.space import Space
from instavis_core.golfer import Golfer
from instavis_core.knowledge import Cause, Club

SEVERITY, SEVERITY_SD = 0.80, 0.28  # of a fault that is there (assumption)
EFFECT_ERROR = 0.30  # of an effect, as a share of it (assumption)
EFFECT_FLOOR = {"path_deg": 0.5, "face_deg": 0.5, "attack_deg": 0.35, "dynamic_loft_deg": 0.5}
STRIKE_FLOOR = 1.0  # mm
SPREAD_IDIO = 0.22  # how golfers' spreads differ at one level, log (assumption)
SPREAD_EFFECT_ERROR = 0.15


@dataclass(frozen=True)
class Fit:
    """Per combination (s): log likelihood, what each piece adds to it (s, p), and severities (s, c)."""

    log_likelihood: np.ndarray
    piece: np.ndarray
    severity: np.ndarray
    mean: np.ndarray


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


def fit_measured(space: Space, measured: Measured, golfer: Golfer, club: Club) -> Fit:
    """Weigh every combination against the block statistics."""
    effects = effect_table(space.causes, golfer, club)
    means = SEVERITY * (space.weights @ effects)
    seen = np.flatnonzero(~np.isnan(measured.away))
    s, p = means.shape
    if not seen.size:
        return Fit(np.zeros(s), np.zeros((s, p)), SEVERITY * space.weights, means)
    residual = measured.away[seen] - means[:, seen]
    weighted, own, log_det = _weigh(space, effects, measured, golfer, club, seen, residual)
    log_likelihood = -0.5 * log_det - 0.5 * (weighted * residual).sum(1)
    piece = np.zeros((s, p))
    piece[:, seen] = 0.5 * np.log(own) - 0.5 * weighted**2 / own
    gain = weighted @ effects[:, seen].T
    severity = np.clip((SEVERITY + SEVERITY_SD**2 * gain) * space.weights, 0.0, 1.4)
    return Fit(log_likelihood, piece, severity, means)


def _weigh(space, effects, measured, golfer, club, seen, residual):
    """Precision times residual (s, q), the precision's diagonal (s, q) and log determinants (s,) of the covariances.

    A combination's covariance is a diagonal plus one outer product a member (its unknown severity, or a
    shift of unknown size): inverted by Woodbury's identity in the members instead of in the pieces.
    """
    base = measured.error[seen] ** 2 + _idiosyncrasy(golfer, club)[seen] ** 2
    each = _effect_variance(space.causes, golfer, club)[:, seen] * SEVERITY**2
    inverse = 1 / (base + space.members.astype(float) @ each)
    directions = SEVERITY_SD * effects[:, seen] + _in_step(space.causes, seen)
    # The row after the last cause is zero: combinations with fewer members point there.
    v = np.vstack([directions, np.zeros(seen.size)])[space.places]  # (s, k, q)
    scaled = v * inverse[:, None, :]
    inner = scaled @ v.swapaxes(1, 2)
    inner[:, range(v.shape[1]), range(v.shape[1])] += 1.0
    turned, determinant = _inverted(inner)
    weighted = inverse * residual
    spread = turned @ scaled  # (s, k, q)
    weighted -= ((scaled @ residual[:, :, None]) * spread).sum(1)
    own = inverse - (spread * scaled).sum(1)
    log_det = np.log(determinant) - np.log(inverse).sum(1)
    return weighted, own, log_det


def _inverted(matrices: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Inverses and determinants of symmetric 3 × 3 matrices (s, 3, 3), by cofactors: far quicker than in general."""
    a, b, c = matrices[:, 0, 0], matrices[:, 0, 1], matrices[:, 0, 2]
    d, e, f = matrices[:, 1, 1], matrices[:, 1, 2], matrices[:, 2, 2]
    rows = ((d * f - e * e, c * e - b * f, b * e - c * d), (a * f - c * c, b * c - a * e), (a * d - b * b,))
    determinant = a * rows[0][0] + b * rows[0][1] + c * rows[0][2]
    inverse = np.empty_like(matrices)
    for i, row in enumerate(rows):
        for j, cofactor in enumerate(row, start=i):
            inverse[:, i, j] = inverse[:, j, i] = cofactor / determinant
    return inverse, determinant


def _scales(golfer: Golfer, club: Club) -> np.ndarray:
    skill = golfer.skill.effect_scale
    by_metric = {"path_deg": club.path_scale, "face_deg": club.path_scale}
    by_metric |= {"attack_deg": club.attack_scale, "dynamic_loft_deg": club.attack_scale}
    return np.array([skill * by_metric.get(piece, 1.0) for piece in PIECES])


def _idiosyncrasy(golfer: Golfer, club: Club) -> np.ndarray:
    return np.array([golfer.skill.idio[m] for m in CENTRES] + [SPREAD_IDIO] * len(SPREADS))


def _effect_variance(causes: tuple[Cause, ...], golfer: Golfer, club: Club) -> np.ndarray:
    """How unsure the effects are, (c, p) variances at full severity."""
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


def _in_step(causes: tuple[Cause, ...], seen: np.ndarray) -> np.ndarray:
    """Directions of shifts of unknown size that move several pieces together, (c, q), one SD long."""
    return np.array([[cause.together.get(PIECES[k], 0.0) for k in seen] for cause in causes])

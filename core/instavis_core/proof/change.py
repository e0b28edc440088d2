"""How a number depends on the dose of a movement, with evidence and an interval that hold at any time.

Every ball is y = μ + form·[stage] + δ·dose + ε. Under δ = 0, the likelihood ratio of what does not depend on μ and the
spread, with a half-normal prior on δ in spreads, is a non-negative martingale as balls arrive, so the probability that
it ever exceeds 1/α is at most α (Ville; Robbins 1970; t version after Lai 1976 and Pérez-Ortiz, Lardy, de Heide &
Grünwald, Ann. Statist. 52 (2024) 1410, doi:10.1214/24-AOS2394; overview Ramdas et al., Stat. Sci. 38 (2023) 576,
doi:10.1214/23-STS894). Form is what the stage's balls share for other reasons: the day, the cue, a warmer body. It is
an effect of its own, normal with a third of a spread, so a change no larger than that proves nothing. Values are first
clipped to three robust spreads about their median, so that a few wild balls do not decide; `validate proof` measures
error control with skew, heavy tails and mishits.
"""

from __future__ import annotations

import functools
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from scipy.special import stdtr

from instavis_core.reading.robust import MAD_FACTORS, median, robust_spread

PRIOR_VARIANCE = 2.0  # prior SD of the standardized change: expects one to two spreads (assumption)
FORM_SD = 0.35  # spreads, between two blocks of one golfer without any change (assumption)
CLIP_FROM = 5  # balls before clipping starts
CLIP_AT = 3.0
MIN_BASELINE = 3
MIN_SCALE = 1e-6
MIN_NOISE = 0.5  # of an instrument's error: the smallest spread assumed for a golfer
MAX_FOLLOWED = 16
AT_ONCE = 64  # looks computed together: memory stays small however long a stage gets


_Key = tuple[bytes, ...]


@dataclass(frozen=True, kw_only=True)
class Change:
    """What a full dose of the movement does to the primary metric, golfer frame, in its own unit; None if unknown.

    ``standard_error`` is that of the estimate, of one look; ``balls`` are the stage's balls with known dose and number.
    """

    estimate: float | None
    standard_error: float | None
    low: float | None
    high: float | None
    confidence: float
    baseline_centre: float | None
    baseline_spread: float | None
    baseline_balls: int
    balls: int


@dataclass(frozen=True, kw_only=True)
class Regression:
    """The slope δ after every ball, arrays (n,) or, for several doses, (doses, n): estimate, t, information, residual
    spread and its degrees of freedom.

    ``known`` is false where there is no result yet.
    """

    known: np.ndarray
    estimate: np.ndarray
    t: np.ndarray
    information: np.ndarray
    spread: np.ndarray
    freedom: np.ndarray
    balls: np.ndarray

    def then(self, later: Regression) -> Regression:
        """Append later looks."""
        return Regression(**{k: np.concatenate([v, vars(later)[k]], axis=-1) for k, v in vars(self).items()})

    def of(self, place: int) -> Regression:
        """Return the result of one dose among several."""
        return Regression(**{k: v[place] for k, v in vars(self).items()})

    def evidence(self, sign: int) -> np.ndarray:
        """Return the e-value (n,) for a slope of that sign.

        A value of 20 or more happens by chance in at most 5 % of sequences.
        """
        shrink = 1 + self.information * PRIOR_VARIANCE
        t, nu = sign * self.t, self.freedom
        both = ((1 + t * t / nu) / (1 + t * t / (nu * shrink))) ** ((nu + 1) / 2) / np.sqrt(shrink)
        # Half-normal prior on the direction looked for: the two-sided ratio times twice the posterior share on that
        # side (a t tail; Gronau, Ly & Wagenmakers, Am. Stat. 74 (2020) 137).
        lean = t * np.sqrt(1 - 1 / shrink) / np.sqrt((1 + t * t / (nu * shrink)) * nu / (nu + 1))
        return np.where(self.known, 2 * both * stdtr(nu + 1, lean), 1.0)

    def against(self, slope: float, sign: int) -> np.ndarray:
        """Return the e-value (n,) against a slope as large as ``slope`` in the direction ``sign``."""
        shifted = np.where(self.known, self.t - slope * np.sqrt(self.information) / self.spread, 0.0)
        return Regression(**{**vars(self), "t": shifted}).evidence(-sign)

    def half_width(self, confidence: float) -> np.ndarray:
        """Return the half width (n,) of the confidence sequence of the slope; infinite while it is unbounded."""
        shrink = 1 + self.information * PRIOR_VARIANCE
        bar = (np.sqrt(shrink) / (1 - confidence)) ** (2 / (self.freedom + 1))
        bounded = self.known & (bar < shrink)
        share = np.where(bounded, bar / shrink, 0.5)
        t_squared = self.freedom * np.maximum(bar - 1, 0) / (1 - share)
        return np.where(bounded, self.spread * np.sqrt(t_squared / np.maximum(self.information, 1e-12)), np.inf)


class RunningChange:
    """Compare a fixed baseline with the balls of a stage.

    Parameters
    ----------
    baseline : array, shape (m,)
        Clean baseline values.
    least_scale : float
        The spread is never taken for less: half the noise of the instrument, in the metric's unit.
    doses : array, shape (m,), optional
        Of the baseline's balls, where they were measured; none of them had any otherwise.
    """

    def __init__(self, baseline: np.ndarray, least_scale: float = MIN_SCALE, doses: np.ndarray | None = None) -> None:
        self.baseline = clipped(np.asarray(baseline, float))
        self.doses = np.zeros(self.baseline.size) if doses is None else np.asarray(doses, float)
        self.least_scale = max(least_scale, MIN_SCALE)
        self._followed: dict[_Key, Regression] = {}

    @property
    def centre(self) -> float | None:
        """Return the mean of the baseline; None without a ball."""
        return float(self.baseline.mean()) if self.baseline.size else None

    @property
    def spread(self) -> float | None:
        """Return one SD of the baseline; None below two balls."""
        return float(self.baseline.std(ddof=1)) if self.baseline.size > 1 else None

    def follow(self, values: np.ndarray, *doses: tuple[np.ndarray, float]) -> Regression:
        """Regress the stage's values on several doses, after every ball.

        Parameters
        ----------
        values : array, shape (n,)
            In the order they were hit; NaN where not known.
        doses : pairs of an array, shape (n,), and a float
            Dose of every ball, NaN for one that is left out, and the SD of form in spreads. With an infinite one the
            stage is looked at by itself: its own middle, its own spread, and the baseline says nothing.

        Returns
        -------
        Regression
            Arrays (doses, n), all doses at once; `of` gives one.
        """
        values = np.asarray(values, float)
        table, forms = np.array([dose for dose, _ in doses], float), np.array([form for _, form in doses])
        n = values.size
        key = _key(values, table, forms, n)
        known = self._followed.get(key)
        if known is None:
            before = self._followed.get(_key(values, table, forms, n - 1)) if n else None
            fresh = self._regress_from(values, table, forms, n - 1 if before else 0)
            known = before.then(fresh) if before else fresh
            if len(self._followed) >= MAX_FOLLOWED:  # every ball adds one, and only the last is continued
                self._followed.clear()
            self._followed[key] = known
        return known

    def _regress_from(self, values: np.ndarray, doses: np.ndarray, forms: np.ndarray, start: int) -> Regression:
        """Regress after every ball from a position on."""
        parts = [_sums(np.empty((0, values.size)), doses)]
        for first in range(start, values.size, AT_ONCE):
            rows = np.arange(first, min(first + AT_ONCE, values.size))
            parts.append(_sums(_prefixes(values, rows), doses))
        sums = parts[-1] if len(parts) == 2 else np.concatenate(parts, axis=2)
        return self._regress(_Sums(*sums), forms[:, None])

    def beside(self, values: np.ndarray, doses: np.ndarray, other: np.ndarray) -> Regression:
        """Regress the stage's values on dose and on something else that varied, after every ball.

        Parameters
        ----------
        values, doses : array, shape (n,)
            In the order they were hit; NaN where not known.
        other : array, shape (n,)
            For example the club speed of every ball, in any unit; a ball without it is left out.

        Returns
        -------
        Regression
            The slope of the dose with the other held constant, from the stage alone; arrays (n,).
        """
        used = np.where(np.isnan(doses) | np.isnan(other), np.nan, values)
        y = _prefixes(used, np.arange(values.size))
        there = ~np.isnan(y)
        y, d, z = np.where(there, y, 0.0), np.where(there, doses, 0.0), np.where(there, other, 0.0)
        n = there.sum(1)
        zz = np.maximum(_centered(z, z, n), 1e-12)
        zd, zy = _centered(z, d, n) / zz, _centered(z, y, n) / zz
        information = np.maximum(_centered(d, d, n) - zd**2 * zz, 0.0)
        covered, rest = _centered(d, y, n) - zd * zy * zz, _centered(y, y, n) - zy**2 * zz
        return self._solved((information > 1e-9) & (n >= 4), information, covered, rest, n - 3.0, n)

    def change(self, link: Regression, confidence: float = 0.95) -> Change:
        """Return the slope after the last ball with its always-valid interval."""
        estimate = error = low = high = None
        if link.known.size and link.known[-1]:
            error = float(link.spread[-1] / np.sqrt(link.information[-1]))
            estimate, half = float(link.estimate[-1]), float(link.half_width(confidence)[-1])
            if np.isfinite(half):
                low, high = estimate - half, estimate + half
        return Change(
            estimate=estimate,
            standard_error=error,
            low=low,
            high=high,
            confidence=confidence,
            baseline_centre=self.centre,
            baseline_spread=self.spread,
            baseline_balls=self.baseline.size,
            balls=int(link.balls[-1]) if link.balls.size else 0,
        )

    def _regress(self, s: _Sums, form: np.ndarray) -> Regression:
        """Least squares of the stage on dose, with the baseline and a random effect of form, or alone."""
        alone = ~np.isfinite(form)
        share = np.where(alone, 0.0, 1.0)  # balls of the baseline that are used
        m, base = share * self.baseline.size, share * self.baseline.sum()
        base_squares = share * (self.baseline @ self.baseline)
        base_d, base_dd = share * self.doses.sum(), share * (self.doses @ self.doses)
        base_dy = share * (self.doses @ self.baseline)
        variance = np.where(alone, 0.0, form) ** 2
        # The inverse covariance of the stage's balls is 1 on the diagonal less this everywhere (Sherman-Morrison).
        shared = variance / (1 + s.n * variance)
        ones = np.maximum(m + s.n - shared * s.n**2, 1e-12)
        one_y = base + s.y - shared * s.n * s.y
        one_d = base_d + s.d - shared * s.n * s.d
        information = np.maximum(base_dd + s.dd - shared * s.d**2 - one_d**2 / ones, 0.0)
        covered = base_dy + s.dy - shared * s.d * s.y - one_d * one_y / ones
        rest = base_squares + s.yy - shared * s.y**2 - one_y**2 / ones
        freedom = m + s.n - 2
        enough = np.where(alone, s.n >= 3, self.baseline.size >= MIN_BASELINE)
        known = (information > 1e-9) & (freedom >= 1) & enough
        return self._solved(known, information, covered, rest, freedom, s.n.astype(int))

    def _solved(
        self,
        known: np.ndarray,
        information: np.ndarray,
        covered: np.ndarray,
        rest: np.ndarray,
        freedom: np.ndarray,
        balls: np.ndarray,
    ) -> Regression:
        """Return slope, t and spread from sums of squares and products; they are unknown where ``known`` is false."""
        safe, nu = np.where(known, information, 1.0), np.where(known, freedom, 1.0)
        squares = np.maximum(rest - np.where(known, covered**2 / safe, 0.0), 0.0)
        spread = np.maximum(np.sqrt(squares / nu), self.least_scale)
        return Regression(
            known=known,
            estimate=np.where(known, covered / safe, np.nan),
            t=np.where(known, covered / np.sqrt(safe) / spread, 0.0),
            information=np.where(known, information, 0.0),
            spread=spread,
            freedom=nu,
            balls=balls,
        )


class _Sums(NamedTuple):
    """Sums over the balls at every step: count, values, doses, their squares and products; each (doses, k)."""

    n: np.ndarray
    y: np.ndarray
    yy: np.ndarray
    d: np.ndarray
    dd: np.ndarray
    dy: np.ndarray


def _key(values: np.ndarray, doses: np.ndarray, forms: np.ndarray, n: int) -> _Key:
    """Return the cache key of the first n balls of a stage."""
    return values[:n].tobytes(), doses[:, :n].tobytes(), forms.tobytes()


def _sums(steps: np.ndarray, doses: np.ndarray) -> np.ndarray:
    """Return the six sums, shape (6, doses, k), for steps (k, n) with doses (doses, n)."""
    available, dosed = ~np.isnan(steps), ~np.isnan(doses)
    y, d, used = np.where(available, steps, 0.0), np.where(dosed, doses, 0.0), dosed.astype(float)
    there = available.astype(float)
    pairs = ((used, there), (used, y), (used, y * y), (d, there), (d * d, there), (d, y))
    return np.stack([np.einsum("dn,kn->dk", a, b) for a, b in pairs])


def _prefixes(values: np.ndarray, rows: np.ndarray) -> np.ndarray:
    """Return the values available after every ball of ``rows``, (k, n): clipped, NaN afterwards."""
    available = np.where(np.arange(values.size) <= rows[:, None], values, np.nan)
    count = (~np.isnan(available)).sum(1)
    middle = _medians(available, count)
    mad = 1.4826 * _medians(np.abs(available - middle[:, None]), count)
    factor = _mad_factors(values.size)[count]
    reach = np.where((count >= CLIP_FROM) & (mad > 0), CLIP_AT * mad * factor, np.inf)
    clip = np.isfinite(reach)
    available[clip] = np.clip(available[clip], (middle - reach)[clip, None], (middle + reach)[clip, None])
    return available


@functools.lru_cache(maxsize=64)
def _mad_factors(most: int) -> np.ndarray:
    """Return factors that make the MAD of small samples a consistent spread, by count."""
    return np.array([MAD_FACTORS.get(n, n / max(n - 0.8, 0.2)) for n in range(most + 1)])


def _medians(values: np.ndarray, count: np.ndarray) -> np.ndarray:
    """Return medians of rows with ``count`` numbers; NaN (sorted last) for a row without any."""
    ordered, rows = np.sort(values, axis=1), np.arange(len(values))
    low, high = np.maximum(count - 1, 0) // 2, np.minimum(count // 2, values.shape[1] - 1)
    return np.where(count > 0, (ordered[rows, low] + ordered[rows, high]) / 2, np.nan)


def clipped(values: np.ndarray) -> np.ndarray:
    """Clip values to three robust spreads about their median, from five values on."""
    if values.size < CLIP_FROM:
        return values
    middle, spread = median(values), robust_spread(values)
    return np.clip(values, middle - CLIP_AT * spread, middle + CLIP_AT * spread) if spread > 0 else values


def _centered(a: np.ndarray, b: np.ndarray, n: np.ndarray) -> np.ndarray:
    """Return the sums (n,) of products about the means, for rows (n, balls) that hold zero where a ball is left out."""
    products: np.ndarray = (a * b).sum(1) - a.sum(1) * b.sum(1) / np.maximum(n, 1)
    return products

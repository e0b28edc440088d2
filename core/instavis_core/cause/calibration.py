"""Calibrated and mutually consistent probabilities."""

from __future__ import annotations

import itertools

import numpy as np

CALIBRATION = 1.8  # fitted to simulated golfers (`./instavis validate cause`); 1 would keep the model's own probability
UNCHECKED = 0.26  # share by which log-odds are too large before any check, where own habits and effects are unknown
CHECKS_TO_TRUST = 8.6  # checks after which that share has fallen to a third; both fitted to `./instavis validate cause`
RIVALS_SHARE = 0.5  # times the chance of both by accident, below which two causes exclude each other
LIKELY_FROM = 0.10  # below it a cause is not likely, whatever it excludes


def calibrated(p: np.ndarray, checks: int) -> np.ndarray:
    """Calibrate probabilities so that they are true as often as they say.

    Beta calibration (Kull et al., AISTATS 2017) with one constant: the model allows for more kinds of golfers than
    there are, so its middle probabilities are too low; its low ones are right (docs/decisions/9-calibrated-words.md).
    Above one half the log-odds then shrink while few checks are answered, because a golfer's own habits look like a
    fault in the numbers and only the body tells them apart (docs/decisions/40-sure-by-checks.md).

    Parameters
    ----------
    p : array of float
        Probabilities of the model.
    checks : int
        How many checks were answered.

    Examples
    --------
    >>> calibrated(np.array([0.8]), checks=0) < calibrated(np.array([0.8]), checks=6)
    array([ True])
    """
    p = np.clip(p, 1e-9, 1 - 1e-9)
    odds = p / (1 - p) ** CALIBRATION
    slope = 1 - UNCHECKED * np.exp(-checks / CHECKS_TO_TRUST)
    odds = np.where(odds > 1, odds**slope, odds)
    return odds / (1 + odds)


def logit(p: np.ndarray) -> np.ndarray:
    """Log-odds of probabilities, finite at 0 and 1."""
    p = np.clip(p, 1e-9, 1 - 1e-9)
    return np.log(p / (1 - p))


def coherent(probability: np.ndarray, together: np.ndarray, checks: int) -> np.ndarray:
    """Return probabilities that can be true together: two causes that exclude each other share their probability.

    Causes that are calibrated one by one could otherwise both be called likely.
    """
    raw, result = np.diag(together), probability.copy()
    likely = np.flatnonzero(probability >= LIKELY_FROM)
    for i, j in itertools.combinations(likely[np.argsort(-probability[likely])], 2):
        rivals = together[i, j] < RIVALS_SHARE * raw[i] * raw[j]
        most = 1.0 + float(calibrated(together[i, j], checks))
        if rivals and result[i] + result[j] > most:
            result[[i, j]] *= most / (result[i] + result[j])
    return result

"""Calibrated and mutually consistent probabilities."""

from __future__ import annotations

import itertools

import numpy as np

CALIBRATION = 1.8  # fitted to simulated golfers (`./instavis validate cause`); 1 would keep the model's own probability
RIVALS_SHARE = 0.5  # times the chance of both by accident, below which two causes exclude each other
LIKELY_FROM = 0.10  # below it a cause is not likely, whatever it excludes


def calibrated(p: np.ndarray) -> np.ndarray:
    """Calibrate probabilities so that they are true as often as they say.

    Beta calibration (Kull et al., AISTATS 2017) with one constant. The model allows for more kinds of golfers than
    there are, so its middle probabilities are too low; its low ones are right (docs/decisions/9-calibrated-words.md).
    """
    p = np.clip(p, 1e-9, 1 - 1e-9)
    odds = p / (1 - p) ** CALIBRATION
    return odds / (1 + odds)


def logit(p: np.ndarray) -> np.ndarray:
    """Log-odds of probabilities, finite at 0 and 1."""
    p = np.clip(p, 1e-9, 1 - 1e-9)
    return np.log(p / (1 - p))


def coherent(probability: np.ndarray, together: np.ndarray) -> np.ndarray:
    """Return probabilities that can be true together: two causes that exclude each other share their probability.

    Causes that are calibrated one by one could otherwise both be called likely.
    """
    raw, result = np.diag(together), probability.copy()
    likely = np.flatnonzero(probability >= LIKELY_FROM)
    for i, j in itertools.combinations(likely[np.argsort(-probability[likely])], 2):
        rivals = together[i, j] < RIVALS_SHARE * raw[i] * raw[j]
        most = 1.0 + float(calibrated(together[i, j]))
        if rivals and result[i] + result[j] > most:
            result[[i, j]] *= most / (result[i] + result[j])
    return result

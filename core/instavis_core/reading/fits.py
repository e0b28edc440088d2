"""What the physics says about each ball: its fitted delivery and the one value that does not fit.

A fit depends only on the ball's own readings, its club and its lie. The same balls are read again after every new one,
so fits are cached by their inputs.
"""

from __future__ import annotations

import threading
from dataclasses import dataclass

import numpy as np

from instavis_core.impact.collision import Delivery, launch_of
from instavis_core.impact.inverse import LAUNCH_ERROR, infer_delivery
from instavis_core.knowledge import Club
from instavis_core.reading.doubts import doubtful_landings

# A ball entered in words: start direction and curve are coarse, nothing else is known (`lesson/by_hand.py`).
HAND_ERROR = np.array([8.0, 6.0, 2.0, 3000.0, 5.0])
AGREES = 2.0  # standard errors of every launch value, well below where a fit would call one doubtful
MAX_REMEMBERED = 50_000

_Row = tuple[np.ndarray, np.ndarray, str | None]
_remembered: dict[bytes, _Row] = {}
_lock = threading.Lock()


@dataclass(frozen=True)
class Fits:
    """Fits of n balls: ``mean`` and ``sd`` (n, 7) of the delivery, ``doubtful`` names of values or None."""

    mean: np.ndarray
    sd: np.ndarray
    doubtful: list[str | None]


def fit_balls(
    club_values: np.ndarray, launch: np.ndarray, landing: np.ndarray, by_hand: np.ndarray, club: Club
) -> Fits:
    """Fit every ball that is not cached.

    Parameters
    ----------
    club_values, launch, landing : array of shape (n, 7), (n, 5), (n, 2)
        Readings, right-handed frame; ``landing`` is carry and side; NaN where not measured.
    by_hand : bool array of shape (n,)
        Balls entered in words.
    club : Club
    """
    table = np.ascontiguousarray(np.column_stack([club_values, launch, landing, by_hand]))
    met = f"{club.id} {club.friction}".encode()
    keys = [met + row.tobytes() for row in table]
    known = {key: row for key in keys if (row := _remembered.get(key)) is not None}
    fresh = [i for i, key in enumerate(keys) if key not in known]
    if fresh:
        error = np.where(by_hand[fresh, None], HAND_ERROR, LAUNCH_ERROR)
        mean, sd, doubts = _fit(club_values[fresh], launch[fresh], club, error)
        landings = doubtful_landings(launch[fresh], landing[fresh])
        new = {keys[i]: (mean[k], sd[k], doubts[k] or landings[k]) for k, i in enumerate(fresh)}
        known |= new
        with _lock:  # several requests read balls at once
            _remembered.update(new)
            while len(_remembered) > MAX_REMEMBERED:
                del _remembered[next(iter(_remembered))]
    rows = [known[key] for key in keys]
    return Fits(
        np.array([row[0] for row in rows]).reshape(-1, 7),
        np.array([row[1] for row in rows]).reshape(-1, 7),
        [row[2] for row in rows],
    )


def _fit(
    club_values: np.ndarray, launch: np.ndarray, club: Club, error: np.ndarray
) -> tuple[np.ndarray, np.ndarray, list[str | None]]:
    """Return means, errors and doubts; a fully measured ball that agrees with the model needs no fit."""
    mean, sd = club_values.copy(), np.zeros_like(club_values)
    doubts: list[str | None] = [None] * len(club_values)
    complete = ~(np.isnan(club_values).any(1) | np.isnan(launch).any(1))
    if complete.any():
        modelled = np.stack(launch_of(Delivery(*club_values[complete].T), club).columns(), axis=1)
        complete[complete] = (np.abs(launch[complete] - modelled) < AGREES * error[complete]).all(1)
    rest = np.flatnonzero(~complete)
    if rest.size:
        fit = infer_delivery(club_values[rest], launch[rest], club, error[rest])
        mean[rest], sd[rest] = fit.mean, fit.sd
        for i, name in zip(rest, fit.doubtful(), strict=True):
            doubts[i] = name
    return mean, sd, doubts

"""What the physics makes of each ball: its fitted delivery and the one value that does not fit.

A fit depends on the ball's own readings and its club alone, and the same balls are read again after every
new one: fits are remembered by what went into them. Nothing else is shared between readings.
"""

from __future__ import annotations

import threading
from dataclasses import dataclass

import numpy as np

from instavis_core.impact.inverse import LAUNCH_ERROR, infer_delivery
from instavis_core.knowledge import Club
from instavis_core.reading.doubts import doubtful_landings

# A ball told in words: start direction and curve are coarse, nothing else is known (`lesson/by_hand.py`).
HAND_ERROR = np.array([8.0, 6.0, 2.0, 3000.0, 5.0])
MOST_REMEMBERED = 50_000

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
    """Fit every ball, as far as it is not remembered.

    Parameters
    ----------
    club_values, launch, landing : array of shape (n, 7), (n, 5), (n, 2)
        Readings, right-handed frame; ``landing`` is carry and side; NaN where not measured.
    by_hand : bool array of shape (n,)
        Balls told in words.
    club : Club
    """
    table = np.ascontiguousarray(np.column_stack([club_values, launch, landing, by_hand]))
    keys = [club.id.encode() + row.tobytes() for row in table]
    known = {key: row for key in keys if (row := _remembered.get(key)) is not None}
    fresh = [i for i, key in enumerate(keys) if key not in known]
    if fresh:
        error = np.where(by_hand[fresh, None], HAND_ERROR, LAUNCH_ERROR)
        fit = infer_delivery(club_values[fresh], launch[fresh], club, error)
        landings = doubtful_landings(launch[fresh], landing[fresh])
        new = {
            keys[i]: (fit.mean[k], fit.sd[k], name or landings[k])
            for k, (i, name) in enumerate(zip(fresh, fit.doubtful(), strict=True))
        }
        known |= new
        with _lock:  # several requests read balls at once
            _remembered.update(new)
            while len(_remembered) > MOST_REMEMBERED:
                del _remembered[next(iter(_remembered))]
    rows = [known[key] for key in keys]
    return Fits(
        np.array([row[0] for row in rows]).reshape(-1, 7),
        np.array([row[1] for row in rows]).reshape(-1, 7),
        [row[2] for row in rows],
    )

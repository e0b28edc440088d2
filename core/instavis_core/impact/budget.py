"""What made the curve: face-to-path, the strike, or something else."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from instavis_core.impact.collision import Delivery, launch_of
from instavis_core.knowledge import Club


@dataclass(frozen=True)
class CurveBudget:
    """Shares of a spin-axis tilt; arrays of shape (n,) [°], right positive, adding up to the tilt."""

    face_to_path_deg: np.ndarray
    strike_deg: np.ndarray
    rest_deg: np.ndarray


def curve_budget(delivery: Delivery, club: Club, measured_axis: np.ndarray | None = None) -> CurveBudget:
    """Split the spin-axis tilt of each ball.

    The face-to-path part is the tilt of the same delivery struck in the centre; the strike part is what
    the strike adds to it; the rest is what a measured tilt leaves over (zero without one).

    Parameters
    ----------
    delivery : Delivery
        n deliveries.
    club : Club
    measured_axis : array_like of shape (n,), optional
        Measured spin axis [°]; NaN where there is none.
    """
    centred = launch_of(replace(delivery, toe=0.0, high=0.0), club).spin_axis
    modelled = launch_of(delivery, club).spin_axis
    centred = np.broadcast_to(centred, modelled.shape)
    rest = np.zeros_like(modelled)
    if measured_axis is not None:
        rest = np.nan_to_num(np.asarray(measured_axis, float) - modelled)
    return CurveBudget(centred, modelled - centred, rest)

"""Split a start direction and a curve into face, path, strike and the rest."""

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


@dataclass(frozen=True, kw_only=True)
class StartBudget:
    """Shares of a start direction; arrays of shape (n,) [°], right positive, adding up to the direction."""

    face_deg: np.ndarray
    path_deg: np.ndarray
    strike_deg: np.ndarray
    rest_deg: np.ndarray


def curve_budget(delivery: Delivery, club: Club, measured_axis: np.ndarray | None = None) -> CurveBudget:
    """Split the spin-axis tilt of each ball.

    The face-to-path part is the tilt of the same delivery struck in the center. The strike part is what the strike
    adds. The rest is the remainder of a measured tilt (zero without one).

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
    return CurveBudget(centred, modelled - centred, _left_over(measured_axis, modelled))


def start_budget(delivery: Delivery, club: Club, measured_direction: np.ndarray | None = None) -> StartBudget:
    """Split the start direction of each ball.

    The face part is the start of the same delivery with a path of zero; the path part that with a face of zero, both
    struck in the center. The strike part is what the strike adds (bulge and the turning of the head). The rest is the
    remainder of a measured direction, or of the modeled one (the small interaction of face and path).

    Parameters
    ----------
    delivery : Delivery
        n deliveries.
    club : Club
    measured_direction : array_like of shape (n,), optional
        Measured start direction [°]; NaN where there is none.
    """
    centred = replace(delivery, toe=0.0, high=0.0)
    modelled = launch_of(delivery, club).launch_direction
    face, path, both = (
        np.broadcast_to(launch_of(d, club).launch_direction, modelled.shape)
        for d in (replace(centred, path=0.0), replace(centred, face=0.0), centred)
    )
    strike = modelled - both
    rest = both - face - path + _left_over(measured_direction, modelled)
    return StartBudget(face_deg=face, path_deg=path, strike_deg=strike, rest_deg=rest)


def _left_over(measured: np.ndarray | None, modelled: np.ndarray) -> np.ndarray:
    if measured is None:
        return np.zeros_like(modelled)
    return np.nan_to_num(np.asarray(measured, float) - modelled)

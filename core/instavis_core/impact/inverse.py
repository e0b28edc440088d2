"""Infer what was not measured: the delivery that best explains the measurements.

A maximum a posteriori fit of each ball, computed for all balls at once. It combines what is known of any golfer with
this club (prior), the monitor's values with their errors, and the collision model between them. Gauss-Newton with a
numerical Jacobian; the curvature at the solution gives the uncertainty (Rodgers, Inverse Methods for Atmospheric
Sounding, 2000, ch. 5, the same algebra).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.impact.collision import Delivery, launch_of
from instavis_core.knowledge import Club

DELIVERY_NAMES = (
    "club_speed_mps",
    "path_deg",
    "face_deg",
    "attack_deg",
    "dynamic_loft_deg",
    "strike_toe_mm",
    "strike_high_mm",
)
LAUNCH_NAMES = ("ball_speed_mps", "launch_angle_deg", "launch_direction_deg", "spin_rpm", "spin_axis_deg")

PRIOR_SPREAD = np.array([8.0, 5.0, 4.0, 2.5, 5.0, 8.0, 6.0])  # one SD over golfers (assumption)
CLUB_ERROR = np.array([0.5, 0.8, 0.8, 0.7, 1.0, 2.0, 2.0])  # one SD of one reading (assumption)
LAUNCH_ERROR = np.array([0.7, 0.8, 0.7, 400.0, 2.5])  # reading and model together (assumption)
STEPS = np.array([0.1, 0.1, 0.1, 0.1, 0.1, 0.5, 0.5])
ROUNDS = 6
SETTLED = 0.002  # of the prior's spread: a smaller step changes nothing visible
MISFIT_LIMIT = 4.5  # standard errors between one value and all the others


@dataclass(frozen=True)
class InferredDelivery:
    """The fitted deliveries.

    ``mean`` and ``sd`` have shape (n, 7), with columns as in ``DELIVERY_NAMES``. ``misfit`` (n, 12) is how many
    standard errors each measured value (delivery, then launch) is from the fit; NaN where it was not measured.
    """

    mean: np.ndarray
    sd: np.ndarray
    misfit: np.ndarray

    def doubtful(self) -> list[str | None]:
        """Return the one value of each ball that physically contradicts the others, or None."""
        names = DELIVERY_NAMES + LAUNCH_NAMES
        worst = np.nan_to_num(np.abs(self.misfit), nan=0.0)
        return [names[i] if row[i] > MISFIT_LIMIT else None for row, i in zip(worst, worst.argmax(1), strict=True)]


def infer_delivery(
    club_values: np.ndarray, launch_values: np.ndarray, club: Club, launch_error: np.ndarray = LAUNCH_ERROR
) -> InferredDelivery:
    """Fit the delivery of each ball.

    Parameters
    ----------
    club_values : array of shape (n, 7)
        Measured delivery, right-handed frame, columns as ``DELIVERY_NAMES``; NaN where not measured.
    launch_values : array of shape (n, 5)
        Measured launch, columns as ``LAUNCH_NAMES``; NaN where not measured.
    club : Club
    launch_error : array of shape (5,) or (n, 5)
        One SD of each launch reading.

    Returns
    -------
    InferredDelivery
    """
    n = club_values.shape[0]
    prior = np.tile([0.0, 0, 0, club.attack, club.usual_dynamic_loft, 0, 0], (n, 1))
    speed = np.where(np.isnan(launch_values[:, 0]), 36.0, launch_values[:, 0] / club.usual_smash)
    prior[:, 0] = speed
    prior_weight = np.tile(1 / PRIOR_SPREAD**2, (n, 1))
    club_known, launch_known = ~np.isnan(club_values), ~np.isnan(launch_values)
    club_weight = np.where(club_known, 1 / CLUB_ERROR**2, 0.0)
    launch_weight = np.where(launch_known, 1 / launch_error**2, 0.0)
    club_filled = np.where(club_known, club_values, 0.0)
    launch_filled = np.where(launch_known, launch_values, 0.0)

    state = np.where(club_known, club_values, prior)
    for _ in range(ROUNDS):
        modelled, jacobian = _linearise(state, club)
        hessian = np.einsum("nki,nk,nkj->nij", jacobian, launch_weight, jacobian)
        hessian[:, range(7), range(7)] += prior_weight + club_weight
        gradient = np.einsum("nki,nk->ni", jacobian, launch_weight * (launch_filled - modelled))
        gradient += prior_weight * (prior - state) + club_weight * (club_filled - state)
        step = np.linalg.solve(hessian, gradient[:, :, None])[:, :, 0]
        state = state + np.clip(step, -2 * PRIOR_SPREAD, 2 * PRIOR_SPREAD)
        if (np.abs(step) < SETTLED * PRIOR_SPREAD).all():
            break
    modelled, jacobian = _linearise(state, club)
    covariance = np.linalg.inv(hessian)
    sd = np.sqrt(np.einsum("nii->ni", covariance))
    fitted = np.einsum("nki,nij,nkj->nk", jacobian, covariance, jacobian)
    misfit = np.concatenate(
        [
            _standardised(club_values - state, CLUB_ERROR**2, sd**2),
            _standardised(launch_values - modelled, np.broadcast_to(launch_error**2, fitted.shape), fitted),
        ],
        axis=1,
    )
    return InferredDelivery(state, sd, misfit)


def _standardised(residual: np.ndarray, error: np.ndarray, explained: np.ndarray) -> np.ndarray:
    """Divide residuals by their own standard deviation, which fitting makes smaller than the error."""
    return residual / np.sqrt(np.maximum(error - explained, 0.15 * error))


def _linearise(state: np.ndarray, club: Club) -> tuple[np.ndarray, np.ndarray]:
    """Return the modeled launch (n, 5) and its derivative by the delivery (n, 5, 7), from central differences."""
    n = state.shape[0]
    shifted = [state]
    for i, h in enumerate(STEPS):
        for sign in (1, -1):
            moved = state.copy()
            moved[:, i] += sign * h
            shifted.append(moved)
    launch = np.stack(launch_of(Delivery(*np.concatenate(shifted).T), club).columns(), axis=1)
    launch = launch.reshape(len(shifted), n, 5)
    jacobian = np.stack([(launch[1 + 2 * i] - launch[2 + 2 * i]) / (2 * h) for i, h in enumerate(STEPS)], axis=2)
    return launch[0], jacobian

"""The compression ladder: where a weak ball lost its speed.

It asks in the order in which a coach should ask: was it struck in the center, did the face point along the path, was
loft added, was the club slow? Each step is the ball speed that the impact model regains when that one thing is
corrected, after everything above it has been corrected.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from instavis_core.impact.collision import Delivery, launch_of
from instavis_core.knowledge import Club


@dataclass(frozen=True, kw_only=True)
class CompressionLadder:
    """Lost ball speed by cause; arrays of shape (n,) [m/s], positive is lost.

    ``reference_mps`` is the ball speed with the golfer's usual club speed and the club's usual loft and attack, square
    and centered. The five losses add up to the difference from it.
    """

    reference_mps: np.ndarray
    off_centre_mps: np.ndarray
    glancing_mps: np.ndarray
    added_loft_mps: np.ndarray
    club_speed_mps: np.ndarray
    rest_mps: np.ndarray


def compression_ladder(
    delivery: Delivery, club: Club, reference_speed: float, measured_ball_speed: np.ndarray | None = None
) -> CompressionLadder:
    """Split the lost ball speed of each ball by cause.

    Parameters
    ----------
    delivery : Delivery
        n deliveries.
    club : Club
    reference_speed : float
        Club speed to compare with [m/s], usually the block's middle.
    measured_ball_speed : array_like of shape (n,), optional
        [m/s]; what it lacks beyond the model is the rest. NaN where not measured.
    """
    hit = launch_of(delivery, club).ball_speed
    centred = replace(delivery, toe=0.0, high=0.0)
    square = replace(centred, face=delivery.path)
    usual = replace(square, attack=club.attack, dynamic_loft=club.usual_dynamic_loft)
    rungs = [hit, *(launch_of(d, club).ball_speed for d in (centred, square, usual))]
    rungs.append(launch_of(replace(usual, club_speed=reference_speed), club).ball_speed)
    hit, centred_speed, square_speed, usual_speed, reference = np.broadcast_arrays(*rungs)
    rest = np.zeros_like(hit)
    if measured_ball_speed is not None:
        rest = np.nan_to_num(hit - np.asarray(measured_ball_speed, float))
    return CompressionLadder(
        reference_mps=reference,
        off_centre_mps=centred_speed - hit,
        glancing_mps=square_speed - centred_speed,
        added_loft_mps=usual_speed - square_speed,
        club_speed_mps=reference - usual_speed,
        rest_mps=rest,
    )

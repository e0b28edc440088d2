"""Reference lines on a clip, placed where the body stood at address."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.camera.body import address_frames
from instavis_core.camera.landmarks import PoseSeries
from instavis_core.camera.quantities import USUAL_HEIGHT, centimetre
from instavis_core.recordings import Moments

HEAD_CM = 13.0  # half a head and a little air
SEAT_CM = 17.0  # from the hip joints to the seat behind them (sample bodies)
HIP_CM = 9.0  # from the lead hip joint to its outside
HANDS_CM = (16.0, 14.0)  # width and height of the window through which the hands return at impact
SIDE = {"right": 1.0, "left": -1.0}


@dataclass(frozen=True, kw_only=True)
class Lines:
    """Positions of the lines in shares of the picture, to the right and down.

    ``centimetre`` is the size of one centimeter at the golfer, in picture heights. ``head`` is the middle and half the
    width and height of a ring. ``seat`` and ``lead_hip`` are vertical lines, each in the view that shows it and None in
    the other. ``hands`` is the left, top, width and height of the window through which the hands return at impact.
    ``feet`` is the middle between the ankles.
    """

    centimetre: float
    head: tuple[float, float, float, float]
    seat: float | None
    lead_hip: float | None
    hands: tuple[float, float, float, float]
    feet: tuple[float, float]


def lines_of(series: PoseSeries, moments: Moments, height_cm: float = USUAL_HEIGHT) -> Lines:
    """Place the lines of a clip from its address frames.

    Parameters
    ----------
    series : PoseSeries
        Landmarks without gaps, as `body_of` takes them.
    moments : Moments
        Of the clip, on its clock.
    height_cm : float
        The golfer's.
    """
    still = address_frames(series.times, moments)
    cm = centimetre(series, still, height_cm)
    wide = cm * series.height / series.width

    def place(*names: str) -> np.ndarray:
        return np.nanmedian([series.points[name][still, :2] for name in names], axis=(0, 1))

    feet = place("lead_ankle", "trail_ankle")
    head = place("lead_ear", "trail_ear", "nose")
    hands = place("lead_wrist", "trail_wrist")
    front = series.view == "face-on"
    side = SIDE[series.hand]
    across, high = HANDS_CM
    return Lines(
        centimetre=cm,
        head=(float(head[0]), float(head[1]), HEAD_CM * wide, HEAD_CM * cm),
        seat=None if front else float(place("lead_hip", "trail_hip")[0] - side * SEAT_CM * wide),
        lead_hip=float(place("lead_hip")[0] + side * HIP_CM * wide) if front else None,
        hands=(float(hands[0] - across * wide / 2), float(hands[1] - high * cm / 2), across * wide, high * cm),
        feet=(float(feet[0]), float(feet[1])),
    )

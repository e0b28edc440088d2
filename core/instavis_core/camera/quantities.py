"""What one view shows of the body relative to address, before the camera's bias is corrected.

Lengths are scaled by the golfer's own leg, whose share of the body height is known. `bias` corrects how a turned pelvis
shifts the apparent position of its joints.
"""

from __future__ import annotations

import numpy as np

from instavis_core.camera.landmarks import PoseSeries

USUAL_HEIGHT = 175.0  # cm, if unknown
LEG_SHARE = {"face-on": 0.427, "down-the-line": 0.480}
"""Hip to knee to ankle at address as the view shows it, in body heights (sample bodies)."""


def centimetre(series: PoseSeries, still: np.ndarray, height_cm: float) -> float:
    """Return how many picture heights one centimeter is at the golfer."""
    legs = []
    for side in ("lead", "trail"):
        hip, knee, ankle = (series.place(f"{side}_{joint}")[still] for joint in ("hip", "knee", "ankle"))
        legs.append(np.hypot(*(hip - knee).T) + np.hypot(*(knee - ankle).T))
    return float(np.median(legs)) / (LEG_SHARE[series.view] * height_cm)


def raw(series: PoseSeries, still: np.ndarray, height_cm: float) -> dict[str, np.ndarray]:
    """Quantities of the view (k,) by the names of the motion table, cm and °."""
    cm = centimetre(series, still, height_cm)
    hips, shoulders, head, hands = (
        series.place(f"lead_{joint}", f"trail_{joint}") / cm for joint in ("hip", "shoulder", "ear", "wrist")
    )
    if series.view == "face-on":
        # Lift is left out: hips that turn toward the camera appear to sink as much. So is turn: the network's
        # estimate lags by fifteen degrees and more.
        found = {"sway_cm": hips[:, 0], "head_sway_cm": head[:, 0], "hands_sway_cm": hands[:, 0]}
        found |= {"head_lift_cm": head[:, 1], "hands_lift_cm": hands[:, 1]}
    else:
        # Hands at the top are half a meter closer than the hips, so their height is not measured from here.
        trunk = shoulders - hips
        lean = np.degrees(np.arctan2(trunk[:, 0], trunk[:, 1]))
        found = {"thrust_cm": hips[:, 0], "lift_cm": hips[:, 1], "bend_deg": lean}
        found |= {"head_lift_cm": head[:, 1], "hands_thrust_cm": hands[:, 0]}
    return {name: _from(values, still) for name, values in found.items()}


def habits(series: PoseSeries, still: np.ndarray, height_cm: float) -> dict[str, np.ndarray]:
    """Return what the error of a view depends on (k,): the apparent turn of pelvis and chest, the apparent distances
    between joints [10 cm], and the height of the hands above the shoulders [30 cm], a measure of swing progress.
    """
    cm = centimetre(series, still, height_cm)
    result = {}
    for part, values in series.turns.items():
        result[f"{part}_sin"] = np.sin(np.radians(values)) - np.sin(np.radians(np.median(values[still])))
    for joint in ("hip", "shoulder", "knee"):
        distance = (series.place(f"lead_{joint}") - series.place(f"trail_{joint}")) / cm
        result[f"{joint}s_apart"] = _from(np.abs(distance[:, 0]), still) / 10
    arms = (series.place("lead_wrist", "trail_wrist") - series.place("lead_shoulder", "trail_shoulder")) / cm
    for axis, values in zip(("out", "up"), arms.T, strict=True):
        result[f"arms_{axis}"] = _from(values, still) / 30
    return result


def _from(values: np.ndarray, still: np.ndarray) -> np.ndarray:
    return values - np.median(values[still])

"""What the body did in a clip: the quantities of the view with their errors, and the moments of the swing."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from instavis_core.camera.hands import IMPACT_SPREAD, TOP_SPREAD, arm_turn, impact_of, top_curves, top_of
from instavis_core.camera.landmarks import PoseSeries, checked
from instavis_core.camera.quantities import USUAL_HEIGHT, centimetre, habits, raw
from instavis_core.errors import InputError
from instavis_core.knowledge.camera import load_camera
from instavis_core.message import Message
from instavis_core.recordings import Moments, SwingSeries, evened, find_moments, swing_of_columns

SOUND_LATE = 0.010  # s between the strike and its sound, at about three and a half meters
SOUND_SPREAD = 0.004  # s, one SD of impact by the strike that was heard
SOUND_NEAR = 0.15  # s from the hands' impact; a later or earlier sound is another one
ADDRESS_SECONDS = 0.30  # s before the first move that count as address
UNTOLD = 1.25  # factor on the error when the height is only assumed
MOVED_FEET = 4.0  # cm that the lead foot, which should not move, may appear to move until impact


@dataclass(frozen=True, kw_only=True)
class CameraBody:
    """The body in a clip.

    ``swing`` is evenly sampled, relative to address, with an error for each series; ``moments`` are those of the swing,
    and ``notes`` name doubts. Times count from the first frame of the clip.
    """

    view: str
    swing: SwingSeries
    moments: Moments
    notes: list[Message]


def body_of(series: PoseSeries, height_cm: float | None = None) -> CameraBody:
    """Measure the body in a clip.

    Parameters
    ----------
    series : PoseSeries
        Landmarks as they were found.
    height_cm : float, optional
        The golfer's; an adult's usual height when it is not known, with lengths that are off by as much.

    Raises
    ------
    InputError
        When the clip shows no whole body or no swing.
    """
    if height_cm is not None and not 100 <= height_cm <= 230:
        raise InputError("height_cm", height_cm, Message("films-100-230-cm"))
    series, height, notes = checked(series), height_cm or USUAL_HEIGHT, []
    if height_cm is None:
        notes.append(Message("films-lengths-assume-height-cm-because", height=height))
    moments = moments_of(series)
    still = address_frames(series.times, moments)
    if _moved(series, moments, still, height):
        notes.append(Message("films-camera-lead-foot-moved-between"))
    shown = raw(series, still, height)
    about = habits(series, still, height)
    table = load_camera()[series.view]
    columns = {name: habit.corrected(values, about) for name, values in shown.items() if (habit := table.get(name))}
    swing = evened(series.times, columns)
    unsure = 1.0 if height_cm is not None else UNTOLD
    return CameraBody(
        view=series.view,
        swing=replace(
            swing,
            errors={name: unsure * table[name].error for name in columns},
            errors_at={name: {at: unsure * e for at, e in table[name].error_at.items()} for name in columns},
        ),
        moments=moments,
        notes=notes,
    )


def moments_of(series: PoseSeries) -> Moments:
    """Find the moments of the swing from the arms, and impact from its sound if it was recorded."""
    turned = np.clip(arm_turn(series), -269, 269)
    arms = swing_of_columns({"time_s": series.times, "arm_turn_deg": turned})
    found, view, frame = find_moments(arms), series.view, 0.5 / series.fps
    curve = arms.columns["arm_turn_deg"]
    impact = impact_of(arms.time, curve, found.at["impact"], view)
    spread = float(np.hypot(IMPACT_SPREAD[view], frame))
    heard = series.sound_impact
    if heard is not None and abs(heard - SOUND_LATE - impact) < SOUND_NEAR:
        impact, spread = heard - SOUND_LATE, SOUND_SPREAD
    back = evened(series.times, top_curves(series, turned)).columns.values()
    marks = {"top": top_of(arms.time, back, found.at["impact"], view), "impact": impact}
    placed = find_moments(arms, marks)
    errors = {"top": float(np.hypot(TOP_SPREAD[view], frame)), "impact": spread}
    return Moments(placed.at, placed.error | errors, [])


def address_frames(times: np.ndarray, moments: Moments) -> np.ndarray:
    """Return which frames (k,) belong to address."""
    begun = moments.at["address"]
    still = (times <= begun + 1e-9) & (times >= begun - ADDRESS_SECONDS)
    if still.sum() < 3:
        still = times <= times[min(2, times.size - 1)]
    return still


def _moved(series: PoseSeries, moments: Moments, still: np.ndarray, height: float) -> bool:
    foot = series.place("lead_ankle", "lead_heel") / centimetre(series, still, height)
    near = np.abs(series.times - moments.at["impact"]) < 0.05
    gone = np.median(foot[near], axis=0) - np.median(foot[still], axis=0)
    return bool(np.hypot(*gone) > MOVED_FEET)

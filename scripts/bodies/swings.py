"""Swings of made-up golfers frame by frame: the motion table's moments, connected by other curves.

They are not the curves of `instavis_core.simulate`: other interpolation, other differences between golfers, a waggle.
So measurements on these clips are not tested against their own assumptions.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.interpolate import Akima1DInterpolator

from instavis_core.figure.pose import pose_at
from instavis_core.knowledge import load_motion

STILL_BEFORE, STILL_AFTER = 0.55, 0.25  # s
OWN = {"cm": 0.6, "deg": 2.5}  # one SD of a golfer's own deviation at a moment
OWN_SCALE, TEMPO = 0.12, 0.10  # log SD of the size of the motion, and of the tempo
STEADY = ("lead_share", "heel_share", "heel_cm")


@dataclass(frozen=True)
class Swing:
    """A swing: ``times`` (k,) [s] of frames, the figure's ``poses`` (k,), and ``moments`` [s]."""

    times: np.ndarray
    poses: list[dict[str, float]]
    moments: dict[str, float]


def swing_of(severity: dict[str, float], rng: np.random.Generator, fps: float, jitter: float = 0.0) -> Swing:
    """Return a swing with faults of given strength; ``jitter`` is one SD of a frame's time in shares of a frame."""
    motion = load_motion()
    tempo = float(np.exp(rng.normal(0, TEMPO)))
    knots = STILL_BEFORE + tempo * motion.seconds
    times = np.arange(0.0, knots[-1] + STILL_AFTER, 1 / fps)
    if jitter:
        times = times + np.clip(rng.normal(0, jitter, times.size), -0.4, 0.4) / fps
        times = np.maximum.accumulate(times - min(times[0], 0.0))
    rows = {name: [] for name in pose_at("address")}
    for moment in motion.moments:
        for name, value in pose_at(moment, severity).items():
            rows[name].append(value)
    curves = {}
    waggle = STILL_BEFORE - 0.12
    for name, values in rows.items():
        own = np.array(values, float)
        if name not in STEADY:
            start = own[0]
            own = start + (own - start) * np.exp(rng.normal(0, OWN_SCALE))
            spread = OWN.get(name.rpartition("_")[2], 0.0) if name in motion.series else 0.0
            own[1:] += spread * rng.normal(size=own.size - 1)
        at = np.concatenate([[-0.5, 0.0, waggle], knots, [knots[-1] + 0.3, knots[-1] + 0.6]])
        through = Akima1DInterpolator(at, np.concatenate([own[[0, 0, 0]], own, own[[-1, -1]]]))
        curves[name] = through(times)
    poses = [{name: float(curve[i]) for name, curve in curves.items()} for i in range(times.size)]
    return Swing(times, poses, dict(zip(motion.moments, knots.tolist(), strict=True)))

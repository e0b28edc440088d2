"""Motion and pressure series of a simulated swing, matching its shot.

The sound motion plus what each of the golfer's faults adds, drawn as smooth curves through the eight moments (monotone
cubic interpolation, Fritsch & Carlson 1980), with the golfer's own tempo, the drift of a worn sensor, and noise in
every sample. Pelvis travel is zero at address, as a belt reports it.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from instavis_core.knowledge.motion import load_motion

MOTION_SERIES = (
    "sway_cm",
    "thrust_cm",
    "lift_cm",
    "turn_deg",
    "bend_deg",
    "side_bend_deg",
    "chest_turn_deg",
    "arm_turn_deg",
)
PRESSURE_SERIES = ("lead_share", "heel_share")
STILL_BEFORE, STILL_AFTER = 0.6, 0.4  # s
AMOUNT_SPREAD = 0.15  # log SD of how much of a fault's motion one swing shows
OWN_SHARE = 0.35  # share of a fault's usual motion by which golfers without faults differ
TEMPO_SPREAD = 0.06


@dataclass(frozen=True)
class Recording:
    """A recorded swing: ``time`` (k,) [s], ``columns`` each (k,), and its true moments [s]."""

    time: np.ndarray
    columns: dict[str, np.ndarray]
    moments: dict[str, float]

    def to_csv(self) -> str:
        """Return the open CSV form: a header of names with units, one row for each sample."""
        out = io.StringIO()
        writer = csv.writer(out, lineterminator="\n")
        writer.writerow(["time_s", *self.columns])
        digits = {name: 4 if name.endswith("share") else 2 for name in self.columns}
        for k, at in enumerate(self.time):
            writer.writerow([f"{at:.3f}", *(f"{v[k]:.{digits[name]}f}" for name, v in self.columns.items())])
        return out.getvalue()


def record_swing(
    severity: dict[str, float],
    rng: np.random.Generator,
    series: Sequence[str] = MOTION_SERIES,
    rate_hz: float = 100.0,
) -> Recording:
    """Record one swing.

    Parameters
    ----------
    severity : dict of float
        How strong each fault is in this swing, by cause id or ``id/variant``.
    rng : numpy.random.Generator
    series : sequence of str
        Which series the device measures.
    rate_hz : float
        Samples a second.
    """
    motion = load_motion()
    tempo = float(np.exp(rng.normal(0, TEMPO_SPREAD)))
    from scipy.interpolate import PchipInterpolator  # slow to import, for stand-ins only

    knots = STILL_BEFORE + tempo * motion.seconds
    end = knots[-1] + STILL_AFTER
    time = np.arange(0, end, 1 / rate_hz)
    amount = {key: float(s * np.exp(rng.normal(0, AMOUNT_SPREAD))) for key, s in severity.items()}
    columns = {}
    for name in series:
        row = motion.series[name]
        values = row.sound + _own(name, rng)
        for key, much in amount.items():
            values = values + much * motion.adds.get(key.partition("/")[0], {}).get(name, 0.0)
        if not name.endswith("share"):
            values = values - values[0]
        curve = PchipInterpolator(np.concatenate([[0.0], knots, [end]]), values[[0, *range(values.size), -1]])
        wander = rng.normal(0, row.noise) * np.sin(2 * np.pi * (time / end + rng.random()))
        columns[name] = curve(time) + wander + rng.normal(0, row.noise, time.size)
        if name.endswith("share"):
            columns[name] = np.clip(columns[name], 0.0, 1.0)
    return Recording(time, columns, dict(zip(motion.moments, knots.tolist(), strict=True)))


def _own(name: str, rng: np.random.Generator) -> np.ndarray:
    """Return how a golfer without faults deviates from the table: one smooth bump through the swing."""
    motion = load_motion()
    usual = [np.abs(adds[name]).max() for adds in motion.adds.values() if name in adds]
    size = OWN_SHARE * float(np.median(usual)) * rng.normal() if usual else 0.0
    return size * np.sin(np.pi * np.arange(len(motion.moments)) / (len(motion.moments) - 1))

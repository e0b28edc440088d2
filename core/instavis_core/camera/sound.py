"""Find impact in the sound."""

from __future__ import annotations

import numpy as np

BAND = (1_500.0, 6_500.0)  # Hz: a struck ball is brighter than voices and steps
FRAME = 0.002  # s
LOUDER = 12.0  # times the usual level of its surroundings
BEFORE = 0.25  # of its peak, at which the strike begins
ALONE = 3.0  # times louder than anything outside its own ringing
RINGS = 0.12  # s


def strike_heard(sound: np.ndarray, rate_hz: float, since: float = 0.0) -> float | None:
    """Return when a single sharp sound occurs [s]; None if there is none or more than one.

    Parameters
    ----------
    sound : ndarray
        Samples (n,) from −1 to 1.
    rate_hz : float
    since : float
        Time of the first sample [s].
    """
    from scipy.signal import butter, sosfilt  # takes a second and a half to import, needed only for clips

    step = int(FRAME * rate_hz)
    if sound.size < 50 * step:
        return None
    high = min(BAND[1], 0.45 * rate_hz)
    bright = sosfilt(butter(2, (BAND[0], high), "bandpass", fs=rate_hz, output="sos"), np.asarray(sound, float))
    level = np.sqrt((bright[: bright.size // step * step].reshape(-1, step) ** 2).mean(axis=1))
    peak = int(level.argmax())
    usual = float(np.median(level)) + 1e-6
    reach = int(RINGS / FRAME)
    others = np.delete(level, slice(max(0, peak - reach), peak + reach))
    if level[peak] < LOUDER * usual or (others.size and level[peak] < ALONE * others.max()):
        return None
    begun = peak
    while begun and level[begun - 1] >= BEFORE * level[peak]:
        begun -= 1
    return since + begun * FRAME

"""Units at the borders.

Inside the core everything is in meters, m/s, degrees, rpm and millimeters.
"""

from __future__ import annotations

import numpy as np

Floats = np.ndarray | float
"""Numbers of many balls, shape (n,), or one number for all of them."""

METRES_PER_YARD = 0.9144
METRES_PER_FOOT = 0.3048
MPS_PER_MPH = 0.44704
MPS_PER_KMH = 1 / 3.6
MM_PER_INCH = 25.4

#: suffix in a CSV header -> (kind of metric it may stand for, factor to the internal unit)
SUFFIXES: dict[str, tuple[str, float]] = {
    "mps": ("speed", 1.0),
    "mph": ("speed", MPS_PER_MPH),
    "kmh": ("speed", MPS_PER_KMH),
    "m": ("distance", 1.0),
    "yd": ("distance", METRES_PER_YARD),
    "ft": ("distance", METRES_PER_FOOT),
    "mm": ("strike", 1.0),
    "cm": ("strike", 10.0),
    "in": ("strike", MM_PER_INCH),
    "deg": ("angle", 1.0),
    "rpm": ("spin", 1.0),
}

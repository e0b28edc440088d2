"""Simulated golfers for demo, stand-in devices and tests."""

from instavis_core.simulate.golfer import SimulatedGolfer, Traits, draw_golfer, simulate_shots
from instavis_core.simulate.recording import MOTION_SERIES, PRESSURE_SERIES, Recording, record_swing

__all__ = [
    "MOTION_SERIES",
    "PRESSURE_SERIES",
    "Recording",
    "SimulatedGolfer",
    "Traits",
    "draw_golfer",
    "record_swing",
    "simulate_shots",
]

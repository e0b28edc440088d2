"""Simulated golfers for demo, stand-in devices and tests."""

from instavis_core.simulate.golfer import SimulatedGolfer, draw_golfer, simulate_shots

__all__ = ["SimulatedGolfer", "draw_golfer", "simulate_shots"]

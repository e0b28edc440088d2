"""The ball in the air: launch to landing."""

from instavis_core.flight.air import Air
from instavis_core.flight.trajectory import Flight, fly, fly_traced

__all__ = ["Air", "Flight", "fly", "fly_traced"]

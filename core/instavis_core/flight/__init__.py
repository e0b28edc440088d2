"""The ball in the air: launch to landing, and a rough estimate of the roll."""

from instavis_core.flight.air import Air
from instavis_core.flight.roll import roll_after
from instavis_core.flight.trajectory import Flight, fly, fly_traced

__all__ = ["Air", "Flight", "fly", "fly_traced", "roll_after"]

"""The arc of the club head: where it bottoms out and which way it swings."""

from instavis_core.arc.low_point import low_point_cm, swing_direction

__all__ = ["low_point_cm", "swing_direction"]

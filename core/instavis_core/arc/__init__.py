"""The arc of the club head: where it bottoms out and which way it swings."""

from instavis_core.arc.low_point import (
    PathChange,
    low_point_cm,
    low_point_with_turf,
    split_path_change,
    swing_direction,
)

__all__ = ["PathChange", "low_point_cm", "low_point_with_turf", "split_path_change", "swing_direction"]

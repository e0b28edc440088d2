"""Read a block: center, spread, mishits, sides, drift, shares and words."""

from instavis_core.reading.ball import BallReading, read_ball
from instavis_core.reading.block import (
    BlockReading,
    MetricReading,
    balls_still_needed,
    clean_balls,
    own_spreads,
    read_block,
    spreads_in,
)
from instavis_core.reading.mishits import Mishit, find_mishits

__all__ = [
    "BallReading",
    "BlockReading",
    "MetricReading",
    "Mishit",
    "balls_still_needed",
    "clean_balls",
    "find_mishits",
    "own_spreads",
    "read_ball",
    "read_block",
    "spreads_in",
]

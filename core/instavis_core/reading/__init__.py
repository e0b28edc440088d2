"""Reading a block: centre, spread, mishits, sides and words."""

from instavis_core.reading.block import BlockReading, MetricReading, balls_still_needed, read_block
from instavis_core.reading.mishits import Mishit, find_mishits

__all__ = ["BlockReading", "MetricReading", "Mishit", "balls_still_needed", "find_mishits", "read_block"]

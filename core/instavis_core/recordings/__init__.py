"""Recorded swings: motion belts and pressure mats, reduced to moments, values and proposed answers."""

from instavis_core.recordings.beside import Difference, differences
from instavis_core.recordings.events import Moments, find_moments, marked
from instavis_core.recordings.grades import Proposal, Reading, joined, pivot_value, propose
from instavis_core.recordings.markers import pelvis_of_markers
from instavis_core.recordings.order import FirstMover, first_movers
from instavis_core.recordings.series import SwingSeries, evened, read_swing_csv, swing_of_columns

__all__ = [
    "Difference",
    "FirstMover",
    "Moments",
    "Proposal",
    "Reading",
    "SwingSeries",
    "differences",
    "evened",
    "find_moments",
    "first_movers",
    "joined",
    "marked",
    "pelvis_of_markers",
    "pivot_value",
    "propose",
    "read_swing_csv",
    "swing_of_columns",
]

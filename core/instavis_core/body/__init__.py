"""Body screen: short tests, and what they leave within reach."""

from instavis_core.body.bounds import BodyBounds, BodyGrade, bounds_of, read_results, within_reach
from instavis_core.body.planned import PlannedTest, planned_tests

__all__ = [
    "BodyBounds",
    "BodyGrade",
    "PlannedTest",
    "bounds_of",
    "planned_tests",
    "read_results",
    "within_reach",
]

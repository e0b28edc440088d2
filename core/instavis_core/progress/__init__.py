"""Over time: practice until the next lesson, and what was kept when it comes."""

from instavis_core.progress.retention import Retention, retained_share
from instavis_core.progress.schedule import PracticeNeeds, Session, practice_schedule

__all__ = ["PracticeNeeds", "Retention", "Session", "practice_schedule", "retained_share"]

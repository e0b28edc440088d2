"""Progress over time: practice until the next lesson, and what was retained."""

from instavis_core.progress.follow import PlannedDay, follow_plan, move_day
from instavis_core.progress.log import Dose, PracticeEntry, dose_of, merged, on_the_servers_clock
from instavis_core.progress.next_plan import LastWork, NextStep, plan_today, relapse_alarm
from instavis_core.progress.outcomes import DoseLink, DrillOutcome, dose_against_retention, drill_outcomes
from instavis_core.progress.retention import Retention, retained_share
from instavis_core.progress.schedule import PracticeNeeds, Session, practice_schedule
from instavis_core.progress.transfer import Transfer, transferred_share

__all__ = [
    "Dose",
    "DoseLink",
    "DrillOutcome",
    "LastWork",
    "PlannedDay",
    "PracticeEntry",
    "PracticeNeeds",
    "NextStep",
    "Retention",
    "Session",
    "Transfer",
    "dose_against_retention",
    "dose_of",
    "drill_outcomes",
    "follow_plan",
    "merged",
    "on_the_servers_clock",
    "move_day",
    "plan_today",
    "practice_schedule",
    "relapse_alarm",
    "retained_share",
    "transferred_share",
]

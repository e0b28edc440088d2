"""The course of a lesson: intake, time, balls by hand, setup."""

from instavis_core.lesson.ask import intake_for, read_answers
from instavis_core.lesson.by_hand import ball_by_hand
from instavis_core.lesson.clock import Clock, lesson_clock
from instavis_core.lesson.conditions import changed_conditions, read_conditions
from instavis_core.lesson.setup import RANGES as SETUP_RANGES
from instavis_core.lesson.setup import Setup, setup_changes

__all__ = [
    "SETUP_RANGES",
    "Clock",
    "Setup",
    "ball_by_hand",
    "changed_conditions",
    "intake_for",
    "lesson_clock",
    "read_answers",
    "read_conditions",
    "setup_changes",
]

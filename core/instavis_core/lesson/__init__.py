"""The course of a lesson: intake, time, balls by hand, setup."""

from instavis_core.lesson.ask import intake_for, read_answers
from instavis_core.lesson.by_hand import ball_by_hand
from instavis_core.lesson.clock import Clock, lesson_clock
from instavis_core.lesson.conditions import aim_is_held, changed_conditions, flight_is_visible, read_conditions
from instavis_core.lesson.setup import RANGES as SETUP_RANGES
from instavis_core.lesson.setup import Setup, setup_changes

__all__ = [
    "aim_is_held",
    "SETUP_RANGES",
    "Clock",
    "Setup",
    "ball_by_hand",
    "changed_conditions",
    "intake_for",
    "lesson_clock",
    "read_answers",
    "flight_is_visible",
    "read_conditions",
    "setup_changes",
]

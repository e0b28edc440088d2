"""Practice lessons: a made-up golfer with hidden faults, and the coach's score."""

from instavis_core.training.golfer import LEVELS, TrainingGolfer, training_golfer
from instavis_core.training.score import CoachActions, Score, score
from instavis_core.training.swings import Attempt, training_ball, training_figure

__all__ = [
    "LEVELS",
    "Attempt",
    "CoachActions",
    "Score",
    "TrainingGolfer",
    "score",
    "training_ball",
    "training_figure",
    "training_golfer",
]

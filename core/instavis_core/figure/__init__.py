"""The jointed figure: a small 3-D golfer at any moment of the swing, with or without a fault."""

from instavis_core.figure.drills import DrillPicture, drill_picture
from instavis_core.figure.moving import MovingFigure, Shown, moving_figure
from instavis_core.figure.pictures import CheckPicture, GradePicture, check_picture
from instavis_core.figure.pose import pose_at
from instavis_core.figure.practice import SWINGS, Planned, PracticeSwing, planned_swing, practice_swing
from instavis_core.figure.skeleton import Skeleton, stand
from instavis_core.figure.strokes import SHEET, Ink, Stroke
from instavis_core.figure.views import View, project

__all__ = [
    "SHEET",
    "SWINGS",
    "DrillPicture",
    "GradePicture",
    "Ink",
    "CheckPicture",
    "MovingFigure",
    "Planned",
    "PracticeSwing",
    "Shown",
    "Skeleton",
    "Stroke",
    "View",
    "drill_picture",
    "check_picture",
    "moving_figure",
    "pose_at",
    "planned_swing",
    "practice_swing",
    "project",
    "stand",
]

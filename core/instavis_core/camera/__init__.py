"""Measure the body from the landmarks of a clip, with errors; no images are processed here."""

from instavis_core.camera.body import CameraBody, body_of
from instavis_core.camera.hands import last_swing
from instavis_core.camera.landmarks import LANDMARKS, VIEWS, PoseSeries, checked, view_of
from instavis_core.camera.lines import Lines, lines_of
from instavis_core.camera.sound import strike_heard

__all__ = [
    "LANDMARKS",
    "VIEWS",
    "CameraBody",
    "Lines",
    "PoseSeries",
    "body_of",
    "checked",
    "last_swing",
    "lines_of",
    "strike_heard",
    "view_of",
]

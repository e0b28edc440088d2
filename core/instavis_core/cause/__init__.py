"""Rank pivot faults from club and ball data, the student's words and checks."""

from instavis_core.cause.engine import rank_causes
from instavis_core.cause.evidence import Intake, read_checks, read_intake
from instavis_core.cause.eye import USUAL_EYE, Eye, Record, calibrated_eye, read_eye
from instavis_core.cause.results import CauseRow, Evidence, NextCheck, Ranking

__all__ = [
    "USUAL_EYE",
    "CauseRow",
    "Evidence",
    "Eye",
    "Intake",
    "NextCheck",
    "Ranking",
    "Record",
    "calibrated_eye",
    "rank_causes",
    "read_checks",
    "read_eye",
    "read_intake",
]

"""Choose one correction: candidates with their terms, gates, and what would remain."""

from instavis_core.choice.candidates import Candidate, DrillChoice, Student, can_be_felt, rank_candidates
from instavis_core.choice.fault_ball import FaultBall, ball_of_fault
from instavis_core.choice.gates import GateProposal, Middle, gates_of_stages, likely_answer, middles, propose_gate
from instavis_core.choice.prediction import Pattern, Prediction, predict_without
from instavis_core.choice.school import read_school
from instavis_core.choice.what_if import FlownBall, WhatIf, what_if

__all__ = [
    "Candidate",
    "DrillChoice",
    "FaultBall",
    "FlownBall",
    "GateProposal",
    "Middle",
    "Pattern",
    "Prediction",
    "Student",
    "WhatIf",
    "ball_of_fault",
    "can_be_felt",
    "gates_of_stages",
    "likely_answer",
    "middles",
    "predict_without",
    "propose_gate",
    "rank_candidates",
    "read_school",
    "what_if",
]

"""Choosing the one correction: candidates with their terms, gates and what would be left."""

from instavis_core.choice.candidates import Candidate, DrillChoice, rank_candidates
from instavis_core.choice.gates import GateProposal, propose_gate
from instavis_core.choice.prediction import Pattern, Prediction, predict_without
from instavis_core.choice.what_if import FlownBall, WhatIf, what_if

__all__ = [
    "Candidate",
    "DrillChoice",
    "FlownBall",
    "GateProposal",
    "Pattern",
    "Prediction",
    "WhatIf",
    "predict_without",
    "propose_gate",
    "rank_candidates",
    "what_if",
]

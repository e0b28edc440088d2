"""Proof, shot by shot: verdicts, running change, status, stages and proof sets."""

from instavis_core.proof.baseline import baseline_of
from instavis_core.proof.change import Change, RunningChange
from instavis_core.proof.correction import Correction, read_correction
from instavis_core.proof.engine import Proof, prove
from instavis_core.proof.expected import Expected
from instavis_core.proof.lane import PivotProof, gate_for
from instavis_core.proof.learning import OwnEffect, log_odds_of, own_effect, scale_of
from instavis_core.proof.limits import BallLimit, ball_limit, limit_alarms
from instavis_core.proof.pivot import PivotGate, PivotMark, pivot_gate, pivot_mark
from instavis_core.proof.planner import Plan, call_order, plan_comparison
from instavis_core.proof.proof_set import ProofSetResult, evaluate_proof_set
from instavis_core.proof.slope import Slope
from instavis_core.proof.stages import RULES as STAGE_RULES
from instavis_core.proof.verdicts import Verdict, judge

__all__ = [
    "STAGE_RULES",
    "BallLimit",
    "Change",
    "Correction",
    "Expected",
    "OwnEffect",
    "PivotGate",
    "PivotMark",
    "PivotProof",
    "Plan",
    "Proof",
    "ProofSetResult",
    "RunningChange",
    "Slope",
    "Verdict",
    "ball_limit",
    "baseline_of",
    "call_order",
    "evaluate_proof_set",
    "gate_for",
    "judge",
    "limit_alarms",
    "log_odds_of",
    "own_effect",
    "pivot_gate",
    "pivot_mark",
    "plan_comparison",
    "prove",
    "read_correction",
    "scale_of",
]

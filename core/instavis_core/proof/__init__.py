"""Proof, shot by shot: verdicts, running change, status, stages and proof sets."""

from instavis_core.proof.change import Change, RunningChange
from instavis_core.proof.correction import Correction, read_correction
from instavis_core.proof.engine import Proof, prove
from instavis_core.proof.proof_set import ProofSetResult, evaluate_proof_set
from instavis_core.proof.verdicts import Verdict, judge

__all__ = [
    "Change",
    "Correction",
    "Proof",
    "ProofSetResult",
    "RunningChange",
    "Verdict",
    "evaluate_proof_set",
    "judge",
    "prove",
    "read_correction",
]

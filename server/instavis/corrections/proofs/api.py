"""Prove: the verdict of every ball, the running change, the advice."""

from __future__ import annotations

from ninja import Router, Schema

from instavis.accounts.requests import CoachRequest
from instavis.corrections.api import CorrectionOut
from instavis.corrections.proofs import selectors
from instavis.corrections.proofs.hit import hit_in
from instavis.corrections.proofs.tape import Standing, tape_of
from instavis.corrections.selectors import active_correction
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import lesson_of
from instavis.platform.errors import Problems
from instavis_core.proof import Proof

router = Router()


class ProofOut(Schema):
    """The proof of the active correction (or None), and the state of every ball of the lesson.

    ``band`` is the range of the baseline that the correction is compared with: low and high by metric, golfer frame.
    """

    correction: CorrectionOut | None
    proof: Proof | None
    ball_ids: list[int]
    band: dict[str, tuple[float, float]]
    tape: list[Standing]


@router.get("/lessons/{lesson_id}/proof", response={200: ProofOut, 404: Problems})
def get_proof(request: CoachRequest, lesson_id: int) -> ProofOut:
    """Return the proof of all balls so far."""
    return proof_out(lesson_of(request.user, lesson_id))


def proof_out(lesson: Lesson) -> ProofOut:
    """Return the proof in the form that screens get."""
    correction = active_correction(lesson)
    hit = hit_in(lesson, correction)
    if correction is None:
        return ProofOut(correction=None, proof=None, ball_ids=[], band={}, tape=tape_of(hit, None, []))
    result = selectors.proven(correction, hit)
    return ProofOut(
        correction=CorrectionOut.from_orm(correction),
        proof=result.proof,
        ball_ids=result.ball_ids,
        band=result.band,
        tape=tape_of(hit, result.proof, result.ball_ids),
    )

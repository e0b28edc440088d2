"""The proof of a lesson's correction, made afresh from its balls."""

from __future__ import annotations

from instavis.corrections.models import Correction
from instavis.lessons.models import Lesson
from instavis.shots.selectors import Balls, balls_of, baseline_balls, shots_of
from instavis_core.knowledge import load_knowledge
from instavis_core.proof import Proof, prove, read_correction


def proof_balls(lesson: Lesson, correction: Correction) -> Balls:
    """Balls hit under a correction."""
    return balls_of(shots_of(lesson).filter(block__correction=correction), lesson)


def proof_of(lesson: Lesson, correction: Correction) -> tuple[Proof, list[int]]:
    """The proof and the keys of the balls its verdicts speak of, in order."""
    club = load_knowledge().clubs[lesson.club]
    checked = read_correction(correction.to_document(), lesson.student.golfer, club)
    baseline, balls = baseline_balls(lesson), proof_balls(lesson, correction)
    proof = prove(baseline.block, balls.block, checked, correction.stage, baseline.aside, balls.aside)
    return proof, balls.ids

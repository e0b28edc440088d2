"""Compare coaches' answers with measured ones when one is new; practice on made-up swings."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.dispatch import receiver

from instavis.accounts.models import Coach
from instavis.assessment.eyes.models import EyePair, EyePractice
from instavis.assessment.findings.selectors import observations_in
from instavis.assessment.findings.services import graded
from instavis.assessment.recordings.models import Recording
from instavis.assessment.recordings.selectors import recorded_grades
from instavis.assessment.recordings.services import swing_changed
from instavis.lessons.models import Lesson
from instavis.platform.transactions import transactional
from instavis_core.errors import InputError
from instavis_core.figure import planned_swing
from instavis_core.message import Message
from instavis_core.terms import Source


def compare(lesson: Lesson) -> None:
    """Compare every check answered by eye and by instrument in a lesson; close values are left out."""
    measured = {
        proposal.check: proposal.grade
        for camera in (True, False)  # a belt or mat is more accurate than a camera
        for proposal in recorded_grades(lesson, camera)
        if not proposal.close
    }
    by_eye = [one for one in observations_in(lesson) if one.source == Source.EYE and one.check in measured]
    EyePair.objects.filter(lesson=lesson).delete()
    EyePair.objects.bulk_create(
        EyePair(lesson=lesson, coach_id=one.coach_id, check_id=one.check, grade=one.grade, measured=measured[one.check])
        for one in by_eye
    )


@transactional
def practise(
    coach: Coach, check: str, seed: int, number: int, grade: str, seconds: float, now: datetime
) -> EyePractice:
    """Store what a coach saw in a made-up swing; the first answer counts.

    Raises
    ------
    InputError
        For an unknown look, a swing beyond the series, or a grade the look does not have.
    """
    swing = planned_swing(check, seed, number)
    if grade not in swing.grades:
        raise InputError("grade", grade, Message("common-one", known=", ".join(swing.grades)))
    result = {"grade": grade, "true_grade": swing.grade, "seconds": round(seconds, 2), "graded_at": now}
    stored, _ = EyePractice.objects.get_or_create(
        coach=coach, check_id=check, seed=seed, number=number, defaults=result
    )
    return stored


@receiver(graded)
def compare_grades(lesson: Lesson, **_: Any) -> None:
    """Handle new answers in a locked lesson."""
    if lesson.recordings.exists():
        compare(lesson)


@receiver(swing_changed)
def compare_films(recording: Recording, **_: Any) -> None:
    """Handle a film measured after its check was answered; belts and mats send too often for this."""
    if recording.view and recording.lesson.grades.exists():
        compare(recording.lesson)

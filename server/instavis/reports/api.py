"""Records: the student page, the day page, the outcomes page."""

from __future__ import annotations

from datetime import date

from django.utils import timezone
from ninja import Router

from instavis.accounts.access import staff
from instavis.accounts.models import Coach
from instavis.accounts.people import note_reading
from instavis.accounts.requests import CoachRequest
from instavis.accounts.selectors import student_of
from instavis.platform.errors import Problems
from instavis.reports.day import Day, day_of, without_findings
from instavis.reports.history import History, history_of
from instavis.reports.outcomes import Outcomes, outcomes_of

router = Router()


@router.get("/students/{student_id}/history", response={200: History, 404: Problems})
def get_history(request: CoachRequest, student_id: int) -> History:
    """Return a student across lessons."""
    student, now = student_of(request.user, student_id), timezone.now()
    note_reading(request.user, student.pk, now)
    return history_of(student, request.user.academy.day_of(now))


@router.get("/day", auth=staff, response={200: Day, 422: Problems})
def get_day(request: CoachRequest, day: date | None = None, mine: bool = False) -> Day:
    """Return who comes on a day, what to prepare, and what is open."""
    found = day_of(request.user, day or request.user.academy.day_of(timezone.now()), mine)
    return without_findings(found) if request.user.role == Coach.Role.DESK else found


@router.get("/outcomes", response=Outcomes)
def get_outcomes(request: CoachRequest) -> Outcomes:
    """Return the academy's corrections by outcome."""
    return outcomes_of(request.user.academy)

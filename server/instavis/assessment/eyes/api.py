"""A coach's own eye; nobody else sees it."""

from __future__ import annotations

from ninja import Router

from instavis.accounts.requests import CoachRequest
from instavis.assessment.eyes import selectors
from instavis.assessment.eyes.selectors import EyeRow
from instavis.knowledge.selectors import knowledge_of

router = Router()


@router.get("/eye", response=list[EyeRow])
def get_eye(request: CoachRequest) -> list[EyeRow]:
    """How one's own grades stood beside measured ones, look by look."""
    return selectors.rows_of(request.user, knowledge_of(request.user.academy))

"""Store pictures and their landmarks."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from django.db import transaction
from django.db.models import QuerySet

from instavis.accounts.models import Academy
from instavis.accounts.people import note_by_itself
from instavis.assessment.stills.models import Still
from instavis.assessment.stills.pictures import read_picture
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import Lesson
from instavis.platform.errors import Refused
from instavis.platform.transactions import transactional
from instavis_core.errors import InputError
from instavis_core.knowledge.figure import VIEWS
from instavis_core.knowledge.stills import load_stills
from instavis_core.message import Message
from instavis_core.stills import read_clicks, read_scale

MAX_IN_A_LESSON = 60


def keep_still(lesson: Lesson, check: str, view: str, data: bytes, now: datetime) -> Still:
    """Store a picture for a check, or (without a check) as the address picture of a view.

    Raises
    ------
    InputError
        For an unknown look or view, or a picture that cannot be used.
    Refused
        When the lesson holds too many.
    """
    measures = load_stills().measures
    if check and check not in measures:
        raise InputError("check", check, Message("common-one", known=", ".join(measures)))
    view = measures[check].view if check else view
    if view not in VIEWS:
        raise InputError("view", view, Message("common-one", known=", ".join(VIEWS)))
    image, width, height = read_picture(data)
    with transaction.atomic():
        locked = locked_lesson(lesson.pk)
        if locked.stills.filter(dropped_at__isnull=True).count() >= MAX_IN_A_LESSON:
            raise Refused(409, "stills", Message("check-lesson-can-pictures", most=MAX_IN_A_LESSON))
        still = Still.objects.create(
            lesson=locked, check_id=check, view=view, image=image, width=width, height=height, added_at=now
        )
        log_change(locked, Aspect.STILLS)
    return still


@transactional
def change_still(still: Still, points: Any, scale: Any, dropped: bool | None, now: datetime) -> Still:
    """Save landmarks and the known length (None leaves them unchanged), discard the picture or restore it.

    Raises
    ------
    InputError
        For landmarks that are unknown or outside the picture, or a length that cannot be.
    """
    if points is not None:
        still.points = {name: list(at) for name, at in read_clicks(points, still.width, still.height).items()}
    if scale is not None:
        read_scale(scale, still.width, still.height)
        still.scale = scale
    if dropped is not None:
        still.dropped_at = now if dropped else None
    still.save(update_fields=["points", "scale", "dropped_at"])
    log_change(locked_lesson(still.lesson_id), Aspect.STILLS)
    return still


def drop_old_stills(now: datetime) -> int:
    """Delete pictures older than the academy's limit; answers stay. Return how many."""
    gone = 0
    for academy in Academy.objects.filter(keep_pictures_days__isnull=False):
        days = academy.keep_pictures_days
        old = Still.objects.filter(lesson__academy=academy, added_at__lt=now - timedelta(days=days or 0))
        count = sum(_drop_stills_of(lesson_id, old) for lesson_id in set(old.values_list("lesson_id", flat=True)))
        if count:
            note_by_itself(academy.pk, Message("activity-pictures-deleted", count=count, days=days), now)
        gone += count
    return gone


@transactional
def _drop_stills_of(lesson_id: int, old: QuerySet[Still]) -> int:
    locked = locked_lesson(lesson_id)
    count = old.filter(lesson=locked).delete()[0]
    log_change(locked, Aspect.STILLS)
    return count

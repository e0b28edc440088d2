"""Read pictures, measured against the address picture of the same view."""

from __future__ import annotations

from instavis.accounts.models import Coach
from instavis.assessment.stills.models import Still
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import open_to
from instavis.platform.errors import not_found
from instavis_core.stills import Clicked, Measured, measure_still, read_scale


def still_of(coach: Coach, still_id: int) -> Still:
    """Return one picture of the academy."""
    found = Still.objects.filter(open_to(coach, "lesson"), pk=still_id)
    still = found.select_related("lesson__student").first()
    if still is None:
        raise not_found("still")
    return still


def stills_of(lesson: Lesson) -> list[Still]:
    """Return the pictures of a lesson that were not discarded, without their bytes."""
    return list(lesson.stills.filter(dropped_at__isnull=True).defer("image").select_related("lesson__student"))


def address_of(still: Still) -> Still | None:
    """Return the newest address picture of the same view."""
    rows = Still.objects.filter(lesson_id=still.lesson_id, check_id="", view=still.view, dropped_at__isnull=True)
    return rows.defer("image").order_by("-id").first()


def measured(still: Still) -> Measured | None:
    """Return the measurement of a picture; None for an address picture."""
    if not still.check_id:
        return None
    address = address_of(still)
    return measure_still(still.check_id, _clicked(still), still.lesson.hand, _clicked(address) if address else None)


def _clicked(still: Still) -> Clicked:
    points = {name: (x, y) for name, (x, y) in still.points.items()}
    return Clicked(
        points=points, width=still.width, height=still.height, scale=read_scale(still.scale, still.width, still.height)
    )

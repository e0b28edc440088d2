"""Insert late balls at the position they would have had without the delay."""

from __future__ import annotations

import bisect
import uuid
from collections.abc import Sequence
from datetime import datetime

from django.db.models import F

from instavis.capture.shots.models import Shot
from instavis.lessons.events import Aspect, log_change
from instavis.lessons.models import Block, Lesson
from instavis_core.terms import Purpose


def put_in_place(lesson: Lesson, shots: Sequence[Shot], now: datetime) -> None:
    """Store unsaved balls of a locked lesson by their arrival time; later balls move up.

    The balls have ``received_at``, and ``device_sequence`` where one device sent several at the same time.
    """
    present = list(lesson.shots.select_related("block").order_by("number"))
    blocks = list(lesson.blocks.order_by("opened_at", "id"))
    if not blocks:
        blocks = [Block.objects.create(lesson=lesson, purpose=Purpose.BASELINE, opened_at=now)]
        lesson.open_block = lesson.open_block or blocks[0]
    taken = {s.shot_id for s in present}
    places: list[int] = []
    for shot in sorted(shots, key=_order):
        place = next((i for i, other in enumerate(present) if _order(other) > _order(shot)), len(present))
        places.append(place)
        shot.lesson = lesson
        shot.block = _block_at(shot, present, place, blocks)
        shot.number = place + len(places)
        shot.stage = shot.stage or shot.block.stage
        if shot.shot_id in taken:
            shot.shot_id = str(uuid.uuid4())
        taken.add(shot.shot_id)
    _move_up(lesson, len(present), places)
    for shot in shots:
        shot.save()
    lesson.last_ball = len(present) + len(shots)
    log_change(lesson, Aspect.SHOTS)


def _order(shot: Shot) -> tuple[datetime, int]:
    return shot.received_at, shot.device_sequence if shot.device_sequence is not None else -1


def _move_up(lesson: Lesson, count: int, places: list[int]) -> None:
    """Renumber existing balls, the last ones first; ``places`` are sorted."""
    for number in range(len(places), 0, -1):
        low = places[number - 1] + 1
        high = places[number] if number < len(places) else count
        if low <= high:
            lesson.shots.filter(number__range=(low, high)).update(number=F("number") + number)


def _block_at(shot: Shot, present: list[Shot], place: int, blocks: list[Block]) -> Block:
    """Return the block that was open then; never a comparison, whose calls were for the counted balls."""
    before = present[place - 1] if place else None
    opened = [b.opened_at for b in blocks]
    newest = blocks[max(0, bisect.bisect_right(opened, shot.received_at) - 1)]
    last = before.block if before else None
    found = newest if before is None or last is None or newest.opened_at > before.received_at else last
    if found.purpose != Purpose.TRIAL:
        return found
    plain = [b for b in blocks if b.purpose != Purpose.TRIAL]
    return next((b for b in reversed(plain) if b.opened_at <= shot.received_at), plain[0] if plain else found)

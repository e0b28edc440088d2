"""The balls of a lesson as Prove needs them, in one query."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from django.db.models import Count, Q

from instavis.capture.shots.models import Shot
from instavis.capture.shots.selectors import Balls, balls_among, shots_of
from instavis.corrections.models import Correction
from instavis.lessons.models import Block, Lesson
from instavis_core.proof.limits import FULL_STAGES
from instavis_core.terms import Purpose

MAX_JUDGED = 3000
"""How many of a lesson's newest balls the rules use after each new one."""
ALWAYS_FULL = (Purpose.BASELINE, Purpose.TRIAL)


@dataclass(frozen=True, kw_only=True)
class Hit:
    """Balls in order, each with its block.

    They are all of the lesson's balls; in a very long lesson the newest, those excluded by hand before, and the
    correction's balls and baseline. ``total`` counts a lesson's balls, ``full`` its full swings.
    """

    lesson: Lesson
    shots: list[Shot]
    total: int
    full: int

    @cached_property
    def baseline(self) -> list[Shot]:
        """Return those of the baseline, with any club."""
        return [shot for shot in self.shots if shot.purpose == Purpose.BASELINE]

    def under(self, correction: Correction) -> list[Shot]:
        """Return those of a correction, with any club."""
        return [shot for shot in self.shots if shot.correction_id == correction.pk]

    def with_its_club(self, shots: list[Shot]) -> Balls:
        """Return those with the lesson's club, for the core."""
        return balls_among([shot for shot in shots if shot.club in ("", self.lesson.club)], self.lesson)


def hit_in(lesson: Lesson, correction: Correction | None) -> Hit:
    """Read a lesson's balls; in a very long lesson the newest, and those of a correction's proof."""
    shots = list(reversed(lesson.shots.order_by("-number")[:MAX_JUDGED]))
    # After the balls, so that a new block is already there.
    blocks: dict[int | None, Block] = {block.pk: block for block in lesson.blocks.all()}
    few = len(shots) < MAX_JUDGED
    if not few:
        wanted = [b.pk for b in blocks.values() if correction and _rests_on(b, correction)]
        older = shots_of(lesson).filter(number__lt=shots[0].number)
        shots = [*older.filter(Q(block_id__in=wanted) | ~Q(set_aside="")), *shots]
    shots = [
        shot for shot in shots if shot.block_id is None or shot.block_id in blocks
    ]  # or was deleted with its block
    for shot in shots:
        shot.block = blocks.get(shot.block_id)
    if few:
        full = sum(shot.purpose in ALWAYS_FULL or shot.stage in FULL_STAGES for shot in shots)
        return Hit(lesson=lesson, shots=shots, total=len(shots), full=full)
    swung = Q(block__purpose__in=ALWAYS_FULL) | Q(stage__in=FULL_STAGES)
    counted = lesson.shots.aggregate(total=Count("pk"), full=Count("pk", filter=swung))
    return Hit(lesson=lesson, shots=shots, **counted)


def _rests_on(block: Block, correction: Correction) -> bool:
    return block.purpose == Purpose.BASELINE or block.correction_id == correction.pk

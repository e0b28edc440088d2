"""What is said of each ball of a lesson: set apart by whom and why, and its verdict."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import groupby

from instavis.capture.shots.models import Shot
from instavis.capture.shots.selectors import balls_among
from instavis.lessons.models import Lesson
from instavis_core.message import Message
from instavis_core.proof import Proof
from instavis_core.reading import find_mishits
from instavis_core.terms import Purpose

MAX_JUDGED = 3000
"""Balls of a lesson up to which the rules look at every one after each new ball; beyond it, at the newest so many."""


@dataclass(frozen=True)
class Apart:
    """A ball that does not count: by the coach or by a rule, the rule's code, and why in words."""

    by: str
    code: str
    text: Message


@dataclass(frozen=True)
class Standing:
    """How one ball stands; a ball of which there is nothing to say is left out."""

    shot_id: int
    apart: Apart | None
    verdict: str | None


def tape_of(lesson: Lesson, proof: Proof | None, proved: list[int]) -> list[Standing]:
    """Every ball of a lesson that is set apart or has a verdict.

    Parameters
    ----------
    lesson : Lesson
    proof : Proof or None
        That of the correction being worked on.
    proved : list of int
        Keys of the balls its verdicts speak of.
    """
    verdicts = dict(zip(proved, proof.verdicts if proof else [], strict=True))
    newest = lesson.shots.exclude(pk__in=proved).order_by("-number")[:MAX_JUDGED]
    apart = dict(_by_rule(lesson, list(reversed(newest))))
    apart |= {key: Apart("rule", v.apart, v.reasons[0]) for key, v in verdicts.items() if v.apart}
    by_coach = lesson.shots.exclude(set_aside="").values_list("pk", "set_aside")
    apart |= {key: Apart("coach", "coach", Message(why)) for key, why in by_coach}
    return [
        Standing(key, apart.get(key), verdicts[key].verdict if key in verdicts else None)
        for key in {**apart, **verdicts}
    ]


def _by_rule(lesson: Lesson, shots: list[Shot]) -> Iterator[tuple[int, Apart]]:
    """Mishits among the balls of each club: in a baseline also what lies far from the others, elsewhere not."""
    of_baseline = set(lesson.blocks.filter(purpose=Purpose.BASELINE).values_list("pk", flat=True))

    def kind(shot: Shot) -> tuple[str, bool]:
        return shot.club or lesson.club, shot.block_id in of_baseline

    for (club, baseline), group in groupby(sorted(shots, key=kind), key=kind):
        balls = balls_among(list(group), lesson, club)
        for mishit in find_mishits(balls.block, by_spread=baseline):
            yield balls.ids[mishit.index], Apart("rule", mishit.rule, mishit.reason)

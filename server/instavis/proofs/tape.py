"""What is said of each ball of a lesson: set apart by whom and why, and its verdict."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import groupby

from instavis.lessons.models import Block, Lesson
from instavis.shots.models import Shot
from instavis.shots.selectors import balls_among
from instavis_core.proof import Proof
from instavis_core.reading import find_mishits


@dataclass(frozen=True)
class Apart:
    """A ball that does not count: by the coach or by a rule, the rule's code, and why in words."""

    by: str
    code: str
    text: str


@dataclass(frozen=True)
class Standing:
    """How one ball stands; a ball of which there is nothing to say is left out."""

    shot_id: int
    apart: Apart | None
    verdict: str | None


def tape_of(lesson: Lesson, proof: Proof | None, proved: list[int]) -> list[Standing]:
    """Every ball of a lesson that is set apart or has a verdict, in the order they were hit.

    Parameters
    ----------
    lesson : Lesson
    proof : Proof or None
        That of the correction being worked on.
    proved : list of int
        Keys of the balls its verdicts speak of.
    """
    shots = list(lesson.shots.select_related("block").order_by("number"))
    verdicts = dict(zip(proved, proof.verdicts if proof else [], strict=True))
    apart = dict(_by_rule(lesson, [s for s in shots if s.pk not in verdicts]))
    for key, verdict in verdicts.items():
        if verdict.apart:
            apart[key] = Apart("rule", verdict.apart, verdict.reasons[0])
    apart |= {s.pk: Apart("coach", "coach", s.set_aside) for s in shots if s.set_aside}
    told = (Standing(s.pk, apart.get(s.pk), v.verdict if (v := verdicts.get(s.pk)) else None) for s in shots)
    return [standing for standing in told if standing.apart or standing.verdict]


def _by_rule(lesson: Lesson, shots: list[Shot]) -> Iterator[tuple[int, Apart]]:
    """Mishits among the balls of each club: in a baseline also what lies far from the others, elsewhere not."""

    def kind(shot: Shot) -> tuple[str, bool]:
        return shot.club or lesson.club, shot.block is not None and shot.block.purpose == Block.Purpose.BASELINE

    for (club, baseline), group in groupby(sorted(shots, key=kind), key=kind):
        balls = balls_among(list(group), lesson, club)
        for mishit in find_mishits(balls.block, by_spread=baseline):
            yield balls.ids[mishit.index], Apart("rule", mishit.rule, mishit.reason)

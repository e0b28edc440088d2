"""The state of each ball of a lesson: excluded by whom and why, and its verdict."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import groupby

from instavis.capture.shots.models import Shot
from instavis.capture.shots.selectors import balls_among
from instavis.corrections.proofs.hit import Hit
from instavis.lessons.models import Lesson
from instavis_core.message import Message, plain
from instavis_core.proof import Proof
from instavis_core.reading import find_mishits
from instavis_core.terms import Purpose

BY_KEY = "excluded by the coach"
"""The reason that a coach's key writes."""


@dataclass(frozen=True)
class Exclusion:
    """An excluded ball: by the coach or by a rule, the rule's code, and the reason."""

    by: str
    code: str
    text: Message


@dataclass(frozen=True)
class Standing:
    """The state of one ball; balls without a state are left out."""

    shot_id: int
    excluded: Exclusion | None
    verdict: str | None


def tape_of(hit: Hit, proof: Proof | None, proved: list[int]) -> list[Standing]:
    """Return every ball of a lesson that is excluded or has a verdict.

    Parameters
    ----------
    hit : Hit
    proof : Proof or None
        That of the correction being worked on.
    proved : list of int
        Keys of the balls its verdicts speak of.
    """
    verdicts = dict(zip(proved, proof.verdicts if proof else [], strict=True))
    excluded = dict(_by_rule(hit.lesson, [shot for shot in hit.shots if shot.pk not in verdicts]))
    excluded |= {key: Exclusion("rule", v.excluded_by, v.reasons[0]) for key, v in verdicts.items() if v.excluded_by}
    excluded |= {shot.pk: Exclusion("coach", "coach", _why(shot.set_aside)) for shot in hit.shots if shot.set_aside}
    return [
        Standing(key, excluded.get(key), verdicts[key].verdict if key in verdicts else None)
        for key in {**excluded, **verdicts}
    ]


def _why(set_aside: str) -> Message:
    """Return why a coach excluded a ball; the key's own reason in the reader's language."""
    return Message("prove-excluded-coach") if set_aside == BY_KEY else plain(set_aside)


def _by_rule(lesson: Lesson, shots: list[Shot]) -> Iterator[tuple[int, Exclusion]]:
    """Find mishits among the balls of each club; outliers count only in a baseline."""

    def kind(shot: Shot) -> tuple[str, bool]:
        return shot.club or lesson.club, shot.purpose == Purpose.BASELINE

    for (club, baseline), group in groupby(sorted(shots, key=kind), key=kind):
        balls = balls_among(list(group), lesson, club)
        for mishit in find_mishits(balls.block, by_spread=baseline):
            yield balls.ids[mishit.index], Exclusion("rule", mishit.rule, mishit.reason)

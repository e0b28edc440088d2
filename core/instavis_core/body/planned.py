"""The tests in order, without those that a health answer rules out."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.model import BodyPart, BodyTest
from instavis_core.message import Message


@dataclass(frozen=True, kw_only=True)
class PlannedTest:
    """A test, its parts, and the reason if it is left out."""

    test: BodyTest
    parts: tuple[BodyPart, ...]
    left_out: Message | None


def planned_tests(health: Collection[str]) -> list[PlannedTest]:
    """Return every test for a student with these health answers."""
    known = vocabulary()
    planned = []
    for test in known.body_tests.values():
        forbids = [known.words["health"][answer] for answer in test.not_with if answer in health]
        planned.append(
            PlannedTest(
                test=test,
                parts=tuple(p for p in known.body_parts.values() if p.test == test.id),
                left_out=Message("body-left-out", answer=forbids[0].lower()) if forbids else None,
            )
        )
    return planned

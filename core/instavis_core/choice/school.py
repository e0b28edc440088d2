"""The side a coach chooses where practitioners disagree; it orders drills and never changes evidence."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from instavis_core.errors import InputError
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message


def read_school(raw: Any) -> dict[str, str]:
    """Check a coach's sides: question → side.

    Raises
    ------
    InputError
        For an unknown question or side.
    """
    if not isinstance(raw, Mapping):
        raise InputError("school", raw, Message("correct-object-question-side"))
    schools = vocabulary().schools
    for question, side in raw.items():
        if question not in schools:
            raise InputError(
                f"school.{question}"[:80], side, Message("correct-one-questions", known=", ".join(schools))
            )
        sides = [s.id for s in schools[question].sides]
        if side not in sides:
            raise InputError(f"school.{question}", side, Message("common-one", known=", ".join(sides)))
    return dict(raw)

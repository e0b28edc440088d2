"""The conditions of a ball and whether they changed; balls under other conditions are not comparable."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from instavis_core.errors import InputError, is_one_of
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message

SET_BY_COACH = ("lie", "turf", "ball", "tee", "aim", "flight")
"""Conditions that a coach enters; their choices are words of the vocabulary with the same names."""
COMPARED = ("lie", "turf", "ball", "tee", "aim")
"""Those that change the ball; who sees the flight changes only the marks."""


def read_conditions(raw: Any) -> dict[str, str]:
    """Check conditions: condition → one of its choices; empty ones are unknown.

    Raises
    ------
    InputError
        For an unknown condition or choice.
    """
    if not isinstance(raw, Mapping):
        raise InputError("conditions", raw, Message("lesson-object-condition-choice"))
    words = vocabulary().words
    for name, choice in raw.items():
        if name not in SET_BY_COACH:
            raise InputError(f"conditions.{name}"[:80], choice, Message("common-one", known=", ".join(SET_BY_COACH)))
        if not is_one_of(choice, ("", *words[f"condition_{name}"])):
            known = ", ".join(words[f"condition_{name}"])
            raise InputError(f"conditions.{name}", choice, Message("common-one", known=known))
    return {name: choice for name, choice in raw.items() if choice}


def aim_is_held(conditions: Mapping[str, str]) -> bool:
    """Return True if an alignment stick fixed the aim."""
    return conditions.get("aim") == "stick"


def flight_is_visible(conditions: Mapping[str, str]) -> bool:
    """Return True if the coach sees the ball fly before marking, so that no mark is blind."""
    return conditions.get("flight") == "visible"


def changed_conditions(before: Iterable[Mapping[str, str]], now: Iterable[Mapping[str, str]]) -> list[str]:
    """Return conditions known for both sets, where some new balls have a choice that no old ball has."""
    first, then = list(before), list(now)

    def choices(blocks: list[Mapping[str, str]], name: str) -> set[str]:
        return {block[name] for block in blocks if name in block}

    result = ((name, choices(first, name), choices(then, name)) for name in COMPARED)
    return [name for name, old, new in result if old and not new <= old]

"""Turn results of body tests into limits for what a coach may ask for.

The bounds are starting assumptions (``body.toml``). They never change what the balls say. They move the windows that a
recording is compared with, lower the benefit of a correction that this body can only make in part, and choose among
schools and drills where the coach has not chosen.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum
from typing import Any

from instavis_core.errors import InputError, is_one_of
from instavis_core.knowledge import Knowledge, vocabulary
from instavis_core.message import Message

MIN_SHARE = 0.4  # of a correction's benefit, however many parts fall short (assumption)


class BodyGrade(StrEnum):
    """Result of a body test: free, limited, or painful (test stopped)."""

    FREE = "free"
    SHORT = "short"
    PAIN = "pain"


@dataclass(frozen=True, kw_only=True)
class BodyBounds:
    """What a body can do.

    ``held_back`` are the parts that are limited or hurt, and ``painful`` the regions of those that hurt. ``windows``
    says how far each bound moves, in the unit of its series; ``share`` is what remains of a correction's benefit, by
    fault; ``schools`` is the side of a question that asks less of this body; ``says`` has one sentence for each part.
    """

    held_back: frozenset[str] = frozenset()
    painful: frozenset[str] = frozenset()
    windows: Mapping[str, float] = field(default_factory=dict)
    share: Mapping[str, float] = field(default_factory=dict)
    schools: Mapping[str, str] = field(default_factory=dict)
    says: tuple[Message, ...] = ()


NOT_TESTED = BodyBounds()


def read_results(raw: Any) -> dict[str, str]:
    """Check the results of body tests: part → free, short or pain; an empty grade removes a result.

    Raises
    ------
    InputError
        For an unknown part or grade.
    """
    parts = vocabulary().body_parts
    if not isinstance(raw, Mapping):
        raise InputError("results", raw, Message("body-object-part-grade"))
    for part, grade in raw.items():
        if part not in parts:
            raise InputError(f"results.{part}"[:80], grade, Message("body-one-parts", known=", ".join(parts)))
        if not is_one_of(grade, ("", *BodyGrade)):
            raise InputError(f"results.{part}", grade, Message("common-one", known=", ".join(BodyGrade)))
    return dict(raw)


def bounds_of(results: Mapping[str, str]) -> BodyBounds:
    """Return the limits that follow from results; unknown parts are ignored."""
    known = vocabulary()
    windows: dict[str, float] = {}
    share: dict[str, float] = {}
    schools: dict[str, str] = {}
    held_back = [p for p in known.body_parts.values() if results.get(p.id) in (BodyGrade.SHORT, BodyGrade.PAIN)]
    for part in held_back:
        for name, by in part.windows.items():
            windows[name] = max(windows.get(name, 0.0), by, key=abs)
        for fault, left in part.faults.items():
            share[fault] = max(MIN_SHARE, share.get(fault, 1.0) * left)
        schools = {**part.schools, **schools}
    hurts = [p for p in held_back if results[p.id] == BodyGrade.PAIN]
    return BodyBounds(
        held_back=frozenset(p.id for p in held_back),
        painful=frozenset(region for p in hurts for region in known.body_tests[p.test].regions),
        windows=windows,
        share=share,
        schools=schools,
        says=tuple(p.says for p in held_back if p not in hurts)
        + tuple(Message("body-painful-anything-loads-left-out", part=p.label) for p in hurts),
    )


def within_reach(knowledge: Knowledge, bounds: BodyBounds) -> Knowledge:
    """Return the knowledge with recording windows adapted to what this body can do."""
    if not bounds.windows:
        return knowledge
    windows = dict(knowledge.windows)
    for name, by in bounds.windows.items():
        old = windows[name]
        above = None if old.above is None else old.above + by
        windows[name] = replace(old, above=above, below=None if above is not None else old.bound + by)
    return replace(knowledge, windows=windows)

"""The intake: check the answers, and select those the engine may use."""

from __future__ import annotations

from typing import Any

from instavis_core.cause import Intake, read_intake
from instavis_core.errors import InputError
from instavis_core.knowledge import Club, vocabulary
from instavis_core.message import Message
from instavis_core.shots import read_number

TEXTS = ("good_feel", "thoughts", "goal", "pain")
LONGEST = 300
FARTHEST_M = 120.0


def read_answers(raw: dict[str, Any]) -> dict[str, Any]:
    """Check the intake's answers; unanswered questions come back empty.

    Parameters
    ----------
    raw : dict
        ``misses`` by club group with ``start``, ``curve``, ``off_m``; ``contact``, ``feels``, ``old_faults``,
        ``kit``, ``health`` lists of ids; ``limits`` by body region; texts.

    Raises
    ------
    InputError
        Naming the field, its value and what was expected.
    """
    words = vocabulary().words
    answers: dict[str, Any] = {}
    answers["misses"] = _misses(raw.get("misses") or {})
    named = read_intake({k: raw.get(k) for k in ("contact", "feels", "old_faults")})
    answers |= {"contact": list(named.contact), "feels": list(named.feels), "old_faults": list(named.old_faults)}
    for name in ("kit", "health"):
        answers[name] = _several(name, raw.get(name) or [], words[name])
    limits = raw.get("limits") or {}
    if not isinstance(limits, dict):
        raise InputError("limits", limits, Message("lesson-body-regions-each-pain-injury"))
    for region, kind in limits.items():
        if region not in words["region"]:
            raise InputError("limits", region, Message("common-one", known=", ".join(words["region"])))
        if kind not in words["limit"]:
            raise InputError(f"limits.{region}", kind, Message("common-one", known=", ".join(words["limit"])))
    answers["limits"] = dict(limits)
    for name in TEXTS:
        text = raw.get(name) or ""
        if not isinstance(text, str) or len(text) > LONGEST:
            raise InputError(name, text, Message("common-text-most-characters", longest=LONGEST))
        answers[name] = text
    return answers


def intake_for(answers: dict[str, Any], club: Club) -> Intake:
    """Return what the engine uses for one club: the miss with its club group, or with any other group."""
    misses = answers.get("misses") or {}
    miss: dict[str, Any] = misses.get(club.group) or next(iter(misses.values()), {})
    return Intake(
        start=miss.get("start") or None,
        curve=miss.get("curve") or None,
        contact=tuple(answers.get("contact") or ()),
        feels=tuple(answers.get("feels") or ()),
        old_faults=tuple(answers.get("old_faults") or ()),
    )


def _misses(raw: Any) -> dict[str, Any]:
    groups = vocabulary().words["club_group"]
    if not isinstance(raw, dict):
        raise InputError("misses", raw, Message("lesson-club-groups-each-start-curve"))
    misses = {}
    for group, miss in raw.items():
        name = f"misses.{group}"
        if group not in groups:
            raise InputError("misses", group, Message("common-one", known=", ".join(groups)))
        if not isinstance(miss, dict):
            raise InputError(name, miss, Message("lesson-object-start-curve-off-m"))
        try:
            sides = read_intake({k: miss.get(k) for k in ("start", "curve")})
        except InputError as error:
            raise InputError(f"{name}.{error.field.removeprefix('intake.')}", error.value, error.expected) from None
        off = miss.get("off_m")
        if off is not None:
            off = read_number(f"{name}.off_m", off, (0, FARTHEST_M), "m")
        if sides.start or sides.curve or off is not None:
            misses[group] = {"start": sides.start or "", "curve": sides.curve or "", "off_m": off}
    return misses


def _several(name: str, raw: Any, allowed: dict[str, Message]) -> list[str]:
    if not isinstance(raw, list):
        raise InputError(name, raw, Message("common-list", known=", ".join(allowed)))
    for value in raw:
        if value not in allowed:
            raise InputError(name, value, Message("common-one", known=", ".join(allowed)))
    return list(dict.fromkeys(raw))

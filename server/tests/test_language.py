"""Every sentence of every answer comes from the message catalogue: seen in a language that brackets its entries."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

import pytest

from instavis_report.catalogue import PSEUDO

LESSON = (
    "",
    "/checks",
    "/cause",
    "/cause/history",
    "/corrections",
    "/earlier",
    "/intake",
    "/proof",
    "/reading",
    "/recordings",
    "/schedule",
    "/setups",
    "/stills",
    "/take-home",
    "/trials",
    "/why",
    "/cold-test",
    "/practice",
)
ELSEWHERE = ("/v1/knowledge", "/v1/day", "/v1/outcomes", "/v1/bays")

NAMES = {"student", "student_name", "coach", "coach_name", "academy", "name", "first", "second", "academy_name", "note"}
"""Fields with what people are called, or wrote themselves."""
CODES = re.compile(r"[a-z0-9]+([-_/:.][a-z0-9]+)*|[A-Z]?[0-9]*[A-Za-z]{0,2}|[0-9T:.+Z-]+")


def unsaid(text: str) -> str:
    """What stands outside of the catalogue's brackets."""
    depth, left = 0, ""
    for letter in text:
        depth += (letter == "⟦") - (letter == "⟧")
        left += letter if depth == 0 and letter != "⟧" else ""
    return left


def leaves(value: Any, place: str = "") -> Iterator[tuple[str, str]]:
    if isinstance(value, str):
        yield place, value
    elif isinstance(value, dict):
        for key, part in value.items():
            yield from leaves(part, f"{place}.{key}")
    elif isinstance(value, list):
        for part in value:
            yield from leaves(part, place)


def english_in(answer: Any) -> dict[str, str]:
    """By place: what is neither said by the catalogue, nor a code, nor a name."""
    found = {}
    for place, text in leaves(answer):
        left = unsaid(text)
        if CODES.fullmatch(text) or place.rpartition(".")[2] in NAMES or not re.search("[A-Za-z]{2}", left):
            continue
        found[place] = text
    return found


@pytest.fixture
def pseudo(api, full):
    """The interface in the pseudo-language, after a lesson with one of everything."""
    full.coach.language = PSEUDO
    full.coach.save()
    return api


@pytest.mark.parametrize("path", LESSON)
def test_a_lessons_answers_are_said_by_the_catalogue(pseudo, full, path):
    assert english_in(pseudo("get", f"/v1/lessons/{full.pk}{path}")) == {}


@pytest.mark.parametrize("path", ELSEWHERE)
def test_the_other_answers_are_too(pseudo, path):
    assert english_in(pseudo("get", path)) == {}

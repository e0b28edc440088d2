"""Every sentence of every API answer comes from the catalog, shown by a language that brackets its entries."""

from __future__ import annotations

import calendar as names
import datetime as dates
import io
import json
import re
from collections.abc import Iterator
from pathlib import Path
from types import SimpleNamespace
from typing import Any

import pytest
from django.template import Context, Template
from pypdf import PdfReader

import instavis_report
from instavis.platform import language
from instavis_report.catalog import PSEUDO, untranslated

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
ENGLISH_FILES = (Path(instavis_report.__file__).parent / "languages" / "en").glob("*.ftl")
ELSEWHERE = ("/v1/knowledge", "/v1/day", "/v1/outcomes", "/v1/bays")

IDS = set(re.findall(r"^([a-z0-9-]+) =", "\n".join(f.read_text() for f in ENGLISH_FILES), re.MULTILINE))
NAMES = {"student", "student_name", "coach", "coach_name", "academy", "name", "first", "second", "academy_name", "note"}
"""Fields with what people are called, or wrote themselves."""
MONTHS_AND_DAYS = (*names.month_name, *names.month_abbr, *names.day_abbr)
CODES = re.compile(r"[a-z0-9]+([-_/:.][a-z0-9]+)*|[A-Z]?[0-9]*[A-Za-z]{0,2}|[0-9T:.+Z-]+")


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
    """By place: what is neither rendered by the catalog, nor a code, nor a name; an id in place of its sentence too."""
    found = {}
    for place, text in leaves(answer):
        left = untranslated(text)
        if text in IDS:
            found[place] = text
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


def test_a_lessons_answers_are_rendered_by_the_catalog(pseudo, full):
    text = {path: english_in(pseudo("get", f"/v1/lessons/{full.pk}{path}")) for path in LESSON}
    assert {path: left for path, left in text.items() if left} == {}


@pytest.mark.parametrize("path", ELSEWHERE)
def test_other_answers_are_rendered_by_the_catalog(pseudo, path):
    assert english_in(pseudo("get", path)) == {}


def test_printed_page_and_calendar_are_rendered_by_the_catalog(pseudo, full):
    printed = pseudo("get", f"/v1/lessons/{full.pk}/take-home.pdf")
    text = " ".join(page.extract_text() for page in PdfReader(io.BytesIO(printed.content)).pages)
    assert text.count("⟦") > 15
    left = untranslated(text)
    for name in (full.student.name, full.coach.name, full.academy.name, "Slow."):
        left = left.replace(name, "")
    assert set(re.findall("[A-Za-z]{4,}", left)) <= set(MONTHS_AND_DAYS), left
    calendar = pseudo("get", f"/v1/lessons/{full.pk}/schedule.ics").content.decode()
    assert "SUMMARY:⟦Práçtíçé\\, 12 míñútéš⟧" in calendar


def test_coach_can_choose_a_shipped_language(api):
    assert api("get", "/v1/session")["language"] == "en"
    refused = api("patch", "/v1/session", {"language": "qq"}, 422)
    assert refused["errors"][0]["field"] == "language"
    assert api("patch", "/v1/session", {"language": PSEUDO})["language"] == PSEUDO


def test_refusals_and_wrong_values_are_in_the_readers_language(pseudo, full):
    path = f"/v1/lessons/{full.pk}"
    wrong = [
        pseudo("post", f"{path}/setups", {"ball_cm": 900}, 422),
        pseudo("put", f"{path}/checks", {"grades": {"no-such": "on-line"}}, 422),
        pseudo("put", f"{path}/intake", {"feels": "flip"}, 422),
        pseudo("post", f"{path}/what-if", {"changes": {"loft": 3}}, 422),
        pseudo("get", "/v1/lessons/999999", None, 404),
        pseudo("get", "/v1/figures/no-such", None, 422),
    ]
    for answer in wrong:
        (problem, *_) = answer["errors"]
        assert "⟦" in problem["message"], problem


def test_sentences_use_the_coachs_units(api, full):
    """Club speed, ball speed and carry of a block are sentences of the server's, too."""

    def reading(units: str) -> str:
        api("patch", "/v1/session", {"units": units})
        return json.dumps(api("get", f"/v1/lessons/{full.pk}/reading"), ensure_ascii=False)

    metric, other = reading("m-ms"), reading("yd-mph")
    assert re.search(r"\d m/s", metric)
    assert "mph" not in metric
    assert re.search(r"\d mph", other)
    assert re.search(r"\d yd", other)
    assert "m/s" not in other


def test_printed_dates_use_the_readers_language():
    def printed(reader: SimpleNamespace | None) -> str:
        language.speak_to(reader)
        return Template('{{ day|date:"DATE_FORMAT" }}').render(Context({"day": dates.date(2026, 5, 4)}))

    assert printed(SimpleNamespace(language="fr", units="m-ms")) == "4 mai 2026"
    assert printed(None) == "4 May 2026"

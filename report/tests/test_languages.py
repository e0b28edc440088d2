"""Languages that ship are complete: every entry with its places, none that nobody says, no label twice as long."""

from __future__ import annotations

import json
import string
from datetime import date

import pytest

from instavis_core.knowledge import load_motion
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.message import Message, Quantity
from instavis_report.catalog import ENGLISH, catalog, languages
from instavis_report.entries import entries

OTHERS = [code for code in languages() if code != ENGLISH]
SPOKEN_BY = ("server/instavis", "formats", "camera")
"""Folders beside core and report whose sources make messages."""
LABEL, ROOM = 24, 14
"""Letters up to which an entry is a label, and how many more than twice as many another language may take."""


def places(text: str) -> list[tuple[str, bool]]:
    """What is filled in, and whether as a date: its form is the language's own."""
    return sorted(
        (name, "%" in (form or "")) for _, name, form, _ in string.Formatter().parse(text) if name is not None
    )


@pytest.fixture(scope="module")
def said(root) -> list[str]:
    return entries(*(root / folder for folder in SPOKEN_BY))


@pytest.fixture(scope="module", params=OTHERS)
def language(request) -> str:
    return request.param


def test_german_and_spanish_ship():
    assert {"de", "es"} <= set(OTHERS)


def test_every_entry_is_translated_with_its_places_and_none_is_stale(said, language):
    result = catalog(language).entries
    assert set(result) == set(said)
    for entry, text in result.items():
        assert text.strip(), entry
        assert places(text) == places(entry), entry
        assert (text[:1] == " ", text[-1:] == " ") == (entry[:1] == " ", entry[-1:] == " "), entry


def test_labels_are_not_much_longer(language):
    result = catalog(language).entries
    long = {e: t for e, t in result.items() if len(e) <= LABEL and len(t) > 2 * len(e) + ROOM}
    assert long == {}


def test_what_screens_say_of_the_knowledge_by_its_ids_is_there(root, language):
    known = shipped_knowledge()
    ids = {grade for check in known.checks.values() for grade in check.grades}
    ids |= set(load_motion().moments) | {cause.variant for cause in known.causes.values() if cause.variant}
    screens = json.loads((root / "web" / "src" / "languages" / f"{language}.json").read_text("utf-8"))["entries"]
    assert {i.replace("-", " ") for i in ids} <= set(screens)


def test_numbers_dates_and_units_are_the_languages_own(language):
    of = catalog(language, "yd-mph")
    result = Message("{a} on {day:%-d %B}", a=Quantity(2.04, "°"), day=date(2026, 5, 4))
    assert of.say(result) == f"2,0° on 4 {of.months[4]}"
    assert of.say(Message("{far}", far=Quantity(150, "m"))) == "164 yd"


def test_nouns_keep_their_capitals_where_a_language_asks_for_it():
    inside = Message("{label}.", label=Message("Club path").lower())
    assert catalog("de").say(inside) == "Schlägerbahn."
    assert catalog("es").say(inside) == "recorrido."

"""Messages are rendered by id, with the word order, plurals, numbers and units of the language."""

from __future__ import annotations

import copy
import logging
import pickle
from datetime import date

import pytest
from fluent.runtime import FluentResource

from instavis_core.errors import InputError
from instavis_core.message import NOTHING, Message, Quantity, joined, plain, restored, stored
from instavis_report.catalog import METRIC, PSEUDO, UNITS, Catalog, catalog, english, languages, untranslated

ENGLISH = """
label-value = { $label } { $text }
size-side = { $size } { $side }
size = { $size }
path = Club path
in-to-out = in-to-out
checks = { $n ->
        [one] { $n } check
       *[other] { $n } checks
    }
starts = { $name } starts left: { $check }.
line = seat line
day = { DAY($day, form: "d MMMM") }
share = { PERCENT($share) }, { SIGNED($change, digits: 1) }, { FIXED($size, digits: 2) }
quiet = Only in English.
join = { $first }{ $second }
join-comma = { $first }, { $second }
join-and = { $first } and { $second }
"""
GERMAN = """
nouns-keep-capitals = yes
label-value = { $text } { $label }
size-side = { $size } nach { $side }
path = Schlägerweg
in-to-out = außen
checks = { $n ->
        [one] { $n } Blick
       *[other] { $n } Blicke
    }
day = { DAY($day, form: "d. MMMM") }
join-and = { $first } und { $second }
knee = Knie
"""


def made(language: str, *sources: str, units: str = METRIC) -> Catalog:
    return Catalog(language, units, *(FluentResource(source) for source in sources))


EN, DE = made("en", ENGLISH), made("de", ENGLISH, GERMAN)


def nested() -> Message:
    value = Message("size-side", size=Quantity(4.06, "°"), side=Message("in-to-out"))
    return Message("label-value", label=Message("path").lower(), text=value)


def test_each_language_has_its_own_order_and_decimal_sign():
    assert EN.render(nested()) == "club path 4.1° in-to-out"
    assert DE.render(nested()) == "4,1° nach außen Schlägerweg"
    assert EN.render((nested() + "!").capital()) == "Club path 4.1° in-to-out!"


def test_missing_translation_is_shown_in_english():
    assert DE.render(Message("quiet")) == "Only in English."


def test_unknown_id_is_shown_unchanged():
    assert EN.render(Message("no-such-id")) == "no-such-id"


def test_missing_value_is_logged_and_shown_by_name(monkeypatch):
    logged = []
    monkeypatch.setattr(logging.getLogger("instavis_report.catalog"), "error", lambda *words: logged.append(words))
    assert EN.render(Message("label-value", label="Club path")) == "Club path text"
    assert [words[1:3] for words in logged] == [("label-value", "en")]


def test_names_and_own_words_are_not_translated():
    assert DE.render(plain("path")) == "path"
    assert DE.render("path") == "path"
    assert DE.render(Message("label-value", label="path", text="in-to-out")) == "in-to-out path"


def test_knowledge_entry_is_translated_by_id_or_unchanged():
    assert DE.render(Message.entry("knee", "Knee")) == "Knie"
    assert EN.render(Message.entry("knee", "Knee")) == "Knee"


@pytest.mark.parametrize(
    ("n", "in_english", "in_german"),
    [(1, "1 check", "1 Blick"), (2, "2 checks", "2 Blicke"), (0, "0 checks", "0 Blicke")],
)
def test_each_language_has_its_own_plural_forms(n, in_english, in_german):
    message = Message("checks", n=n)
    assert (EN.render(message), DE.render(message)) == (in_english, in_german)


@pytest.mark.parametrize(
    ("units", "speed", "far"),
    [("m-ms", "35.1 m/s", "12.3 m"), ("m-mph", "79 mph", "12.3 m"), ("yd-mph", "79 mph", "13 yd")],
)
def test_quantities_are_shown_in_the_readers_units(units, speed, far):
    readers = made("en", ENGLISH, units=units)
    assert readers.render(Message("size", size=Quantity(35.1, "m/s"))) == speed
    assert readers.render(Message("size", size=Quantity(12.3, "m"))) == far


def test_degrees_and_millimeters_are_the_same_for_all_readers():
    sizes = [Quantity(-2.04, "°"), Quantity(11.6, "mm"), Quantity(0.02, "°")]
    for units in UNITS:
        readers = made("en", ENGLISH, units=units)
        assert [readers.render(Message("size", size=size)) for size in sizes] == ["−2.0°", "12 mm", "0°"]


def test_numbers_and_dates_are_formatted_by_the_file():
    message = Message("share", share=0.724, change=-1.25, size=3.14159)
    assert EN.render(message) == f"72%, {-1.25:+.1f}, 3.14"
    assert DE.render(message) == f"72%, {-1.25:+.1f}, 3.14".replace(".", ",")
    assert DE.render(Message("day", day=date(2026, 5, 4))) == "4. Mai"


def test_a_quantity_survives_a_copy():
    assert f"{copy.deepcopy(pickle.loads(pickle.dumps(Quantity(35.1, 'm/s'))))}" == "35.1 m/s"  # noqa: S301


def test_unknown_units_and_languages_are_refused():
    with pytest.raises(InputError, match="yd-mph"):
        catalog("en", "chains")
    assert languages()[0] == "en"
    for wrong in ("qq", "../en", ""):
        with pytest.raises(InputError, match="language"):
            catalog(wrong)


def test_parts_are_joined_in_every_language():
    parts = joined([Message("path"), "Ola", "", Message("in-to-out")], "and")
    assert EN.render(parts) == "Club path, Ola and in-to-out"
    assert DE.render(parts) == "Schlägerweg, Ola und außen"
    assert EN.render(joined(["a", "b", "c"])) == "a, b, c"
    assert joined([]) == NOTHING


def test_message_survives_copying_and_storing():
    message = Message("join", first=nested().capital(), second=Message.entry("knee", "Knee"))
    dated = Message("join", first=Message("day", day=date(2026, 5, 4)), second=Quantity(2, "m", "+.1f"))
    for one in (message, dated, plain("in words"), NOTHING):
        for again in (copy.deepcopy(one), pickle.loads(pickle.dumps(one)), restored(stored(one))):  # noqa: S301
            assert again == one
            assert DE.render(again) == DE.render(one)
    assert restored("a line from an older version") == plain("a line from an older version")


def test_the_pseudo_language_brackets_sentences_and_leaves_names():
    result = catalog(PSEUDO).render(Message("quoted", words=plain("Ola")))
    assert untranslated(f"Ola, {result} and more") == "Ola,  and more"
    assert english(Message("quoted", words="Ola")) in ("“Ola”", "Ola")

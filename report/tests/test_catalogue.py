"""Another language is one file; what misses the catalogue is seen in the pseudo-language."""

from __future__ import annotations

import copy
import json
import pickle

import pytest

from instavis_core.errors import InputError
from instavis_core.message import NOTHING, Message, Quantity, counted, joined, plain
from instavis_report.catalog import METRIC, PSEUDO, UNITS, Catalog, catalog, languages, untranslated
from instavis_report.entries import entries

GERMAN = Catalog(
    language="de",
    decimal=",",
    entries={
        "{label} {told}": "{told} {label}",
        "Club path": "Schlägerweg",
        "{size} {side}": "{size} nach {side}",
        "in-to-out": "außen",
        "{n} check": "{n} Blick",
        "{n} checks": "{n} Blicke",
        "{first} {word} {second}": "{first} {word} {second}",
        "and": "und",
    },
)


def said() -> Message:
    value = Message("{size} {side}", size=Quantity(4.06, "°"), side=Message("in-to-out"))
    return Message("{label} {told}", label=Message("Club path").lower(), told=value)


def test_a_message_is_its_english_text():
    assert said() == "club path 4.1° in-to-out"
    assert json.loads(json.dumps([said()])) == [str(said())]
    assert (said() + ".") == "club path 4.1° in-to-out."


def test_another_language_has_its_own_order_words_and_decimal_sign():
    assert GERMAN.say(said()) == "4,1° nach außen schlägerweg"
    assert GERMAN.say(said().capital() + "!") == "4,1° nach außen schlägerweg!"


def test_what_is_not_translated_and_what_others_wrote_stays():
    assert GERMAN.say(Message("Nothing of it.")) == "Nothing of it."
    assert GERMAN.say(plain("and")) == "and"
    assert GERMAN.say("Club path") == "Club path"
    assert GERMAN.say(Message("{name} is here.", name="and")) == "and is here."


@pytest.mark.parametrize(
    ("n", "english", "german"), [(1, "1 check", "1 Blick"), (2, "2 checks", "2 Blicke"), (0, "0 checks", "0 Blicke")]
)
def test_one_and_many_are_entries_of_their_own(n, english, german):
    message = counted(n, "{n} check", "{n} checks")
    assert (str(message), GERMAN.say(message)) == (english, german)


@pytest.mark.parametrize(
    ("units", "speed", "far"),
    [("m-ms", "35.1 m/s", "12.3 m"), ("m-mph", "79 mph", "12.3 m"), ("yd-mph", "79 mph", "13 yd")],
)
def test_quantities_are_said_in_the_readers_units(units, speed, far):
    result = Message("{speed}, {off} off", speed=Quantity(35.1, "m/s"), off=Quantity(12.3, "m"))
    assert catalog("en", units).say(result) == f"{speed}, {far} off"
    assert str(result) == "35.1 m/s, 12.3 m off"


def test_what_has_no_other_unit_is_the_same_for_all_readers():
    result = Message("{a} {b} {c}", a=Quantity(-2.04, "°"), b=Quantity(11.6, "mm"), c=Quantity(0.02, "°"))
    assert {catalog("en", units).say(result) for units in UNITS} == {"−2.0° 12 mm 0°"}


def test_a_quantity_has_the_decimal_sign_of_the_language():
    result = Message("{speed}", speed=Quantity(35.1, "m/s"))
    assert GERMAN.say(result) == "35,1 m/s"
    assert GERMAN.units == METRIC


def test_a_quantity_survives_a_copy():
    assert f"{copy.deepcopy(pickle.loads(pickle.dumps(Quantity(35.1, 'm/s'))))}" == "35.1 m/s"


def test_units_that_nobody_has_are_refused():
    with pytest.raises(InputError, match="yd-mph"):
        catalog("en", "chains")


def test_parts_are_joined_in_every_language():
    parts = [Message("Club path"), "Ola", "", Message("in-to-out")]
    assert joined(parts, last="and") == "Club path, Ola and in-to-out"
    assert GERMAN.say(joined(parts, last="and")) == "Schlägerweg, Ola und außen"
    assert joined([]) == NOTHING


def test_a_message_keeps_what_it_is_made_of_when_it_is_copied():
    for again in (copy.deepcopy(said()), pickle.loads(pickle.dumps(said()))):
        assert (again, GERMAN.say(again)) == (said(), GERMAN.say(said()))


def test_the_pseudo_language_brackets_entries_and_leaves_names():
    result = catalog(PSEUDO).say(Message("{name} starts left: {look}.", name="Ola", look=Message("seat line")))
    assert result == "⟦Ola štártš léft: ⟦šéát líñé⟧.⟧"
    assert untranslated(f"Ola, {result} and more") == "Ola,  and more"


def test_a_language_there_is_no_file_of_is_refused():
    assert languages()[0] == "en"
    for wrong in ("qq", "../en", ""):
        with pytest.raises(InputError, match="language"):
            catalog(wrong)


def test_everything_that_is_said_can_be_listed_for_a_translator(root):
    listed = entries()
    assert len(listed) > 500
    for entry in (
        "The move was made.",
        "{n} more balls are needed.",
        "Early extension, from inside",
    ):
        assert entry in listed

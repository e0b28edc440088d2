"""What is wrong with what came in: named, with what was found and what was expected, in any language."""

from __future__ import annotations

import json
import pickle

import pytest

from instavis_core.errors import InputError, shorten
from instavis_core.message import Message


def test_an_error_names_field_value_and_what_was_expected():
    error = InputError("path_deg", 93.0, Message("a number from {low:g} to {high:g} °", low=-30, high=30))
    assert str(error) == "path_deg is 93.0; expected a number from -30 to 30 °"
    assert error.message.values["expected"].template == "a number from {low:g} to {high:g} °"


def test_an_error_moves_outwards_and_keeps_its_line():
    error = InputError("hand", "up", "right or left").inside("golfer").at(7)
    assert (error.field, error.line) == ("golfer.hand", 7)
    assert error.inside("shots[3]").field == "shots[3].golfer.hand"
    assert error.inside("shots[3]").line == 7


@pytest.mark.parametrize(
    ("value", "text"),
    [
        (None, "missing"),
        ("x", "'x'"),
        ([1, 2], "[1, 2]"),
        ("long " * 40, None),
        pytest.param(10**5000, "a number of thousands of digits", id="thousands of digits"),
    ],
)
def test_a_value_of_any_kind_fits_into_the_sentence(value, text):
    sentence = shorten(value)
    assert len(sentence) <= 60
    assert text is None or sentence == text
    assert sentence in str(InputError("field", value, "something else"))


def test_what_was_expected_is_plain_text_to_whoever_stores_or_sends_it():
    expected = Message("one of {known}", known="right, left")
    assert json.dumps({"expected": expected}) == '{"expected": "one of right, left"}'
    assert str(pickle.loads(pickle.dumps(expected))) == "one of right, left"  # noqa: S301
    assert expected == "one of right, left"

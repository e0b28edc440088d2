"""Errors name the field, the value and what was expected, in every language."""

from __future__ import annotations

import json
import pickle

import pytest

from instavis_core.errors import InputError, shorten
from instavis_core.message import Message


def test_an_error_names_field_value_and_what_was_expected():
    error = InputError("path_deg", 93.0, Message("shots-number", low=-30, high=30))
    assert str(error) == "path_deg=93.0: shots-number(low=-30, high=30)"
    assert error.message == Message("common-expected", field="path_deg", found="93.0", expected=error.expected)


def test_outer_error_keeps_its_line():
    error = InputError("hand", "up", "right or left").inside("golfer").at(7)
    assert (error.field, error.line) == ("golfer.hand", 7)
    assert error.inside("shots[3]").field == "shots[3].golfer.hand"
    assert error.inside("shots[3]").line == 7


@pytest.mark.parametrize(
    ("value", "text"),
    [
        (None, "found-missing"),
        ("x", "'x'"),
        ([1, 2], "[1, 2]"),
        ("long " * 40, None),
        pytest.param(10**5000, "found-huge-number", id="thousands of digits"),
    ],
)
def test_any_value_fits_into_the_sentence(value, text):
    sentence = shorten(value)
    assert len(sentence) <= 60
    assert text is None or sentence == text
    assert InputError("field", value, "something else").message.values["found"] == sentence


def test_a_message_survives_json_and_pickle():
    expected = Message("common-one", known="right, left")
    assert json.dumps({"expected": expected}) == '{"expected": "common-one"}'
    assert pickle.loads(pickle.dumps(expected)) == expected  # noqa: S301
    assert expected != Message("common-one", known="right")

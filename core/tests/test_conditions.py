"""Conditions (lie, turf, ball, tee) are checked, and compared between baseline and stage."""

from __future__ import annotations

import pytest

from instavis_core.errors import InputError
from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.clubs import LIES
from instavis_core.lesson import changed_conditions, read_conditions
from instavis_core.lesson.conditions import SET_BY_COACH

MAT, GRASS = {"turf": "mat", "lie": "dry"}, {"turf": "grass"}


def test_conditions_have_names_and_lies_match_the_impact_model():
    words = vocabulary().words
    assert set(SET_BY_COACH) <= set(words["condition"])
    assert all(len(words[f"condition_{name}"]) >= 2 for name in SET_BY_COACH)
    assert set(words["condition_lie"]) == set(LIES)


def test_unset_conditions_are_left_out():
    assert read_conditions({"lie": "wet", "tee": ""}) == {"lie": "wet"}
    assert read_conditions({}) == {}


@pytest.mark.parametrize(
    ("raw", "field"),
    [
        ({"lie": "deep"}, "conditions.lie"),
        ({"lie": 3}, "conditions.lie"),
        ({"weather": "fine"}, "conditions.weather"),
        (["wet"], "conditions"),
    ],
)
def test_unknown_condition_is_refused_by_name(raw, field):
    with pytest.raises(InputError) as caught:
        read_conditions(raw)
    assert caught.value.field == field


@pytest.mark.parametrize(
    ("before", "now", "changed"),
    [
        ([MAT], [MAT], []),
        ([MAT], [GRASS], ["turf"]),
        ([MAT], [{"turf": "grass", "lie": "wet"}], ["lie", "turf"]),
        ([MAT, GRASS], [GRASS], []),  # some of the baseline was hit so
        ([MAT], [MAT, GRASS], ["turf"]),  # half of the stage was not
        ([MAT], [{}], []),  # not told is not changed
        ([], [GRASS], []),
    ],
)
def test_only_known_conditions_can_change(before, now, changed):
    assert changed_conditions(before, now) == changed

"""The course of a lesson: answers, clock, balls by hand, setup."""

from __future__ import annotations

import pytest

from instavis_core.errors import InputError
from instavis_core.lesson import Setup, ball_by_hand, intake_for, lesson_clock, read_answers, setup_changes
from instavis_core.shots import read_shot

READY = {"ask": True, "baseline": False}


@pytest.mark.parametrize("minutes", [15, 30, 55, 90, 240])
def test_clock_fills_the_lesson_and_prove_gets_most(minutes):
    boxes = lesson_clock(minutes, "ask", 0, {}).boxes
    assert boxes[0].begins == 0
    assert boxes[-1].ends == minutes
    assert all(a.ends == b.begins for a, b in zip(boxes, boxes[1:], strict=False))
    assert max(boxes, key=lambda b: b.ends - b.begins).station == "prove"


@pytest.mark.parametrize(
    ("station", "elapsed", "expected"),
    [
        ("ask", 1, "lesson-next(following=lesson-baseline)"),
        ("baseline", 5, ""),
        ("baseline", 30, "lesson-planned-until-minute"),
        ("prove", 30, ""),
        ("prove", 52, "lesson-write-take-home-page-now"),
        ("take-home", 80, ""),
    ],
)
def test_clock_advises_only_when_needed(station, elapsed, expected):
    advice = lesson_clock(55, station, elapsed, READY).advice
    assert (expected in repr(advice)) if expected else advice == ""


def test_ten_minute_lesson_is_refused():
    with pytest.raises(InputError):
        lesson_clock(10, "ask", 0, {})


def test_intake_uses_the_clubs_miss_or_any_other(knowledge):
    answers = read_answers({"misses": {"driver": {"start": "left"}, "irons": {"curve": "right", "off_m": 10}}})
    assert intake_for(answers, knowledge.vocabulary.clubs["D"]).start == "left"
    assert intake_for(answers, knowledge.vocabulary.clubs["7i"]).curve == "right"
    assert intake_for(answers, knowledge.vocabulary.clubs["SW"]).start == "left"


def test_empty_answers_are_left_out():
    answers = read_answers({"misses": {"irons": {"start": "", "curve": None}}, "kit": ["wall", "wall"]})
    assert answers["misses"] == {}
    assert answers["kit"] == ["wall"]
    assert answers["limits"] == {}


@pytest.mark.parametrize(
    "raw", [{"misses": ["irons"]}, {"kit": "wall"}, {"limits": ["knee"]}, {"goal": "x" * 301}, {"goal": 3}]
)
def test_answers_of_the_wrong_shape_are_refused(raw):
    with pytest.raises(InputError) as caught:
        read_answers(raw)
    assert caught.value.field == next(iter(raw))


def test_hand_entered_ball_is_marked():
    shot = read_shot(ball_by_hand("far-right", "hard-left", "heel"))
    assert shot.extra == {"entered": "hand"}
    assert shot.values["launch_direction_deg"] > 0 > shot.values["spin_axis_deg"]
    assert shot.values["strike_toe_mm"] < 0
    assert read_shot(ball_by_hand("left", "straight", "fat")).turf == "fat"


def test_only_relevant_setup_changes_are_reported():
    first = Setup(8, 40, 0)
    assert setup_changes(first, Setup(9, 42, 1)) == []
    assert setup_changes(first, Setup(5, None, None))[0].values == {"moved": 3, "way": "lesson-forward"}
    assert setup_changes(Setup(), first) == []

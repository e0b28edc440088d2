"""The take-home page is plain, honest about what is proven, and never surer than the numbers."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest

from instavis_core.errors import InputError
from instavis_core.golfer import Golfer
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.message import plain
from instavis_core.proof import Change, Slope
from instavis_core.reading.robust import Centre
from instavis_core.reading.words import pattern_words
from instavis_report import TakeHomeFacts, read_own_lines, take_home_sections
from instavis_report.catalog import catalog, english
from instavis_report.take_home import SECTIONS

KNOWLEDGE = shipped_knowledge()
DRILL = KNOWLEDGE.drills["bar-stool"]
TERMS = re.compile(r"\bSD\b|log|posterior|p =|in-to-out|out-to-in|face-to-path|axis")


def moved(estimate: float, low: float, high: float) -> Change:
    """A change of a number that stood at 5 over twelve balls."""
    return Change(
        estimate=estimate,
        standard_error=0.4,
        low=low,
        high=high,
        confidence=0.95,
        baseline_centre=5,
        baseline_spread=1,
        baseline_balls=12,
        balls=14,
    )


def facts(**changes) -> TakeHomeFacts:
    usual = {
        "club": "7 iron",
        "misses": {"irons": {"start": "right", "curve": "left", "off_m": 20.0}},
        "plain": ("It starts to the right of the target.", "It curves strongly to the left."),
        "why": "Early extension. The pelvis moves toward the ball. It is likely, not certain.",
        "drill": DRILL,
        "cue": "Polish the wall.",
        "status": "verified",
        "change": Change(
            estimate=-3.42,
            standard_error=0.4,
            low=-5.31,
            high=-1.64,
            confidence=0.95,
            baseline_centre=5.0,
            baseline_spread=1.2,
            baseline_balls=12,
            balls=14,
        ),
        "metric": KNOWLEDGE.vocabulary.metrics["path_deg"],
        "stage": "half",
    }
    return TakeHomeFacts(**{**usual, **changes})


def sections_with(**changes) -> dict[str, list[str]]:
    return {s.id: [english(line) for line in s.lines] for s in take_home_sections(facts(**changes))}


def test_whole_page_is_in_order_without_jargon():
    page = sections_with()
    assert tuple(page) == SECTIONS
    assert not TERMS.search(" ".join(line for lines in page.values() for line in lines))
    assert page["correction"][0] == "“Polish the wall.”"


def test_page_without_a_correction_claims_nothing():
    page = sections_with(drill=None, cue="", status=None, change=None, metric=None, stage=None)
    assert list(page) == ["ball", "cause", "proven"]
    assert "nothing is proven" in page["proven"][0]


def test_measured_body_is_mentioned_if_the_slope_is_clear():
    slope = Slope(
        estimate=1.7,
        low=0.9,
        high=2.5,
        confidence=0.95,
        evidence=40.0,
        own=0.9,
        balls=14,
        baseline_balls=12,
        unit="°",
        sentence=plain("Thrust -2 cm: club path -3.4°."),
    )
    assert any("Thrust -2 cm" in line for line in sections_with(slope=slope)["proven"])
    unclear = replace(slope, low=-0.2)
    assert not any("Thrust" in line for line in sections_with(slope=unclear)["proven"])
    assert not any("Thrust" in line for line in sections_with(slope=slope, status="not-yet")["proven"])


@pytest.mark.parametrize("status", KNOWLEDGE.vocabulary.words["status"])
def test_every_proof_status_has_a_sentence(status):
    lines = sections_with(status=status, reason="Path and face moved together.")["proven"]
    assert lines[0].endswith(".")
    assert ("Proven today" in lines[0]) == (status == "verified")
    assert ("one lesson in twenty" in lines[0]) == (status == "verified")


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (
            moved(-3.42, -5.31, -1.64),
            "about 3.4° (somewhere from 1.6° to 5.3°)",
        ),
        (
            moved(3.42, 1.64, 5.31),
            "about 3.4° (somewhere from 1.6° to 5.3°)",
        ),
        (
            moved(-1.0, -2.5, 0.5),
            "about 1.0° (somewhere from −2.5° to 0.5°)",
        ),
        (
            Change(
                estimate=-3.0,
                standard_error=0.4,
                low=None,
                high=None,
                confidence=0.95,
                baseline_centre=5,
                baseline_spread=1,
                baseline_balls=12,
                balls=2,
            ),
            "about 3.0°.",
        ),
        (
            Change(
                estimate=None,
                standard_error=0.4,
                low=None,
                high=None,
                confidence=0.95,
                baseline_centre=5,
                baseline_spread=1,
                baseline_balls=12,
                balls=0,
            ),
            "the numbers of this fault changed together.",
        ),
    ],
)
def test_change_is_stated_with_its_interval(change, words):
    assert words in sections_with(change=change, stage="full")["proven"][0]


@pytest.mark.parametrize(("stage", "text"), [("half", True), ("three-quarter", True), ("full", False), (None, False)])
def test_slow_stage_claims_nothing_about_full_speed(stage, text):
    lines = sections_with(stage=stage)["proven"]
    assert any("not at full speed" in line for line in lines) == text
    assert lines[-1].endswith("whether it lasts.")


@pytest.mark.parametrize(
    ("units", "words"), [("yd-mph", "about 22 yd off"), ("m-mph", "about 20 m off"), ("m-ms", "about 20 m off")]
)
def test_students_words_use_the_readers_units(units, words):
    (ball, *_) = take_home_sections(facts())
    line = catalog("en", units).render(ball.lines[0])
    assert line.startswith("Your usual miss, irons: starts right, curves left and finishes")
    assert words in line


def test_empty_miss_gives_no_sentence():
    assert sections_with(misses={"irons": {}}, plain=())["cause"]
    assert "ball" not in sections_with(misses={"irons": {"start": "", "curve": "", "off_m": None}}, plain=())


def test_own_lines_replace_a_section_and_an_empty_list_removes_it():
    page = take_home_sections(facts(), {"cause": ["Because."], "fake": []})
    by = {s.id: s for s in page}
    assert (by["cause"].lines, by["cause"].edited) == (["Because."], True)
    assert (by["fake"].lines, by["fake"].edited) == ([], True)
    assert not by["ball"].edited


@pytest.mark.parametrize(
    ("raw", "field"),
    [
        ([], "sections"),
        ({"care": ["x"]}, "sections"),
        ({"cause": "x"}, "sections.cause"),
        ({"cause": ["x"] * 9}, "sections.cause"),
        ({"cause": [3]}, "sections.cause[0]"),
        ({"cause": ["x", "y" * 301]}, "sections.cause[1]"),
        ({"cause": ["a\nb"]}, "sections.cause[0]"),
    ],
)
def test_unprintable_lines_are_refused(raw, field):
    with pytest.raises(InputError) as caught:
        read_own_lines(raw)
    assert caught.value.field == field


def test_blank_lines_and_spaces_are_trimmed():
    assert read_own_lines({"cause": ["  Why ", "", "   "]}) == {"cause": ["Why"]}


@pytest.mark.parametrize(("hand", "push", "pull"), [("right", "right", "left"), ("left", "left", "right")])
def test_pattern_is_described_as_the_student_sees_it(hand, push, pull):
    centres = {
        "launch_direction_deg": Centre(n=12, centre=5.0, spread=1.0, low=4.0, high=6.0),
        "spin_axis_deg": Centre(n=12, centre=-15.0, spread=2.0, low=-16.0, high=-14.0),
        "strike_toe_mm": Centre(n=12, centre=-14.0, spread=4.0, low=-16.0, high=-12.0),
        "strike_high_mm": Centre(n=12, centre=-12.0, spread=4.0, low=-14.0, high=-10.0),
    }
    words = pattern_words(centres, Golfer(hand, 12.0), KNOWLEDGE.vocabulary.clubs["7i"], 0.9)
    assert [english(w.plain) for w in words if w.plain] == [
        f"It starts to the {push} of the target.",
        f"It curves strongly to the {pull}.",
        "You strike it toward the heel and bottom of the face.",
        "It ends on both sides of the target.",
    ]


@pytest.mark.parametrize("status", ["verified", "supported"])
def test_inferred_number_is_not_called_measured(status):
    proven_text = {
        inferred: " ".join(sections_with(status=status, inferred=inferred)["proven"]) for inferred in (True, False)
    }
    assert "not measured at the club" in proven_text[True]
    assert "not measured" not in proven_text[False]

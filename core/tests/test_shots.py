"""Records at the border: every metric's limits, every word list, left and right."""

from __future__ import annotations

import math

import numpy as np
import pytest

from instavis_core.errors import InputError
from instavis_core.golfer import Golfer, mirror, read_golfer
from instavis_core.knowledge import vocabulary
from instavis_core.shots import CHOICES, LONGEST_TEXT, block_of, of_club, read_shot, read_shots

METRICS = list(vocabulary().metrics.values())


@pytest.mark.parametrize("metric", METRICS, ids=lambda m: m.id)
def test_limits_of_every_metric(metric):
    low, high = metric.range
    for value in (low, high, (low + high) / 2):
        assert read_shot({metric.id: value}).values[metric.id] == value
    beyond = (low - 0.001, high + 0.001, math.nan, math.inf, -math.inf, 1e308)
    for value in (*beyond, "12", True, [1.0], {"v": 1}):
        with pytest.raises(InputError) as caught:
            read_shot({metric.id: value})
        assert caught.value.field == metric.id
        assert caught.value.expected.values["high"].endswith(metric.unit)


@pytest.mark.parametrize("name", CHOICES)
def test_word_lists_are_closed(name):
    for word in CHOICES[name]:
        assert getattr(read_shot({name: word}), name) == word
    for word in ("", None):
        assert getattr(read_shot({name: word}), name) is None
    for word in ("other", 3, ["x"]):
        with pytest.raises((InputError, TypeError)) as caught:
            read_shot({name: word})
        assert caught.type is InputError


@pytest.mark.parametrize("name", ["shot_id", "note", "intent"])
def test_texts_are_limited(name):
    longest = LONGEST_TEXT[name]
    read_shot({name: "x" * longest})
    for bad in ("x" * (longest + 1), 5):
        with pytest.raises(InputError):
            read_shot({name: bad})


BEYOND_CLOCKS = [
    "0001-01-01T00:00:00+14:00",
    "1969-12-31T23:59:59Z",
    "2200-01-01T00:00:00Z",
    "9999-12-31T23:59:59-12:00",
]


@pytest.mark.parametrize(
    "moment", ["yesterday", "2026-05-04", "2026-05-04T09:00:00", 7, "2026-13-01T00:00:00Z", *BEYOND_CLOCKS]
)
def test_times_need_a_zone_and_a_valid_year(moment):
    with pytest.raises(InputError):
        read_shot({"at": moment})


def test_unknown_scalars_are_stored_and_nested_ones_refused():
    assert read_shot({"humidor": 3, "mood": "calm"}).extra == {"humidor": 3, "mood": "calm"}
    for bad in ({"x": {}}, {"x": [1]}, {"x" * 61: 1}, {f"f{i}": i for i in range(31)}, {"x": math.nan}):
        with pytest.raises(InputError):
            read_shot(bad)


@pytest.mark.parametrize("name", ["shot_id", "note", "intent", "mood", "hand", "club", "at", "turf"])
@pytest.mark.parametrize("text", ["half \ud800", "zero\0byte"])
def test_unstorable_texts_are_refused(name, text):
    with pytest.raises(InputError) as caught:
        read_shot({name: text})
    assert caught.value.field == name
    caught.value.message.encode()
    with pytest.raises(InputError):
        read_shot({text: "a name is a text as well"})


@pytest.mark.parametrize("digits", [17, 400, 5000])
def test_oversized_integers_are_refused(digits):
    for name in ("path_deg", "mood", "at", "note"):
        with pytest.raises(InputError) as caught:
            read_shot({name: 10**digits})
        assert len(caught.value.message) < 200


def test_the_wrong_format_version_is_refused():
    read_shot({"format": "instavis.shot/1"})
    with pytest.raises(InputError):
        read_shot({"format": "instavis.shot/2"})


def test_mirroring_affects_sideways_metrics_and_is_an_involution():
    left = Golfer("left")
    for metric in METRICS:
        value = mirror(metric.id, 3.0, left)
        assert value == (-3.0 if metric.mirrored else 3.0)
        assert mirror(metric.id, value, left) == 3.0
        assert mirror(metric.id, 3.0, Golfer("right")) == 3.0


def test_blocks_keep_order_and_mark_gaps(seven_iron):
    block = block_of(read_shots([{"path_deg": 1.0, "turf": "fat"}, {"face_deg": 2.0}]), Golfer(), seven_iron)
    assert block.column("path_deg")[0] == 1.0
    assert np.isnan(block.column("path_deg")[1])
    chosen = block.keep(np.array([True, False]))
    assert (len(chosen), chosen.turf) == (1, ("fat",))


def test_balls_of_other_clubs_are_left_out_and_counted(seven_iron):
    same, others = of_club(read_shots([{"club": "7i"}, {"club": "D"}, {}]), seven_iron)
    assert (len(same), others) == (2, 1)


@pytest.mark.parametrize("raw", [{"hand": "both"}, {"handicap": "low"}, {"handicap": 61}, {"handicap": True}, "x", 3])
def test_impossible_golfers_are_refused(raw):
    with pytest.raises(InputError):
        read_golfer(raw)


def test_skill_row_follows_the_handicap():
    rows = [Golfer("right", h).skill.id for h in (-3, 5, 5.1, 18, 30, None)]
    assert rows == ["scratch", "scratch", "mid", "mid", "learner", "mid"]

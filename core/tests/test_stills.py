"""Measuring on stills: clicks on a drawn figure give back the pose it was drawn with."""

from __future__ import annotations

import numpy as np
import pytest

from instavis_core.errors import InputError
from instavis_core.figure import View, pose_at, project, stand
from instavis_core.figure.pictures import GROUNDED
from instavis_core.knowledge.figure import load_figure
from instavis_core.knowledge.loader import KnowledgeError, shipped_knowledge, shipped_text
from instavis_core.knowledge.stills import load_stills, load_stills_from
from instavis_core.stills import Clicked, Scale, measure_still, read_clicks, read_scale

PX_PER_CM, WIDTH, HEIGHT = 5.0, 1200, 1100
CHECKS = list(load_stills().measures)


def photo(moment, view, hand, *adds, grounded=False, jitter=None) -> Clicked:
    """A still of the figure with every landmark clicked; ``jitter`` (rng, pixels) makes the clicks miss."""
    projected = project(stand(pose_at(moment, None, *adds), grounded), View(view, hand))
    points = {}
    for name in load_stills().landmarks:
        x, y = projected[name]
        miss = jitter[0].normal(0, jitter[1], 2) if jitter else (0.0, 0.0)
        points[name] = (600 + 100 * PX_PER_CM * x + miss[0], 1000 - 100 * PX_PER_CM * y + miss[1])
    return Clicked(
        points=points, width=WIDTH, height=HEIGHT, scale=Scale((100, 100), (100, 100 + 100 * PX_PER_CM), 100.0)
    )


def measured_drawing(check, grade, hand="right", jitter=None):
    measure, picture = load_stills().measures[check], load_figure().checks[check]
    address = photo("address", measure.view, hand, grounded=True, jitter=jitter)
    adds = (picture.pose, picture.grades.get(grade))
    still = photo(picture.at, measure.view, hand, *adds, grounded=picture.at in GROUNDED, jitter=jitter)
    return measure_still(check, still, hand, address)


@pytest.mark.parametrize("hand", ["right", "left"])
@pytest.mark.parametrize("check", CHECKS)
def test_measured_answer_equals_the_drawn_one(check, hand):
    measured = {b.grade for b in load_stills().measures[check].grades}
    for i, grade in enumerate(shipped_knowledge().checks[check].grades):
        if i == 0 or grade in measured:
            assert measured_drawing(check, grade, hand).grade == grade


@pytest.mark.parametrize("check", CHECKS)
def test_both_hands_measure_the_same(check):
    right, left = (
        measured_drawing(check, shipped_knowledge().checks[check].grades[-1], hand) for hand in ("right", "left")
    )
    assert right.value == pytest.approx(left.value, abs=0.3)


def test_measured_travel_equals_the_pelvis_travel():
    still = photo("impact", "face-on", "right", {"sway_cm": 6.0})
    plain = photo("impact", "face-on", "right")
    address = photo("address", "face-on", "right")
    more, less = (measure_still("pelvis-lateral-impact", s, "right", address).value for s in (still, plain))
    assert more - less == pytest.approx(6.0, abs=0.05)


def test_stated_error_covers_click_errors():
    """Clicks off by the assumed share of the picture's height: two thirds within one error."""
    rng, truth = np.random.default_rng(4), measured_drawing("pelvis-lateral-impact", "past-lead-foot").value
    off = []
    for _ in range(200):
        one = measured_drawing("pelvis-lateral-impact", "past-lead-foot", jitter=(rng, 0.004 * HEIGHT))
        off.append(abs(one.value - truth) / one.error)
    assert 0.6 < np.mean(np.array(off) < 1) <= 1.0
    assert np.mean(np.array(off) < 2) > 0.95


def test_the_scale_scales_lengths_and_leaves_angles_alone():
    still = photo("impact", "face-on", "right", grounded=True)
    double = Clicked(points=still.points, width=WIDTH, height=HEIGHT, scale=Scale((100, 100), (100, 600), 200.0))
    assert measure_still("hands-impact", double, "right").value == pytest.approx(
        2 * measure_still("hands-impact", still, "right").value, abs=0.02
    )
    assert (
        measure_still("chest-tilt-impact", double, "right").value
        == measure_still("chest-tilt-impact", still, "right").value
    )


def test_missing_clicks_are_named():
    still = photo("halfway-down", "down-the-line", "right")
    bare = Clicked(points={}, width=WIDTH, height=HEIGHT)
    assert measure_still("seat-line", bare, "right").missing == ["seat", "scale", "address"]
    assert measure_still("seat-line", still, "right", bare).missing == ["address:seat"]
    assert measure_still("seat-line", bare, "right").value is None


def test_a_value_near_its_bound_is_close():
    at = load_stills().measures["hands-impact"].grades[0].bound
    points = {"ball": (500.0, 900.0), "hands": (500.0 + at * PX_PER_CM + 1, 500.0)}
    still = Clicked(points=points, width=WIDTH, height=HEIGHT, scale=Scale((0, 0), (0, 500), 100.0))
    assert measure_still("hands-impact", still, "right").close


def test_address_still_of_another_camera_is_refused():
    still = photo("halfway-down", "down-the-line", "right")
    other = Clicked(points=still.points, width=640, height=480)
    with pytest.raises(InputError) as caught:
        measure_still("seat-line", still, "right", other)
    assert caught.value.field == "address"


@pytest.mark.parametrize(
    ("read", "raw", "field"),
    [
        (read_clicks, {"seat": [10, float("nan")]}, "points.seat"),
        (read_clicks, {"seat": [10, 1e9]}, "points.seat"),
        (read_clicks, {"seat": [-1, 5]}, "points.seat"),
        (read_clicks, {"seat": "here"}, "points.seat"),
        (read_clicks, {"tail": [1, 2]}, "points.tail"),
        (read_clicks, [1, 2], "points"),
        (read_scale, {"a": [0, 0], "b": [0, 5], "length_cm": 100}, "scale.b"),
        (read_scale, {"a": [0, 0], "b": [0, 500], "length_cm": 0}, "scale.length_cm"),
        (read_scale, {"a": [0, 0], "b": [0, 500], "length_cm": float("inf")}, "scale.length_cm"),
        (read_scale, {"a": [0, 0], "b": [0, 5000], "length_cm": 100}, "scale.b"),
        (read_scale, {"a": [0, 0]}, "scale"),
    ],
)
def test_bad_clicks_are_refused_by_name(read, raw, field):
    with pytest.raises(InputError) as caught:
        read(raw, WIDTH, HEIGHT)
    assert caught.value.field == field


@pytest.mark.parametrize(
    ("old", "new", "word"),
    [
        ('check = "seat-line"', 'check = "seat-lines"', "seat-lines"),
        ('quantity = "tilt"', 'quantity = "lean"', "quantity"),
        ('points = ["neck", "pelvis"]', 'points = ["neck"]', "points"),
        ('points = ["neck", "pelvis"]', 'points = ["neck", "tail"]', "points"),
        ('grade = "too-far-back", above = 30', 'grade = "too-far", above = 30', "grades"),
        ("[[measure]]", "[[measure]", "stills.toml"),
    ],
)
def test_bad_data_is_refused_by_name(old, new, word):
    text = shipped_text("stills.toml")
    assert old in text
    with pytest.raises(KnowledgeError) as caught:
        load_stills_from(lambda name: text.replace(old, new, 1))
    assert word in str(caught.value)

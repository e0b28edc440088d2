"""Blocks: arc, centre, mishits, sides, words."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import stats

from instavis_core.arc import low_point_cm, swing_direction
from instavis_core.golfer import Golfer
from instavis_core.reading import read_block
from instavis_core.reading.robust import balls_for, summarise
from instavis_core.reading.two_sided import two_sided_probability
from instavis_core.shots import block_of, read_shots


def block(records, club, hand="right"):
    return block_of(read_shots(records), Golfer(hand, 12.0), club)


def test_hitting_down_puts_the_low_point_ahead_and_moves_the_path_outward(seven_iron):
    assert low_point_cm(-4.0, seven_iron) > 5
    assert low_point_cm(0.0, seven_iron) == pytest.approx(0)
    assert low_point_cm(3.0, seven_iron) < -3
    # One direction of swing, two degrees more down: the path goes out by their ratio on the plane.
    inclination = np.radians(seven_iron.plane)
    shift = swing_direction(0.0, -2.0, seven_iron) - swing_direction(0.0, -4.0, seven_iron)
    assert shift == pytest.approx(2 / np.tan(inclination), rel=0.02)


def test_interval_of_plain_normal_values_covers_as_often_as_it_says():
    rng = np.random.default_rng(4)
    covered = [abs(c.centre) <= c.high - c.centre for c in (summarise(rng.normal(0, 2, 12)) for _ in range(600))]
    assert 0.92 < np.mean(covered) < 0.98


def test_one_wild_ball_hardly_moves_the_centre():
    values = np.random.default_rng(2).normal(3, 1, 11)
    assert summarise(np.append(values, 40.0)).centre == pytest.approx(summarise(values).centre, abs=0.5)


def test_balls_needed_follow_from_the_t_interval():
    n = balls_for(2.0, 1.0, 0.90)
    assert stats.t.ppf(0.95, n - 1) * 2.0 / np.sqrt(n) <= 1.0 < stats.t.ppf(0.95, n - 2) * 2.0 / np.sqrt(n - 1)


@pytest.mark.parametrize("n", [0, 1, 2, 3, 7, 200])
def test_any_number_of_balls_can_be_read(records, seven_iron, n):
    reading = read_block(block(records(n), seven_iron))
    assert reading.balls == n
    assert (reading.balls_needed is None) == (n == 0)


def test_any_column_may_be_missing(records, seven_iron):
    for column in records(1)[0]:
        if column != "club":
            rows = [{k: v for k, v in row.items() if k != column} for row in records(9)]
            assert read_block(block(rows, seven_iron)).balls == 9


def test_mishits_are_set_apart_by_stated_rules(records, seven_iron):
    rows = [{**row, "ball_speed_mps": 1.34 * row["club_speed_mps"]} for row in records(14)]
    rows[2]["turf"] = "fat"
    rows[5]["strike_toe_mm"] = -36.0
    rows[7]["ball_speed_mps"] *= 0.8
    rows[11]["path_deg"] = 25.0
    found = {m.index: m.rule for m in read_block(block(rows, seven_iron)).mishits}
    assert found == {2: "turf", 5: "strike", 7: "ball-speed", 11: "outlying"}


def test_a_toe_hitter_has_a_pattern_and_not_only_mishits(records, seven_iron):
    reading = read_block(block(records(14, sd=4.0, strike_toe_mm=20.0), seven_iron))
    assert len(reading.mishits) <= 2
    assert "toe" in next(w.word for w in reading.pattern if w.aspect == "contact")


def test_left_handers_read_the_same_words_as_their_mirror_image(hit, seven_iron, records):
    rows = records(12, path_deg=5.0, face_deg=1.0)
    mirrored = [{**row, "path_deg": -row["path_deg"], "face_deg": -row["face_deg"]} for row in rows]
    right, left = read_block(block(rows, seven_iron)), read_block(block(mirrored, seven_iron, "left"))
    assert [w.word for w in right.pattern] == [w.word for w in left.pattern]
    assert right.metrics["path_deg"].centre == pytest.approx(left.metrics["path_deg"].centre)


def test_order_of_the_balls_does_not_matter(records, seven_iron):
    rows = records(15, path_deg=3.0)
    forward, backward = read_block(block(rows, seven_iron)), read_block(block(rows[::-1], seven_iron))
    assert forward.metrics["path_deg"].centre == pytest.approx(backward.metrics["path_deg"].centre)
    assert [w.word for w in forward.pattern] == [w.word for w in backward.pattern]


def test_two_sides_are_told_from_one():
    rng = np.random.default_rng(6)
    one = [two_sided_probability(rng.normal(2, 3, 24), 1.5) for _ in range(60)]
    two = [two_sided_probability(np.append(rng.normal(-6, 1.5, 12), rng.normal(6, 1.5, 12)), 1.5) for _ in range(60)]
    assert np.mean([p > 0.5 for p in one]) < 0.1
    assert np.mean([p > 0.5 for p in two]) > 0.95
    assert two_sided_probability(np.zeros(7), 1.5) is None


def test_what_was_not_measured_is_marked_as_inferred(hit):
    reading = read_block(hit("upper-body-first", 3, 14, columns="ball"))
    assert reading.metrics["path_deg"].origin == "inferred"
    assert reading.metrics["launch_direction_deg"].origin == "measured"
    assert any("inferred" in note for note in reading.notes)
    measured = read_block(hit("upper-body-first", 3, 14))
    width = {
        r: r_.high - r_.low for r, r_ in (("in", reading.metrics["path_deg"]), ("me", measured.metrics["path_deg"]))
    }
    assert width["in"] > width["me"]

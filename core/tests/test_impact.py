"""Launch from delivery and back."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from instavis_core.impact import Delivery, curve_budget, infer_delivery, launch_of, spin_loft


def strike(club, **changes):
    usual = {
        "club_speed": 38.0,
        "path": 0.0,
        "face": 0.0,
        "attack": club.attack,
        "dynamic_loft": club.usual_dynamic_loft,
        "toe": 0.0,
        "high": 0.0,
    }
    return launch_of(Delivery(**{**usual, **changes}), club)


@pytest.mark.parametrize(("club", "low", "high"), [("D", 0.80, 0.90), ("7i", 0.68, 0.80), ("PW", 0.60, 0.75)])
def test_face_share_of_the_start_direction_is_as_published(knowledge, club, low, high):
    row = knowledge.clubs[club]
    face = strike(row, face=2.0).launch_direction[0] / 2
    path = strike(row, path=2.0).launch_direction[0] / 2
    assert low < face < high
    assert face + path == pytest.approx(1.0, abs=0.01)


@pytest.mark.parametrize("club", ["D", "5w", "4h", "3i", "7i", "PW", "LW"])
def test_face_open_to_the_path_tilts_the_spin_to_the_right(knowledge, club):
    row = knowledge.clubs[club]
    tilts = strike(row, face=np.array([-6.0, -3, 0, 3, 6])).spin_axis
    assert np.all(np.diff(tilts) > 0)
    assert tilts[2] == pytest.approx(0, abs=1e-9)


def test_toe_strikes_of_a_driver_draw_and_heel_strikes_fade(knowledge):
    driver = knowledge.clubs["D"]
    toe, heel = strike(driver, toe=15.0), strike(driver, toe=-15.0)
    assert toe.spin_axis[0] < -4 < 4 < heel.spin_axis[0]
    assert toe.launch_direction[0] > 1  # bulge starts it out, gear effect brings it back
    assert toe.ball_speed[0] < strike(driver).ball_speed[0]


def test_spin_grows_with_spin_loft_and_smash_falls_with_loft(knowledge):
    iron = knowledge.clubs["7i"]
    lofts = np.arange(16.0, 36.0, 4)
    launch = strike(iron, dynamic_loft=lofts)
    assert np.all(np.diff(launch.spin) > 0)
    assert np.all(np.diff(launch.ball_speed) < 0)
    smash = [strike(knowledge.clubs[c]).ball_speed[0] / 38.0 for c in ("D", "5i", "9i", "LW")]
    assert smash == sorted(smash, reverse=True)
    assert 1.42 < smash[0] < 1.52


def test_spin_loft_is_the_angle_between_two_directions():
    assert spin_loft(0, 0, -4, 24) == pytest.approx(28)
    assert spin_loft(3, 3, 0, 0) == pytest.approx(0, abs=1e-6)
    assert spin_loft(0, 3, 0, 0) == pytest.approx(3)


@settings(max_examples=40, deadline=None, derandomize=True)
@given(
    path=st.floats(-12, 12),
    face=st.floats(-12, 12),
    toe=st.floats(-25, 25),
    high=st.floats(-12, 12),
    speed=st.floats(15, 55),
)
def test_the_mirror_image_of_a_delivery_flies_the_mirror_image(knowledge, path, face, toe, high, speed):
    club = knowledge.clubs["5i"]
    one = strike(club, path=path, face=face, toe=toe, high=high, club_speed=speed)
    # The same blow seen in a mirror: sideways signs turn, and so does the side of the face that is toe.
    other = strike(club, path=-path, face=-face, toe=-toe, high=high, club_speed=speed)
    assert other.launch_direction[0] == pytest.approx(-one.launch_direction[0], abs=1e-9)
    assert other.spin_axis[0] == pytest.approx(-one.spin_axis[0], abs=1e-9)
    assert other.ball_speed[0] == pytest.approx(one.ball_speed[0])
    assert 0 < one.ball_speed[0] < 1.7 * speed


def test_curve_budget_adds_up_and_blames_the_strike_for_a_toe_hook(knowledge):
    driver = knowledge.clubs["D"]
    delivery = Delivery(45.0, np.zeros(2), np.zeros(2), 0.0, 14.0, np.array([15.0, 0.0]), 0.0)
    budget = curve_budget(delivery, driver, np.array([-12.0, 3.0]))
    total = budget.face_to_path_deg + budget.strike_deg + budget.rest_deg
    assert total == pytest.approx([-12.0, 3.0])
    assert abs(budget.strike_deg[0]) > 5 * abs(budget.face_to_path_deg[0])
    assert budget.rest_deg[1] == pytest.approx(3.0, abs=0.01)


def test_ball_only_readings_give_back_path_and_face_within_their_uncertainty(seven_iron):
    rng = np.random.default_rng(8)
    n = 60
    truth = np.column_stack(
        [
            rng.normal(36, 3, n),
            rng.normal(0, 4, n),
            rng.normal(0, 3, n),
            rng.normal(-3.8, 1.5, n),
            rng.normal(27, 2.5, n),
            rng.normal(0, 5, n),
            rng.normal(0, 4, n),
        ]
    )
    launch = np.column_stack(launch_of(Delivery(*truth.T), seven_iron).columns())
    fit = infer_delivery(np.full((n, 7), np.nan), launch, seven_iron)
    for column in (1, 2):  # path, face
        error = (fit.mean[:, column] - truth[:, column]) / fit.sd[:, column]
        assert np.sqrt(np.mean(error**2)) < 1.3
        assert np.abs(fit.mean[:, column] - truth[:, column]).mean() < 1.2


def test_a_reading_that_cannot_be_is_named(seven_iron):
    good = np.array([[36.2, 4.1, 1.9, -2.4, 24.8, 0.0, 0.0]])
    launch = np.column_stack(launch_of(Delivery(*good.T), seven_iron).columns())
    assert infer_delivery(good, launch, seven_iron).doubtful() == [None]
    wrong = good.copy()
    wrong[0, 1] = -9.0
    assert infer_delivery(wrong, launch, seven_iron).doubtful() == ["path_deg"]

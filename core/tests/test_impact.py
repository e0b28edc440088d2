"""Launch from delivery and back."""

from __future__ import annotations

from dataclasses import fields

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq
from validation.inverse import GROSS, drawn
from validation.published import averages

from instavis_core.impact import (
    Delivery,
    compression_ladder,
    contact_of,
    curve_budget,
    infer_delivery,
    launch_of,
    spin_loft,
    start_budget,
)
from instavis_core.impact.inverse import DELIVERY_NAMES, LAUNCH_NAMES
from instavis_core.knowledge import vocabulary


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
    row = knowledge.vocabulary.clubs[club]
    face = strike(row, face=2.0).launch_direction[0] / 2
    path = strike(row, path=2.0).launch_direction[0] / 2
    assert low < face < high
    assert face + path == pytest.approx(1.0, abs=0.01)


@pytest.mark.parametrize("club", ["D", "5w", "4h", "3i", "7i", "PW", "LW"])
def test_face_open_to_the_path_tilts_the_spin_to_the_right(knowledge, club):
    row = knowledge.vocabulary.clubs[club]
    tilts = strike(row, face=np.array([-6.0, -3, 0, 3, 6])).spin_axis
    assert np.all(np.diff(tilts) > 0)
    assert tilts[2] == pytest.approx(0, abs=1e-9)


def test_toe_strikes_of_a_driver_draw_and_heel_strikes_fade(knowledge):
    driver = knowledge.vocabulary.clubs["D"]
    toe, heel = strike(driver, toe=15.0), strike(driver, toe=-15.0)
    assert toe.spin_axis[0] < -4 < 4 < heel.spin_axis[0]
    assert toe.launch_direction[0] > 1  # bulge starts it out, gear effect brings it back
    assert toe.ball_speed[0] < strike(driver).ball_speed[0]


def test_spin_grows_with_spin_loft_and_smash_falls_with_loft(knowledge):
    iron = knowledge.vocabulary.clubs["7i"]
    lofts = np.arange(16.0, 36.0, 4)
    launch = strike(iron, dynamic_loft=lofts)
    assert np.all(np.diff(launch.spin) > 0)
    assert np.all(np.diff(launch.ball_speed) < 0)
    smash = [strike(knowledge.vocabulary.clubs[c]).ball_speed[0] / 38.0 for c in ("D", "5i", "9i", "LW")]
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
    club = knowledge.vocabulary.clubs["5i"]
    one = strike(club, path=path, face=face, toe=toe, high=high, club_speed=speed)
    # The same blow seen in a mirror: sideways signs turn, and so does the side of the face that is toe.
    other = strike(club, path=-path, face=-face, toe=-toe, high=high, club_speed=speed)
    assert other.launch_direction[0] == pytest.approx(-one.launch_direction[0], abs=1e-9)
    assert other.spin_axis[0] == pytest.approx(-one.spin_axis[0], abs=1e-9)
    assert other.ball_speed[0] == pytest.approx(one.ball_speed[0])
    assert 0 < one.ball_speed[0] < 1.7 * speed


def test_curve_budget_adds_up_and_assigns_a_toe_hook_to_strike(knowledge):
    driver = knowledge.vocabulary.clubs["D"]
    delivery = Delivery(45.0, np.zeros(2), np.zeros(2), 0.0, 14.0, np.array([15.0, 0.0]), 0.0)
    budget = curve_budget(delivery, driver, np.array([-12.0, 3.0]))
    total = budget.face_to_path_deg + budget.strike_deg + budget.rest_deg
    assert total == pytest.approx([-12.0, 3.0])
    assert abs(budget.strike_deg[0]) > 5 * abs(budget.face_to_path_deg[0])
    assert budget.rest_deg[1] == pytest.approx(3.0, abs=0.01)


def test_ball_only_readings_recover_path_and_face(seven_iron):
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


def test_impossible_reading_is_named(seven_iron):
    good = np.array([[36.2, 4.1, 1.9, -2.4, 24.8, 0.0, 0.0]])
    launch = np.column_stack(launch_of(Delivery(*good.T), seven_iron).columns())
    assert infer_delivery(good, launch, seven_iron).doubtful() == [None]
    wrong = good.copy()
    wrong[0, 1] = -9.0
    assert infer_delivery(wrong, launch, seven_iron).doubtful() == ["path_deg"]


@pytest.mark.parametrize("club", ["5i", "7i", "PW"])
def test_the_hosel_sends_the_ball_hard_to_the_trail_side(knowledge, club):
    row = knowledge.vocabulary.clubs[club]
    shank = strike(row, toe=-30.0)
    assert contact_of(-30.0, 0.0, row).part[0] == "hosel"
    assert shank.launch_direction[0] > 15
    assert shank.ball_speed[0] < 0.9 * strike(row).ball_speed[0]
    assert contact_of(-20.0, 0.0, row).part[0] == "face"


def test_the_leading_edge_tops_and_the_top_edge_skies(seven_iron):
    topped, sky = strike(seven_iron, high=-34.0), strike(seven_iron, high=30.0)
    assert topped.launch_angle[0] < 0
    assert sky.launch_angle[0] > strike(seven_iron).launch_angle[0] + 5
    assert sky.ball_speed[0] < 0.8 * strike(seven_iron).ball_speed[0]


def test_missed_ball_is_not_launched(seven_iron):
    missed = strike(seven_iron, toe=95.0)
    assert contact_of(95.0, 0.0, seven_iron).part[0] == "missed"
    assert missed.ball_speed[0] == 0


def test_launch_is_continuous_over_the_edge_of_the_toe(seven_iron):
    edge = seven_iron.face_toe
    inside, outside = strike(seven_iron, toe=edge - 0.01), strike(seven_iron, toe=edge + 0.01)
    assert outside.launch_direction[0] == pytest.approx(inside.launch_direction[0], abs=0.2)
    assert outside.ball_speed[0] == pytest.approx(inside.ball_speed[0], rel=0.01)


@pytest.mark.parametrize("club", ["D", "5w", "4i", "7i", "PW"])
def test_tilt_follows_the_plane_of_velocity_and_face(knowledge, club):
    # Jorgensen, The Physics of Golf (1994): the spin axis is normal to the plane of club velocity and face normal.
    row = knowledge.vocabulary.clubs[club]
    for gap in (-5.0, -2.0, 2.0, 5.0):
        f, a, d = np.radians([gap, row.attack, row.usual_dynamic_loft])
        normal = [np.cos(d) * np.cos(f), np.sin(d), np.cos(d) * np.sin(f)]
        axis = np.cross([np.cos(a), np.sin(a), 0.0], normal)
        plane = np.degrees(np.arctan2(-axis[1], axis[2]))
        # The tilt is told about the ball's own direction, which rises: a little more than in the level frame.
        assert strike(row, face=gap).spin_axis[0] == pytest.approx(plane, rel=0.13)


def test_start_budget_separates_face_and_path(seven_iron):
    delivery = Delivery(36.0, np.array([4.0, 4.0]), np.array([-2.0, 6.0]), -4.0, 27.0, np.array([0.0, 12.0]), 0.0)
    budget = start_budget(delivery, seven_iron, np.array([-1.0, 5.0]))
    assert budget.face_deg + budget.path_deg + budget.strike_deg + budget.rest_deg == pytest.approx([-1.0, 5.0])
    assert budget.face_deg[0] < 0 < budget.path_deg[0]
    assert budget.strike_deg[0] == pytest.approx(0)
    assert abs(start_budget(delivery, seven_iron).rest_deg).max() < 0.05


@pytest.mark.parametrize(
    ("change", "rung"),
    [
        ({"toe": np.array([18.0])}, "off_centre_mps"),
        ({"face": np.array([14.0])}, "glancing_mps"),
        ({"dynamic_loft": np.array([36.0])}, "added_loft_mps"),
        ({"club_speed": np.array([31.0])}, "club_speed_mps"),
    ],
)
def test_lost_speed_is_assigned_to_its_cause(seven_iron, change, rung):
    usual = {"club_speed": 36.0, "path": 0.0, "face": 0.0, "attack": seven_iron.attack}
    usual |= {"dynamic_loft": seven_iron.usual_dynamic_loft, "toe": 0.0, "high": 0.0}
    delivery = Delivery(**{**usual, **change})
    ladder = compression_ladder(delivery, seven_iron, 36.0)
    losses = {f.name: float(getattr(ladder, f.name)[0]) for f in fields(ladder) if f.name != "reference_mps"}
    assert max(losses, key=lambda name: losses[name]) == rung
    assert losses[rung] > 1.0
    total = ladder.reference_mps[0] - launch_of(delivery, seven_iron).ball_speed[0]
    assert sum(losses.values()) == pytest.approx(total)


def test_elite_women_are_predicted_without_fitting(knowledge):
    known = averages("women")
    speeds, spins = [], []
    for k, name in enumerate(known.clubs):
        club = knowledge.vocabulary.clubs[name]

        def blow(loft, club=club, k=k):
            return strike(club, club_speed=known.club_speed[k], attack=known.attack[k], dynamic_loft=loft)

        loft = brentq(lambda d, blow=blow, k=k: blow(d).launch_angle[0] - known.launch[k], 2, 60)
        speeds.append(blow(loft).ball_speed[0] / known.ball_speed[k] - 1)
        spins.append(blow(loft).spin[0] / known.spin[k] - 1)
    assert np.abs(speeds).max() < 0.04
    assert np.median(np.abs(spins)) < 0.02
    assert abs(spins[known.clubs.index("D")]) < 0.02  # a slower driver spins as much as theirs do


def test_slower_driver_spins_more_without_extra_restitution(knowledge):
    driver = knowledge.vocabulary.clubs["D"]
    slow, fast = (strike(driver, club_speed=v, dynamic_loft=driver.usual_dynamic_loft) for v in (38.0, 50.0))
    assert 2400 < slow.spin[0] < 3000
    assert slow.spin[0] / 38.0 > fast.spin[0] / 50.0
    assert slow.ball_speed[0] / 38.0 < 1.495


def test_each_kind_of_wrong_reading_is_named(seven_iron):
    rng = np.random.default_rng(32)
    _, readings = drawn(rng, seven_iron, 200)
    names = DELIVERY_NAMES + LAUNCH_NAMES
    assert not any(infer_delivery(readings[:, :7], readings[:, 7:], seven_iron).doubtful())
    for field in ("path_deg", "face_deg", "ball_speed_mps", "launch_direction_deg", "spin_axis_deg"):
        wrong = readings.copy()
        wrong[:, names.index(field)] += GROSS[field]
        found = infer_delivery(wrong[:, :7], wrong[:, 7:], seven_iron).doubtful()
        assert np.mean([name == field for name in found]) > 0.9


def test_inferred_path_uncertainty_covers(seven_iron):
    truth, readings = drawn(np.random.default_rng(31), seven_iron, 400)
    fit = infer_delivery(np.full((400, 7), np.nan), readings[:, 7:], seven_iron)
    for column in (1, 2, 4):
        covered = np.abs(fit.mean[:, column] - truth[:, column]) <= 1.96 * fit.sd[:, column]
        assert covered.mean() > 0.93


def test_wet_face_reduces_wedge_spin_only():
    clubs = vocabulary().clubs

    def spin(club: str, lie: str, **delivery) -> float:
        return float(strike(clubs[club].on(lie), **delivery).spin[0])

    half_wedge = {"club_speed": 30.0, "dynamic_loft": 46.0, "attack": -4.0}
    assert spin("LW", "wet", **half_wedge) == pytest.approx(6900, abs=100)
    assert spin("LW", "wet", **half_wedge) < spin("LW", "rough", **half_wedge) < spin("LW", "dry", **half_wedge)
    assert spin("D", "wet") == spin("D", "dry")

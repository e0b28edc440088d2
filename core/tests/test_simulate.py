"""Simulated golfers: what they hide can be found again, and they are not what the engine assumes."""

from __future__ import annotations

from datetime import UTC, datetime

import numpy as np
import pytest

from instavis_core.cause.evidence import CENTRES
from instavis_core.cause.likelihood import effect_table
from instavis_core.errors import InputError
from instavis_core.golfer import Golfer
from instavis_core.shots import read_shots
from instavis_core.simulate import draw_golfer, simulate_shots

START = datetime(2026, 5, 4, 9, tzinfo=UTC)


def golfer(club, faults, seed=1, hand="right", handicap=12.0):
    return draw_golfer(np.random.default_rng(seed), faults, Golfer(hand, handicap), club)


def column(shots, name):
    return np.array([s[name] for s in shots])


def test_effects_are_drawn_around_the_table_and_differ_from_it(seven_iron, knowledge):
    table = effect_table((knowledge.causes["upper-body-first"],), Golfer("right", 12.0), seven_iron)[0]
    drawn = np.array([golfer(seven_iron, {"upper-body-first": 1.0}, s).effects["upper-body-first"] for s in range(200)])
    path = drawn[:, CENTRES.index("path_deg")] / table[CENTRES.index("path_deg")]
    assert 0.9 < np.median(path) < 1.1
    assert 0.15 < np.std(np.log(path)) < 0.4
    assert not np.isclose(path, 1.0).any()


def test_a_fault_moves_the_balls_by_this_golfers_own_effect(seven_iron):
    sim, rng = golfer(seven_iron, {"upper-body-first": 1.0}, 4), np.random.default_rng(5)
    shots = simulate_shots(sim, seven_iron, 400, rng, START)
    own = sim.effects["upper-body-first"][0] + sim.offset[0]
    assert np.median(column(shots, "path_deg")) == pytest.approx(own, abs=0.3)


def test_scatter_has_heavier_tails_than_a_normal(seven_iron):
    sim, rng = golfer(seven_iron, {}, 2), np.random.default_rng(3)
    path = column(simulate_shots(sim, seven_iron, 4000, rng, START), "path_deg")
    z = (path - path.mean()) / path.std()
    assert np.mean(z**4) > 3.3
    assert 0.02 < np.mean([("turf" in s) for s in simulate_shots(sim, seven_iron, 2000, rng, START)]) < 0.09


def test_the_movement_relieves_the_fault_and_is_learned(seven_iron):
    sim, rng = golfer(seven_iron, {"early-extension/from-inside": 1.0}, 6), np.random.default_rng(7)
    done = simulate_shots(sim, seven_iron, 150, rng, START, ["done"] * 150)
    missed = simulate_shots(sim, seven_iron, 150, rng, START, ["missed"] * 150)
    assert np.median(column(missed, "path_deg")) - np.median(column(done, "path_deg")) > 1.5
    tries = [sim.tries(rng) for _ in range(80)]
    assert tries[:20].count("done") < tries[-20:].count("done")


def test_aim_and_easier_swings_show_where_they_should(seven_iron):
    plain, aimed, easy = (
        simulate_shots(golfer(seven_iron, {}, 9), seven_iron, 60, np.random.default_rng(1), START, **options)
        for options in ({}, {"aim_deg": 5.0}, {"speed_share": 0.8})
    )
    for name in ("path_deg", "face_deg"):
        assert np.median(column(aimed, name) - column(plain, name)) == pytest.approx(5.0, abs=0.05)
    assert column(easy, "club_speed_mps").mean() == pytest.approx(
        0.8 * column(plain, "club_speed_mps").mean(), rel=0.02
    )


def test_tired_golfers_slow_down(seven_iron):
    shots = simulate_shots(golfer(seven_iron, {}, 9), seven_iron, 90, np.random.default_rng(1), START)
    speed = column(shots, "club_speed_mps")
    assert speed[60:].mean() < 0.985 * speed[:40].mean()


def test_ball_only_monitors_know_nothing_of_the_club(seven_iron):
    (shot,) = simulate_shots(golfer(seven_iron, {}), seven_iron, 1, np.random.default_rng(1), START, columns="ball")
    assert "path_deg" not in shot
    assert {"launch_direction_deg", "spin_axis_deg", "carry_m"} <= set(shot)


@pytest.mark.parametrize("club", ["D", "5w", "4h", "3i", "9i", "LW"])
@pytest.mark.parametrize("hand", ["right", "left"])
def test_every_club_gives_records_that_can_be_read(knowledge, club, hand):
    row = knowledge.clubs[club]
    shots = simulate_shots(golfer(row, {"hang-back": 1.0}, 3, hand, 28.0), row, 30, np.random.default_rng(2), START)
    assert len(read_shots(shots)) == 30
    assert {s["club"] for s in shots} == {club}


def test_unknown_faults_are_refused(seven_iron):
    with pytest.raises(InputError):
        golfer(seven_iron, {"bad-luck": 1.0})
    with pytest.raises(InputError):
        golfer(seven_iron, {"early-extension/from-above": 1.0})

"""Simulated golfers: their faults can be found, and they differ from the engine's assumptions."""

from __future__ import annotations

from datetime import UTC, datetime

import numpy as np
import pytest

from instavis_core.cause.evidence import CENTRES
from instavis_core.cause.likelihood import effect_table
from instavis_core.errors import InputError
from instavis_core.golfer import Golfer
from instavis_core.shots import read_shots
from instavis_core.simulate import PRESSURE_SERIES, Traits, draw_golfer, record_swing, simulate_shots

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


def test_fault_moves_balls_by_the_golfers_own_effect(seven_iron):
    sim, rng = golfer(seven_iron, {"upper-body-first": 1.0}, 4), np.random.default_rng(5)
    shots = simulate_shots(sim, seven_iron, 400, rng, START)
    own = sim.effects["upper-body-first"][0] + sim.offset[0]
    assert np.median(column(shots, "path_deg")) == pytest.approx(own, abs=0.3)


def test_scatter_has_heavier_tails_than_normal(seven_iron):
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


def test_aim_and_easier_swings_affect_the_right_numbers(seven_iron):
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


def test_ball_only_monitors_have_no_club_data(seven_iron):
    (shot,) = simulate_shots(golfer(seven_iron, {}), seven_iron, 1, np.random.default_rng(1), START, columns="ball")
    assert "path_deg" not in shot
    assert {"launch_direction_deg", "spin_axis_deg", "carry_m"} <= set(shot)


@pytest.mark.parametrize("club", ["D", "5w", "4h", "3i", "9i", "LW"])
@pytest.mark.parametrize("hand", ["right", "left"])
def test_every_club_gives_valid_records(knowledge, club, hand):
    row = knowledge.vocabulary.clubs[club]
    shots = simulate_shots(golfer(row, {"hang-back": 1.0}, 3, hand, 28.0), row, 30, np.random.default_rng(2), START)
    assert len(read_shots(shots)) == 30
    assert {s["club"] for s in shots} == {club}


def test_unknown_faults_are_refused(seven_iron):
    with pytest.raises(InputError):
        golfer(seven_iron, {"bad-luck": 1.0})
    with pytest.raises(InputError):
        golfer(seven_iron, {"early-extension/from-above": 1.0})


def test_recordings_show_the_fault_and_repeat_with_the_seed():
    sound = record_swing({}, np.random.default_rng(4))
    thrust = record_swing({"early-extension/from-inside": 1.0}, np.random.default_rng(4))
    again = record_swing({"early-extension/from-inside": 1.0}, np.random.default_rng(4))

    def at(recording, moment, series):
        return np.interp(recording.moments[moment], recording.time, recording.columns[series])

    for moment in ("halfway-down", "impact"):
        assert at(thrust, moment, "thrust_cm") > at(sound, moment, "thrust_cm") + 3
    assert at(thrust, "address", "thrust_cm") == pytest.approx(0, abs=1)
    assert thrust.to_csv() == again.to_csv()
    assert sound.to_csv().splitlines()[0].startswith("time_s,sway_cm,thrust_cm,lift_cm,turn_deg")


def test_pressure_is_a_share_and_follows_the_fault():
    def lead(faults):
        recording = record_swing(faults, np.random.default_rng(5), PRESSURE_SERIES)
        assert all(((c >= 0) & (c <= 1)).all() for c in recording.columns.values())
        return np.interp(recording.moments["impact"], recording.time, recording.columns["lead_share"])

    assert lead({"hang-back": 1.0}) < lead({}) - 0.2


def test_skill_fades_and_practice_retains_it(seven_iron):
    def after(days, repetitions):
        sim = golfer(seven_iron, {"hip-stall": 1.0})
        sim.skill_of_move = 0.9
        sim.rest(days, repetitions)
        return sim.skill_of_move

    assert after(0, 0) == pytest.approx(0.9)
    assert after(7, 0) > after(21, 0) > 0.2
    assert after(21, 200) > after(21, 50) > after(21, 0)


def test_traits_make_golfers_the_engine_does_not_expect(seven_iron):
    wild = Traits(effect_spread=0.8, mishit_rate=0.3, tail_freedom=3)
    sim = draw_golfer(np.random.default_rng(1), {"hip-stall": 1.0}, Golfer("right", 12.0), seven_iron, traits=wild)
    shots = simulate_shots(sim, seven_iron, 400, np.random.default_rng(2), START)
    assert np.mean(["turf" in s for s in shots]) > 0.2

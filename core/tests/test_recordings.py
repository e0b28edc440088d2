"""Recorded swings: read or refused, moments and faults found, sequence measured."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from instavis_core.errors import InputError
from instavis_core.knowledge import load_motion
from instavis_core.knowledge.loader import changed_knowledge, shipped_knowledge
from instavis_core.recordings import (
    differences,
    find_moments,
    first_movers,
    joined,
    pelvis_of_markers,
    propose,
    read_swing_csv,
    swing_of_columns,
)
from instavis_core.simulate.recording import MOTION_SERIES, PRESSURE_SERIES, record_swing

SHIPPED = shipped_knowledge()

ALL = (*MOTION_SERIES, *PRESSURE_SERIES)
PELVIS = MOTION_SERIES[:6]


def recorded(severity, seed, series=ALL, rate=100.0):
    return record_swing(severity, np.random.default_rng(seed), series, rate)


def grades(severity, seed, series=ALL):
    swing = read_swing_csv(recorded(severity, seed, series).to_csv())
    return {p.check: p for p in propose(SHIPPED, swing, find_moments(swing))}


@pytest.mark.parametrize("rate", [60.0, 100.0, 240.0])
def test_moments_are_found(rate):
    off = {"top": [], "impact": [], "address": []}
    for seed in range(30):
        truth = recorded({"hip-stall": 0.6} if seed % 2 else {}, seed, rate=rate)
        found = find_moments(read_swing_csv(truth.to_csv()))
        for moment in off:
            off[moment].append(found.at[moment] - truth.moments[moment])
        assert list(found.at.values()) == sorted(found.at.values())
    assert abs(np.mean(off["top"])) < 0.015
    assert np.std(off["top"]) < 0.025
    assert abs(np.mean(off["impact"])) < 0.02
    assert np.std(off["impact"]) < 0.025
    assert np.abs(off["address"]).max() < 0.09


def rested(truth, seconds):
    """The recording with a pause at the top."""
    top, time = truth.moments["top"], truth.time
    longer = np.arange(0, time[-1] + seconds, time[1] - time[0])
    came_from = np.where(longer < top, longer, np.maximum(top, longer - seconds))
    rng, pause = np.random.default_rng(1), (longer >= top) & (longer < top + seconds)
    columns = {name: np.interp(came_from, time, values) for name, values in truth.columns.items()}
    for name, values in columns.items():
        values[pause] += rng.normal(0, load_motion().series[name].noise, pause.sum())
    moments = {m: at + seconds * (at > top) for m, at in truth.moments.items()}
    return replace(truth, time=longer, columns=columns, moments=moments)


def waggled(truth, begins, seconds=1.5, period=0.7):
    """The recording with waggles before the swing, the first of which may have begun before it."""
    time = np.arange(0, truth.time[-1] + seconds, truth.time[1] - truth.time[0])
    at = np.maximum(time - seconds, 0.0)
    phase = (time - begins) / period
    waggles = (phase >= 0) & (phase < np.floor((seconds + 0.35 - begins) / period))
    rng, columns = np.random.default_rng(2), {}
    for name, values in truth.columns.items():
        away = {"arm_turn_deg": -12.0, "chest_turn_deg": -5.0, "turn_deg": -3.0}.get(name, 0.0)
        still = rng.normal(0, load_motion().series[name].noise, time.size) * (time < seconds)
        wave = away * 0.5 * (1 - np.cos(2 * np.pi * phase)) * waggles
        columns[name] = np.interp(at, truth.time, values) + still + wave
    return replace(truth, time=time, columns=columns, moments={m: t + seconds for m, t in truth.moments.items()})


@pytest.mark.parametrize(
    ("series", "near"), [(ALL, 0.02), (PELVIS, 0.02), (PRESSURE_SERIES, 0.06)], ids=["all", "pelvis", "pressure"]
)
def test_pause_at_the_top_moves_neither_top_nor_transition(series, near):
    off = {"top": [], "transition": []}
    for seed in range(30):
        truth = rested(recorded({}, seed, series), 0.3)
        found = find_moments(swing_of_columns({"time_s": truth.time, **truth.columns}))
        for moment in off:
            off[moment].append(found.at[moment] - truth.moments[moment])
    assert all(abs(np.mean(gaps)) < near for gaps in off.values()), off


@pytest.mark.parametrize("begins", [-0.35, -0.2, 0.0, 0.3])
def test_waggle_is_ignored(begins):
    off = []
    for seed in range(20):
        truth = waggled(recorded({}, seed, MOTION_SERIES), begins)
        found = find_moments(swing_of_columns({"time_s": truth.time, **truth.columns}))
        off.append(found.at["address"] - truth.moments["address"])
    assert abs(np.mean(off)) < 0.02
    assert np.abs(off).max() < 0.09


def test_belt_alone_has_a_larger_impact_error():
    full, belt = (find_moments(read_swing_csv(recorded({}, 1, s).to_csv())) for s in (ALL, PELVIS))
    assert belt.error["impact"] > 2 * full.error["impact"]


def test_moments_move_with_the_marks_a_coach_sets():
    swing = read_swing_csv(recorded({}, 3).to_csv())
    plain = find_moments(swing)
    moved = find_moments(swing, {"impact": plain.at["impact"] + 0.05})
    assert moved.at["impact"] == pytest.approx(plain.at["impact"] + 0.05)
    assert moved.at["halfway-down"] > plain.at["halfway-down"]
    assert moved.set_by_hand == ["impact"]
    assert moved.error["impact"] == 0.0


@pytest.mark.parametrize(
    ("fault", "check", "grade", "least"),
    [
        ("early-extension/from-inside", "seat-line", "leaves-early", 9),
        ("hip-stall", "pelvis-open-impact", "facing-ball", 8),
        ("hang-back", "pressure-shift", "never", 9),
        ("hang-back", "pelvis-lateral-impact", "short-of-lead", 7),
        ("trail-sway", "pelvis-travel-back", "sways-trail", 8),
        ("reverse-pivot", "pelvis-travel-back", "drifts-under-head", 7),
        ("restricted-hip-turn", "hip-turn-back", "arms-only", 5),
        ("backswing-thrust", "trail-hip-depth", "toward-ball", 8),
        ("trail-hip-jam", "trail-hip-depth", "jammed-deep", 7),
        ("upper-body-first", "first-mover", "shoulders-arms", 9),
        ("spin-out", "first-mover", "together", 7),
        ("standing-up", "flexion-change", "loses", 6),
        ("lateral-slide", "pelvis-lateral-impact", "past-lead-foot", 8),
        ("no-through-extension", "hips-through", "folded", 7),
        ("pelvis-set-trailward", "pelvis-offset", "trailward", 9),
        ("sitting-back", "foot-pressure", "heels", 9),
    ],
)
def test_fault_is_found_in_ten_recordings(fault, check, grade, least):
    assert sum(grades({fault: 0.9}, seed)[check].grade == grade for seed in range(10)) >= least


def test_good_swing_is_mostly_ok(knowledge):
    shown = [(p.grade == knowledge.checks[p.check].grades[0]) for seed in range(20) for p in grades({}, seed).values()]
    assert np.mean(shown) > 0.88


def test_several_swings_give_one_surer_answer():
    swings = [list(grades({"early-extension": 0.9}, seed).values()) for seed in range(9)]
    result = {p.check: p for p in joined(SHIPPED, swings)}["seat-line"]
    assert (result.grade, result.swings) == ("leaves-early", 9)
    assert result.agree >= 7
    assert result.readings[0].error < swings[0][0].readings[0].error or result.readings[0].error < 0.5


def test_only_recorded_series_are_graded():
    assert "pressure-shift" not in grades({}, 2, PELVIS)
    assert "first-mover" not in grades({}, 2, PELVIS)
    assert set(grades({}, 2, PRESSURE_SERIES)) == {"pelvis-offset", "foot-pressure", "pressure-shift", "finish-balance"}


def test_changed_window_changes_the_answer():
    swing = read_swing_csv(recorded({}, 4).to_csv())
    moments = find_moments(swing)
    moved = changed_knowledge({"window": {"seat-early": {"above": -20.0}}})
    strict = {p.check: p.grade for p in propose(moved, swing, moments)}
    assert strict["seat-line"] == "leaves-early"
    assert {p.check: p.grade for p in propose(SHIPPED, swing, moments)}["seat-line"] == "on-line"


def test_value_near_its_bound_is_close():
    swing = read_swing_csv(recorded({}, 4).to_csv())
    moments = find_moments(swing)
    value = next(p for p in propose(SHIPPED, swing, moments) if p.check == "hip-turn-back").readings[0].value
    moved = changed_knowledge({"window": {"turn-short": {"above": value + 0.3}}})
    assert next(p for p in propose(moved, swing, moments) if p.check == "hip-turn-back").close


def test_units_come_from_the_header():
    columns = {"time_s": np.arange(0, 2.5, 0.01)}
    truth = recorded({}, 5)
    time = truth.time
    plain = swing_of_columns({"time_s": time, **truth.columns})
    other = swing_of_columns(
        {
            "time_ms": time * 1000,
            "sway_mm": truth.columns["sway_cm"] * 10,
            "turn_rad": np.radians(truth.columns["turn_deg"]),
            "lead_pct": truth.columns["lead_share"] * 100,
        }
    )
    for name in ("sway_cm", "turn_deg", "lead_share"):
        assert other.columns[name] == pytest.approx(plain.columns[name], abs=1e-9)
    assert columns


def test_short_gaps_are_bridged_with_a_note():
    truth = recorded({}, 6)
    holed = {name: values.copy() for name, values in truth.columns.items()}
    holed["sway_cm"][80:86] = np.nan
    swing = swing_of_columns({"time_s": truth.time, **holed})
    complete = swing_of_columns({"time_s": truth.time, **truth.columns})
    assert np.abs(swing.columns["sway_cm"] - complete.columns["sway_cm"]).max() < 0.8
    assert swing.notes[0].values["samples"].values == {"n": 6, "name": "sway_cm"}


def test_unknown_columns_are_left_out_with_a_note():
    truth = recorded({}, 6)
    swing = swing_of_columns({"time_s": truth.time, **truth.columns, "knee_bend_deg": truth.columns["turn_deg"]})
    assert swing.notes[0].values == {"names": "knee_bend_deg"}


def bad(change):
    truth = recorded({}, 7)
    columns = {"time_s": truth.time.copy(), **{n: v.copy() for n, v in truth.columns.items()}}
    change(columns)
    return columns


def put(name, where, value):
    def change(columns):
        columns[name][where] = value

    return change


@pytest.mark.parametrize(
    ("change", "field"),
    [
        (lambda c: c.pop("time_s"), "header"),
        (put("time_s", 50, np.nan), "time_s"),
        (put("time_s", 50, 0.0), "time_s"),
        (lambda c: c.update(time_s=c["time_s"] * 1000), "time_s"),
        (lambda c: c.update(time_s=c["time_s"] / 1000), "time_s"),
        (put("sway_cm", slice(40, 70), np.nan), "sway_cm"),
        (lambda c: c.update(sway_cm=np.full(c["sway_cm"].size, np.nan)), "sway_cm"),
        (lambda c: c.update(sway_cm=c["sway_cm"] * 10), "sway_cm"),
        (put("lead_share", 10, 1.7), "lead_share"),
        (lambda c: [c.pop(n) for n in list(c) if n != "time_s"], "header"),
        (lambda c: c.update(sway_mm=c["sway_cm"]), "sway_mm"),
    ],
)
def test_bad_recordings_are_refused_by_name(change, field):
    with pytest.raises(InputError) as caught:
        swing_of_columns(bad(change))
    assert field in caught.value.field


@pytest.mark.parametrize(
    ("text", "field"),
    [
        ("", "recording"),
        ("time_s,sway_cm\n", "recording"),
        ("time_s,sway_cm\n0,1\n0.01,a\n", "line 3, sway_cm"),
        ("time_s,sway_cm\n0,1\n0.01,inf\n", "line 3, sway_cm"),
        ("time_s,sway_cm\n0,1\n0.01\n", "line 3"),
        ("time_s,sway_cm,sway_cm\n0,1,2\n", "header"),
        ("time_s,sway_cm\n0,1\n0.01," + "1" * 200_000 + "\n", "recording"),
    ],
)
def test_bad_files_name_the_line(text, field):
    with pytest.raises(InputError) as caught:
        read_swing_csv(text)
    assert caught.value.field == field


@pytest.mark.parametrize("end", ["\r", "\r\n"])
def test_lines_may_end_in_every_usual_way(end):
    text = recorded({}, 3).to_csv()
    usual, other = read_swing_csv(text), read_swing_csv(text.replace("\n", end))
    np.testing.assert_allclose(other.columns["sway_cm"], usual.columns["sway_cm"])


@pytest.mark.parametrize("series", [MOTION_SERIES, PELVIS, PRESSURE_SERIES])
def test_recording_without_a_swing_is_refused(series):
    time = np.arange(0, 3, 0.01)
    rng = np.random.default_rng(8)
    still = {n: (0.5 if n.endswith("share") else 0.0) + rng.normal(0, 0.01, time.size) for n in series}
    with pytest.raises(InputError) as caught:
        find_moments(swing_of_columns({"time_s": time, **still}))
    assert "recordings-swing" in str(caught.value)


@pytest.mark.parametrize(
    ("marks", "field"),
    [
        ({"lunch": 1.0}, "marks.lunch"),
        ({"impact": 99.0}, "marks.impact"),
        ({"impact": float("nan")}, "marks.impact"),
        ({"top": 1.5, "impact": 1.2}, "marks.impact"),
        ({"impact": 0.1}, "marks.impact"),
    ],
)
def test_marks_out_of_place_are_refused(marks, field):
    swing = read_swing_csv(recorded({}, 3).to_csv())
    with pytest.raises(InputError) as caught:
        find_moments(swing, marks)
    assert caught.value.field == field


def test_order_of_first_movers_has_the_pelvis_first_in_a_sound_swing():
    order = []
    for seed in range(10):
        swing = read_swing_csv(recorded({}, seed).to_csv())
        order.append(first_movers(swing, find_moments(swing)))
    assert all(o.grade == "pelvis" and next(iter(o.starts)) == "pelvis" for o in order)


def marker_paths(hand, turn, travel, bend, up=2, heading=0.7):
    """Pelvis markers of a made-up rigid pelvis [mm] in a laboratory whose axes point anywhere."""
    count = len(turn)
    half, deep = 120.0, 80.0
    target = np.array([np.cos(heading), np.sin(heading), 0.0])
    ball = np.array([-target[1], target[0], 0.0]) * (-1 if hand == "right" else 1)
    points = {}
    for name, along, ahead in (
        ("lead-front", 1, 1),
        ("trail-front", -1, 1),
        ("lead-back", 1, -1),
        ("trail-back", -1, -1),
    ):
        path = np.empty((count, 3))
        for k in range(count):
            across = np.cos(turn[k]) * target - np.sin(turn[k]) * ball
            facing = np.sin(turn[k]) * target + np.cos(turn[k]) * ball
            front = np.cos(bend[k]) * facing - np.sin(bend[k]) * np.array([0, 0, 1.0])
            shift = travel[k, 0] * target + travel[k, 1] * ball + travel[k, 2] * np.array([0, 0, 1.0])
            path[k] = 10 * shift + along * half * across + ahead * deep * front + [300, -200, 950]
        side = (
            ("left" if hand == "right" else "right")
            if name.startswith("lead")
            else ("right" if hand == "right" else "left")
        )
        points[f"golfer:{side[0].upper()}{'ASI' if name.endswith('front') else 'PSI'}"] = np.roll(path, up - 2, axis=1)
    return points


@pytest.mark.parametrize("hand", ["right", "left"])
@pytest.mark.parametrize("up", [1, 2])
def test_markers_recover_travel_and_turn(hand, up):
    truth = load_motion()
    grid = np.linspace(0, truth.seconds[-1], 200)
    turn, sway, thrust, lift, bend = (
        np.interp(grid, truth.seconds, truth.series[n].sound)
        for n in ("turn_deg", "sway_cm", "thrust_cm", "lift_cm", "bend_deg")
    )
    still = 40
    padded = [np.concatenate([np.zeros(still), v]) for v in (turn, sway, thrust, lift, bend)]
    points = marker_paths(hand, np.radians(padded[0]), np.stack(padded[1:4], 1), np.radians(padded[4]), up)
    columns = pelvis_of_markers(points, 120.0, hand, up)
    assert columns["turn_deg"] == pytest.approx(padded[0], abs=0.1)
    assert columns["sway_cm"] == pytest.approx(padded[1], abs=0.05)
    assert columns["thrust_cm"] == pytest.approx(padded[2], abs=0.05)
    assert columns["lift_cm"] == pytest.approx(padded[3], abs=0.05)
    assert columns["bend_deg"] == pytest.approx(padded[4], abs=0.1)


def test_markers_that_are_missing_are_named():
    points = marker_paths("right", np.zeros(50), np.zeros((50, 3)), np.zeros(50))
    points.pop("golfer:LPSI")
    with pytest.raises(InputError) as caught:
        pelvis_of_markers(points, 100.0, "right")
    assert caught.value.expected.values["corner"] == "left-back"


def test_hidden_marker_leaves_a_local_gap():
    points = marker_paths("right", np.zeros(60), np.zeros((60, 3)), np.zeros(60))
    points["golfer:RASI"][30:34] = np.nan
    columns = pelvis_of_markers(points, 100.0, "right")
    assert np.flatnonzero(np.isnan(columns["sway_cm"])).tolist() == [30, 31, 32, 33]


def test_common_error_does_not_average_out():
    one = list(grades({}, 2).values())
    many = {p.check: p for p in joined(SHIPPED, [one] * 100)}
    for proposal in one:
        for alone, together in zip(proposal.readings, many[proposal.check].readings, strict=True):
            assert together.error == pytest.approx(0.5 * alone.error)


@pytest.mark.parametrize(("rate", "taken"), [(24.0, False), (25.0, True), (29.97, True), (30.0, True)])
def test_thirty_frames_a_second_with_rounded_times_are_accepted(rate, taken):
    time = np.arange(90) / rate
    text = "time_s,sway_cm\n" + "".join(f"{t:.4f},{np.sin(t):.3f}\n" for t in time)
    if taken:
        assert read_swing_csv(text) is not None
        return
    with pytest.raises(InputError, match="samples-second"):
        read_swing_csv(text)


def read(severity, seed, series=ALL):
    swing = read_swing_csv(recorded(severity, seed, series).to_csv())
    return swing, find_moments(swing)


def test_differences_are_symmetric_and_clear_beyond_error():
    sound, thrusting = read({}, 4), read({"early-extension": 0.9}, 5)
    there, back = differences(sound, thrusting), differences(thrusting, sound)
    assert [d.difference for d in there] == pytest.approx([-d.difference for d in back])
    assert [d.range for d in there] == [pytest.approx((-d.range[1], -d.range[0])) for d in back]
    result = {(d.series, d.at): d for d in there}
    thrust = result["thrust_cm", "halfway-down"]
    assert thrust.clear
    assert thrust.difference > 2
    assert thrust.now - thrust.before == pytest.approx(thrust.difference)
    assert not result["thrust_cm", "address"].clear
    assert not any(d.clear or d.difference for d in differences(sound, sound))


def test_only_common_series_are_compared():
    assert {d.series for d in differences(read({}, 4, PELVIS[:4]), read({}, 5, PELVIS[3:]))} == {"turn_deg"}


def test_deciding_reading_comes_first(knowledge):
    """A head that goes off the ball is told by where it went, not by how high it is."""
    swings = [list(grades({"trail-sway": 1.0}, seed).values()) for seed in range(6)]
    for proposals in [*swings, joined(knowledge, swings)]:
        for proposal in proposals:
            deciding, sound = proposal.readings[0], knowledge.checks[proposal.check].grades[0]
            if proposal.grade != sound:
                assert deciding.grade == proposal.grade, proposal
    by_check = {p.check: p.readings[0] for p in joined(knowledge, swings)}
    assert str(by_check["pelvis-travel-back"].axis) == "toward the target"

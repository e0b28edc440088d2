"""Blocks: arc, center, mishits, sides, words."""

from __future__ import annotations

import re
from dataclasses import replace
from datetime import UTC, datetime

import numpy as np
import pytest
from scipy import stats

from instavis_core.arc import low_point_cm, low_point_with_turf, split_path_change, swing_direction
from instavis_core.flight import Air, fly
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.reading import own_spreads, read_ball, read_block, spreads_in
from instavis_core.reading.disagreements import disagreements
from instavis_core.reading.doubts import CARRY_SHARE, MIN_SIDE, SIDE_SHARE, doubtful_landings
from instavis_core.reading.drift import WATCHED, find_drifts, rank_p
from instavis_core.reading.ellipse import robust_ellipse
from instavis_core.reading.robust import balls_for, shrunk_spread, summarise
from instavis_core.reading.two_sided import two_sided_probability
from instavis_core.shots import block_of, read_shots
from instavis_core.simulate import draw_golfer, simulate_shots


def block(records, club, hand="right"):
    return block_of(read_shots(records), Golfer(hand, 12.0), club)


def test_hitting_down_moves_low_point_ahead_and_path_outward(seven_iron):
    assert low_point_cm(-4.0, seven_iron) > 5
    assert low_point_cm(0.0, seven_iron) == pytest.approx(0)
    assert low_point_cm(3.0, seven_iron) < -3
    # One direction of swing, two degrees more down: the path goes out by their ratio on the plane.
    inclination = np.radians(seven_iron.plane)
    shift = swing_direction(0.0, -2.0, seven_iron) - swing_direction(0.0, -4.0, seven_iron)
    assert shift == pytest.approx(2 / np.tan(inclination), rel=0.02)


def test_normal_interval_covers_as_stated():
    rng = np.random.default_rng(4)
    covered = [abs(c.centre) <= c.high - c.centre for c in (summarise(rng.normal(0, 2, 12)) for _ in range(600))]
    assert 0.92 < np.mean(covered) < 0.98


def test_one_wild_ball_hardly_moves_the_center():
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


def test_mishits_are_excluded_by_stated_rules(records, seven_iron):
    rows = [{**row, "ball_speed_mps": 1.34 * row["club_speed_mps"]} for row in records(14)]
    rows[2]["turf"] = "fat"
    rows[5]["strike_toe_mm"] = -36.0
    rows[7]["ball_speed_mps"] *= 0.8
    rows[11]["path_deg"] = 25.0
    mishits = read_block(block(rows, seven_iron)).mishits
    assert {m.index: m.rule for m in mishits} == {2: "turf", 5: "strike", 7: "ball-speed", 11: "outlying"}
    for mishit in mishits:  # what a coach reads has no raw names
        assert not re.search(r"[a-z]_(deg|mm|mps|m|cm|rpm)\b", mishit.reason), mishit.reason


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


ONE_SIDED = {
    "normal": lambda rng, n: rng.normal(0, 3, n),
    "skewed": lambda rng, n: (rng.gamma(2, 1, n) - 2) * 3 / np.sqrt(2),
    "flat": lambda rng, n: rng.uniform(-5.2, 5.2, n),
    "heavy-tailed": lambda rng, n: 1.7 * rng.standard_t(3, n),
}


@pytest.mark.parametrize("shape", ONE_SIDED)
@pytest.mark.parametrize("balls", [12, 24])
def test_one_cluster_of_any_shape_is_not_called_two_sides(shape, balls):
    rng = np.random.default_rng(6)
    result = [two_sided_probability(ONE_SIDED[shape](rng, balls), 1.5, 2.6) for _ in range(150)]
    assert np.mean(result) <= 0.10
    assert np.mean([p >= 0.5 for p in result]) <= 0.10


@pytest.mark.parametrize(("distance", "spread", "balls", "wanted"), [(8, 2.5, 12, 0.6), (12, 1.5, 24, 0.95)])
def test_two_sided_misses_are_detected(distance, spread, balls, wanted):
    rng = np.random.default_rng(6)
    sides = np.where(np.arange(balls) < balls // 2, -distance / 2, distance / 2)
    result = [two_sided_probability(sides + rng.normal(0, spread, balls), 1.5, 2.6) for _ in range(150)]
    assert np.mean([p >= 0.5 for p in result]) >= wanted
    assert two_sided_probability(np.zeros(7), 1.5, 2.6) is None


def test_thousands_of_balls_equal_their_thinned_sample():
    rng = np.random.default_rng(7)
    sides = np.where(np.arange(4000) < 2000, -6, 6)
    assert two_sided_probability(sides + rng.normal(0, 2.5, 4000), 1.5, 2.6) > 0.99
    assert two_sided_probability(rng.normal(0, 2.5, 4000), 1.5, 2.6) < 0.05


def test_unmeasured_values_are_marked_inferred(hit):
    reading = read_block(hit("upper-body-first", 3, 14, columns="ball"))
    assert reading.metrics["path_deg"].origin == "inferred"
    assert reading.metrics["launch_direction_deg"].origin == "measured"
    assert any("inferred" in note for note in reading.notes)
    measured = read_block(hit("upper-body-first", 3, 14))
    width = {
        r: r_.high - r_.low for r, r_ in (("in", reading.metrics["path_deg"]), ("me", measured.metrics["path_deg"]))
    }
    assert width["in"] > width["me"]


def test_the_coachs_turf_mark_moves_the_low_point(seven_iron):
    ahead = low_point_cm(np.array([-4.0, -4.0, -4.0]), seven_iron)
    weighed = low_point_with_turf(ahead, ("fat", None, "clean"))
    assert weighed[0] < weighed[2] < ahead[0]
    assert weighed[1] == ahead[1]
    assert low_point_with_turf(np.array([np.nan]), ("fat",))[0] < 0


def test_path_change_splits_into_attack_and_direction(seven_iron):
    only_attack = split_path_change((2.0, -4.0), (1.0, -2.0), seven_iron)
    assert only_attack.attack_deg == pytest.approx(-2 / np.tan(np.radians(seven_iron.plane)), rel=0.05)
    turned = split_path_change((2.0, -4.0), (-2.0, -4.0), seven_iron)
    assert turned.direction_deg == pytest.approx(-4.0)
    assert turned.attack_deg == pytest.approx(0.0)


@pytest.mark.parametrize("n", [8, 12, 30])
def test_ellipse_holds_nine_of_ten_next_balls(n):
    rng, inside = np.random.default_rng(n), []
    for _ in range(300):
        x, y = rng.normal(size=(n + 1, 2)).T
        y = 2 * y + x
        e = robust_ellipse(x[:n], y[:n])
        a = np.radians(e.angle_deg)
        dx, dy = x[n] - e.centre_x, y[n] - e.centre_y
        long, short = dx * np.cos(a) + dy * np.sin(a), dy * np.cos(a) - dx * np.sin(a)
        inside.append((long / e.half_long) ** 2 + (short / e.half_short) ** 2 <= 1)
    assert 0.82 < np.mean(inside) < 0.95


def test_ellipse_is_robust_and_needs_six_balls():
    x, y = np.random.default_rng(1).normal(size=(2, 20))
    plain, wild = robust_ellipse(x, y), robust_ellipse(np.append(x, 40.0), np.append(y, -40.0))
    assert wild.half_long < 2 * plain.half_long
    assert robust_ellipse(x[:5], y[:5]) is None


def test_tiring_and_warming_golfers_are_detected(seven_iron, records):
    def drifts(speed):
        rows = [{**row, "club_speed_mps": v} for row, v in zip(records(24, sd=0.5), speed, strict=True)]
        return [(d.metric, d.kind) for d in read_block(block(rows, seven_iron)).drifts]

    noise = np.random.default_rng(2).normal(0, 0.3, 24)
    assert drifts(36 + noise) == []
    assert drifts(36 - np.linspace(0, 3, 24) + noise) == [("club_speed_mps", "tiring")]
    assert drifts(36 - np.where(np.arange(24) < 8, 3.0, 0.0) + noise) == [("club_speed_mps", "warming-up")]


def test_rank_correlation_agrees_with_another_implementation():
    values = np.array([3.0, 1, 4, 1, 5, 9, 2, 6, 5, 3, 5])
    assert rank_p(values) == pytest.approx(stats.spearmanr(np.arange(values.size), values).pvalue)


def test_steady_golfers_rarely_show_drift():
    """Heavy tails, which the robust middles know nothing of; six metrics watched in each of 300 blocks."""
    rng = np.random.default_rng(41)
    tolerance = dict.fromkeys(WATCHED, 1.0)
    result = [find_drifts({m: 30 + 1.5 * rng.standard_t(4, 24) for m in WATCHED}, tolerance) for _ in range(300)]
    share = sum(bool(drifts) for drifts in result) / 300
    assert share < 1 - 0.99 ** len(WATCHED) + 3 * np.sqrt(0.06 * 0.94 / 300)


def test_drift_depends_on_the_order():
    rng = np.random.default_rng(42)
    path = np.linspace(0, 5, 24) + rng.normal(0, 0.5, 24)
    others = {m: np.full(24, np.nan) for m in WATCHED}

    def drift(values):
        return [(d.metric, round(d.size, 9)) for d in find_drifts({**others, "path_deg": values}, {"path_deg": 1.0})]

    ((_, size),) = drift(path)
    assert size == pytest.approx(10 / 3, abs=0.6)
    assert drift(path[::-1]) == [("path_deg", -size)]
    assert drift(path + 7) == [("path_deg", size)]
    assert drift(rng.permutation(path)) == []
    assert drift(path[:8]) == []


def random_launches(n: int) -> np.ndarray:
    rng = np.random.default_rng(43)
    low, high = [30, 6, -6, 1500, -15], [70, 35, 6, 9000, 15]
    return rng.uniform(low, high, (n, 5))


def test_flight_table_misses_no_doubtful_landing():
    launch = random_launches(600)
    rng = np.random.default_rng(44)
    flight = fly(*launch.T)
    carry = flight.carry_m * rng.uniform(0.5, 1.5, 600)
    landing = np.column_stack([carry, flight.side_m + rng.uniform(-60, 60, 600)])
    short = np.abs(carry - flight.carry_m) > CARRY_SHARE * np.maximum(flight.carry_m, 20)
    wide = np.abs(landing[:, 1] - flight.side_m) > np.maximum(SIDE_SHARE * carry, MIN_SIDE)
    expected = ["carry_m" if s else "side_m" if w else None for s, w in zip(short, wide, strict=True)]
    assert {"carry_m", "side_m", None} <= set(expected)
    assert doubtful_landings(launch, landing) == expected


@pytest.mark.parametrize("from_deg", [0, 90, 180, 270])
def test_windy_day_makes_no_landing_doubtful(from_deg):
    launch = random_launches(200)
    flight = fly(*launch.T, Air(wind_mps=4.0, wind_from_deg=from_deg))
    result = doubtful_landings(launch, np.column_stack([flight.carry_m, flight.side_m]))
    assert sum(t is not None for t in result) <= 2


def test_landings_without_a_launch_are_not_doubted():
    launch = random_launches(4)
    landing = np.tile([900.0, 0.0], (4, 1))
    assert doubtful_landings(launch, landing) == ["carry_m"] * 4
    for column in (0, 1, 3):
        blank = launch.copy()
        blank[:, column] = np.nan
        assert doubtful_landings(blank, landing) == [None] * 4
    assert doubtful_landings(launch, np.full((4, 2), np.nan)) == [None] * 4


@pytest.mark.parametrize(("field", "factor"), [("carry_m", 0.5), ("path_deg", None), ("side_m", None)])
def test_doubtful_value_is_named_and_left_out(hit, field, factor):
    good = hit("upper-body-first", 3, 14)
    columns = {m: v.copy() for m, v in good.columns.items()}
    columns[field][4] = columns[field][4] * factor if factor else columns[field][4] + 45.0 * (-1) ** (field == "side_m")
    reading = read_block(replace(good, columns=columns))
    assert [(d.index, d.field) for d in reading.doubtful] == [(4, field)]
    assert reading.metrics[field].n == read_block(good).metrics[field].n - 1


def test_ball_detail_has_origins_and_shares(hit):
    complete, ball_only = hit("upper-body-first", 3, 14), hit("upper-body-first", 3, 14, columns="ball")
    ball = read_ball(complete, 2)
    assert {v.origin for v in ball.values} == {"measured"}
    assert sum(ball.shares.curve.values()) == pytest.approx(complete.column("spin_axis_deg")[2], abs=1e-6)
    assert sum(ball.shares.start.values()) == pytest.approx(complete.column("launch_direction_deg")[2], abs=1e-6)
    assert len(ball.sentences) == 3
    inferred = {v.metric: v for v in read_ball(ball_only, 2).values}["path_deg"]
    assert inferred.origin == "inferred"
    assert inferred.sd > 0.3


def test_a_toe_hook_is_blamed_on_the_toe(knowledge):
    driver = knowledge.vocabulary.clubs["D"]
    usual = {"club_speed_mps": 45.0, "path_deg": 0.0, "face_deg": 0.0, "attack_deg": 0.0, "dynamic_loft_deg": 13.0}
    rows = [{"club": "D", **usual, "strike_toe_mm": t, "strike_high_mm": 0.0} for t in (18.0, 0.0, 1.0)]
    ball = read_ball(block_of(read_shots(rows), Golfer("right", 12.0), driver), 0)
    curve = next(s.values for s in ball.sentences if s.values.get("what") == "common-curve")
    assert "strike" in repr(curve["names"])


def test_a_block_of_five_thousand_balls_is_read(hit):
    few = hit("hip-stall", 4, 50)
    many = replace(
        few,
        columns={m: np.tile(v, 100) for m, v in few.columns.items()},
        **{name: getattr(few, name) * 100 for name in ("turf", "movement", "stage", "intent", "by_hand")},
    )
    assert read_block(many).metrics["path_deg"].centre == pytest.approx(
        read_block(few).metrics["path_deg"].centre, abs=0.1
    )


@pytest.mark.parametrize(("odd", "text"), [(0, False), (3, False), (4, True), (12, True)])
def test_contradicting_number_questions_its_sign(odd, text):
    result = disagreements(["path_deg"] * odd + ["carry_m"] * 2 + [None] * (18 - odd))
    assert [(t.values["count"], t.values["balls"]) for t in result] == [(odd, 20)] * text


def test_zero_spin_means_not_measured(seven_iron):
    balls = [
        {"club": "7i", "ball_speed_mps": 50.0, "launch_angle_deg": 17.0, "spin_rpm": r} for r in (0.0, 299.0, 6000.0)
    ]
    block = block_of(read_shots([{**b, "spin_axis_deg": 4.0} for b in balls]), Golfer(), seven_iron)
    assert np.isnan(block.column("spin_rpm")).tolist() == [True, True, False]
    assert np.isnan(block.column("spin_axis_deg")).tolist() == [True, True, False]


def test_wide_dozen_is_shrunk_toward_the_usual_spread(seven_iron, records):
    """The spread of a few balls is itself unsure: it is drawn toward the usual one of the level."""
    golfer = Golfer("right", 12.0)
    usual = golfer.skill.scatter["path_deg"]
    wide = block_of(read_shots(records(14, 5, 2.0 * usual, path_deg=0.0, face_deg=0.0)), golfer, seven_iron)
    own = summarise(wide.column("path_deg")).spread
    assert shrunk_spread(own, 14, usual) == pytest.approx(np.sqrt((13 * own**2 + 5 * usual**2) / 18))
    tolerance = golfer.skill.tolerance["path_deg"]
    assert balls_for(shrunk_spread(own, 14, usual), tolerance) < balls_for(own, tolerance)


def test_own_spread_sets_the_balls_needed(hit):
    """Known to be steady, a few wild balls ask for fewer more; known to be wild, a few steady ones for more."""
    balls = hit(None, 12, 8)
    usual = read_block(balls).balls_needed
    steady = read_block(balls, own={"path_deg": 0.6, "face_deg": 0.5, "strike_toe_mm": 3.0}).balls_needed
    wild = read_block(balls, own={"path_deg": 6.0, "face_deg": 6.0, "strike_toe_mm": 30.0}).balls_needed
    assert steady <= usual < wild
    spreads = own_spreads([spreads_in(hit(None, seed, 14)) for seed in range(3)])
    assert set(spreads) == {"path_deg", "face_deg", "strike_toe_mm"}
    assert own_spreads([]) == {}


def test_wedge_from_a_wet_lie_is_not_doubtful():
    """What a dry face cannot do, a wet one does: the lie decides, also for balls that were read before."""
    club, golfer = vocabulary().clubs["LW"], Golfer("right", 10.0)
    rng = np.random.default_rng(6)
    wet = club.on("wet")
    sim = draw_golfer(rng, {}, golfer, wet)
    shots = read_shots(simulate_shots(sim, wet, 12, rng, datetime(2026, 5, 4, 9, tzinfo=UTC)))
    dry_doubts, wet_doubts = (read_block(block_of(shots, golfer, on)).doubtful for on in (club, wet))
    assert len(dry_doubts) >= 6
    assert len(wet_doubts) <= 1

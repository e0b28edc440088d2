"""From landmarks to the body: signs, scale, moments, and clips that are refused with their reason."""

import functools
from dataclasses import replace

import numpy as np
import pytest
from scipy.interpolate import PchipInterpolator

from instavis_core.camera import LANDMARKS, PoseSeries, body_of, checked, last_swing, lines_of, strike_heard, view_of
from instavis_core.errors import InputError
from instavis_core.figure import pose_at, stand
from instavis_core.knowledge import load_motion
from instavis_core.knowledge.camera import load_camera, load_camera_from
from instavis_core.knowledge.loader import KnowledgeError
from instavis_core.recordings import SwingSeries, propose

VIEWS = ("face-on", "down-the-line")
STILL = 0.6
JOINTS = {"wrist": "hands", **{j: j for j in ("shoulder", "elbow", "hip", "knee", "ankle", "heel", "toe")}}


@functools.lru_cache
def filmed(view="face-on", hand="right", fps=60.0, size=(1280, 720), distance=3.6, fault="", noise=0.0):
    """The landmarks of one swing, with a fault at its full."""
    motion = load_motion()
    knots = STILL + motion.seconds
    times = np.arange(0.0, knots[-1] + 0.25, 1 / fps)
    poses = [pose_at(moment, {fault: 1.0} if fault else None) for moment in motion.moments]
    at = np.concatenate([[0.0], knots, [knots[-1] + 0.3]])
    curves = {name: PchipInterpolator(at, [p[name] for p in (poses[0], *poses, poses[-1])])(times) for name in poses[0]}
    frames = [stand({name: float(curve[i]) for name, curve in curves.items()}) for i in range(times.size)]
    rng = np.random.default_rng(1)
    points = {name: _projected([_joint(f, name) for f in frames], view, hand, size, distance) for name in LANDMARKS}
    for values in points.values():
        values[:, :2] += noise * rng.normal(size=(times.size, 2))
    moments = dict(zip(motion.moments, knots.tolist(), strict=True))
    turns = {"pelvis": curves["turn_deg"], "chest": curves["chest_turn_deg"]}
    shape = {"width": size[0], "height": size[1]}
    return PoseSeries(view=view, hand=hand, times=times, points=points, turns=turns, **shape), moments


def _joint(figure, name: str) -> np.ndarray:
    side, _, joint = name.partition("_")
    if name == "nose":
        return figure["head"] + [0, 0.1, 0]
    if joint == "ear":
        return figure["head"] + [0.07 if side == "lead" else -0.07, 0, 0]
    return figure["hands"] if joint == "wrist" else figure[f"{side}-{JOINTS[joint]}"]


def _projected(path, view, hand, size, distance) -> np.ndarray:
    """Shares of the picture: from in front, or along the line to the target; a left-hander is seen mirrored."""
    x, y, z = np.array(path).T
    across, away = (x, distance - y) if view == "face-on" else (y - 0.3, distance + x)
    side = 1 if hand == "right" else -1
    lens = 1.6 * size[1]
    right = size[0] / 2 + side * lens * across / away
    down = size[1] / 2 - lens * (z - 1.0) / away
    return np.column_stack([right / size[0], down / size[1], np.ones(len(x))])


def heard(series, true):
    return replace(series, sound_impact=true["impact"] + 0.010)


def at(body, name, moment):
    return body.swing.at(name, body.moments.at[moment])


@pytest.mark.parametrize("hand", ["right", "left"])
def test_travel_has_its_sign_for_either_hand(hand):
    front = body_of(filmed("face-on", hand, fault="lateral-slide")[0], 175)
    plain = body_of(filmed("face-on", hand)[0], 175)
    assert at(front, "sway_cm", "impact") > at(plain, "sway_cm", "impact") + 3
    along = body_of(filmed("down-the-line", hand, fault="early-extension")[0], 175)
    plain = body_of(filmed("down-the-line", hand)[0], 175)
    assert at(along, "thrust_cm", "halfway-down") > at(plain, "thrust_cm", "halfway-down") + 2.5
    assert at(along, "bend_deg", "halfway-down") < at(plain, "bend_deg", "halfway-down") - 3


@pytest.mark.parametrize("hand", ["right", "left"])
def test_head_and_hands_travel_matches_the_figure(hand):
    sound = {view: body_of(heard(*filmed(view, hand)), 175) for view in VIEWS}
    swayed = body_of(heard(*filmed("face-on", hand, fault="trail-sway")), 175)
    assert at(swayed, "head_sway_cm", "top") < at(sound["face-on"], "head_sway_cm", "top") - 5
    hung = body_of(heard(*filmed("face-on", hand, fault="hang-back")), 175)
    assert at(hung, "hands_sway_cm", "impact") < at(sound["face-on"], "hands_sway_cm", "impact") - 5
    for view in VIEWS:
        risen = body_of(heard(*filmed(view, hand, fault="standing-up")), 175)
        assert at(risen, "head_lift_cm", "impact") > at(sound[view], "head_lift_cm", "impact") + 5
    assert at(sound["down-the-line"], "hands_thrust_cm", "top") < -15
    assert at(sound["face-on"], "hands_lift_cm", "top") > 50


def test_head_movement_is_graded(knowledge):
    def grade(view, check, fault):
        body = body_of(heard(*filmed(view, fault=fault)), 175)
        return next(p.grade for p in propose(knowledge, body.swing, body.moments) if p.check == check)

    assert grade("face-on", "head-back", "trail-sway") == "off-ball"
    assert grade("face-on", "head-back", "") == "steady"
    for view in VIEWS:
        assert grade(view, "head-down", "standing-up") == "rises"
        assert grade(view, "head-down", "") == "level"


@pytest.mark.parametrize("view", VIEWS)
def test_mirrored_golfers_are_measured_alike(view):
    right, left = (body_of(filmed(view, hand)[0], 175).swing for hand in ("right", "left"))
    for name, values in right.columns.items():
        np.testing.assert_allclose(values, left.columns[name], atol=1e-9)


@pytest.mark.parametrize("view", VIEWS)
@pytest.mark.parametrize("other", [{"size": (720, 1280)}, {"size": (3840, 2160)}, {"distance": 5.5}, {"fps": 120.0}])
def test_picture_size_distance_and_rate_hardly_matter(view, other):
    usual, odd = (body_of(heard(*filmed(view, **more)), 175) for more in ({}, other))
    for name in usual.swing.columns:
        for moment in ("top", "halfway-down", "impact"):
            within = max(0.9, usual.swing.error(name, moment, np.nan))  # at the top hands are far in front of the scale
            assert at(odd, name, moment) == pytest.approx(at(usual, name, moment), abs=within), (name, moment)


def test_lengths_scale_with_height_and_are_less_certain_without():
    series, _ = filmed("face-on")
    tall, short, untold = body_of(series, 190), body_of(series, 160), body_of(series)
    gain = np.ptp(tall.swing.columns["sway_cm"]) / np.ptp(short.swing.columns["sway_cm"])
    assert 1.05 < gain < 1.25
    for stated in (lambda swing: swing.errors["sway_cm"], lambda swing: swing.errors_at["sway_cm"]["top"]):
        assert stated(untold.swing) > stated(tall.swing)
    assert any("height" in str(note) for note in untold.notes)
    assert not tall.notes
    with pytest.raises(InputError, match="height_cm"):
        body_of(series, 60)


@pytest.mark.parametrize("view", VIEWS)
@pytest.mark.parametrize("noise", [0.0, 0.002])
def test_top_and_impact_are_found(view, noise):
    series, true = filmed(view, noise=noise)
    found = body_of(series, 175).moments
    assert found.at["top"] == pytest.approx(true["top"], abs=0.04)
    assert found.at["impact"] == pytest.approx(true["impact"], abs=0.05)
    by_ear = body_of(heard(series, true), 175).moments
    assert by_ear.at["impact"] == pytest.approx(true["impact"], abs=0.001)
    assert by_ear.error["impact"] < found.error["impact"]
    assert list(by_ear.at.values()) == sorted(by_ear.at.values())


def test_sound_far_from_the_swing_is_ignored():
    series, true = filmed("face-on")
    assert body_of(replace(series, sound_impact=0.2), 175).moments.at["impact"] == pytest.approx(
        true["impact"], abs=0.05
    )


def test_checks_use_the_cameras_own_error(knowledge):
    body = body_of(heard(*filmed("down-the-line", fault="early-extension")), 175)
    seat = next(p for p in propose(knowledge, body.swing, body.moments) if p.check == "seat-line")
    assert seat.grade == "leaves-early"
    habit = load_camera()["down-the-line"]["thrust_cm"]
    assert all(r.error >= habit.error_at[r.at] for r in seat.readings)
    assert any(r.error < habit.error for r in seat.readings)  # halfway down it errs less than over all


def test_error_is_by_moment_then_series_then_usual():
    swing = SwingSeries(
        np.arange(3.0), {}, errors={"hands_sway_cm": 2.0}, errors_at={"hands_sway_cm": {"top": 3.4}, "sway_cm": {}}
    )
    assert swing.error("hands_sway_cm", "top", 1.0) == 3.4
    assert swing.error("hands_sway_cm", "finish", 1.0) == 2.0
    assert swing.error("sway_cm", "top", 1.0) == 1.0


def test_view_is_guessed_from_the_picture():
    for view in VIEWS:
        assert view_of(filmed(view)[0]) == view


def test_moved_camera_is_reported():
    series, true = filmed("face-on")
    late = series.times > true["transition"]
    points = {name: values + np.outer(late, [0.05, 0.0, 0.0]) for name, values in series.points.items()}
    assert any("moved" in str(note) for note in body_of(replace(series, points=points), 175).notes)


def shifted(series, right=0.0, down=0.0):
    return replace(series, points={name: values + [right, down, 0] for name, values in series.points.items()})


def without(series, frames):
    points = {name: values.copy() for name, values in series.points.items()}
    for values in points.values():
        values[frames] = np.nan
    return replace(series, points=points)


def thinned(series, step):
    points = {name: values[::step] for name, values in series.points.items()}
    turns = {name: values[::step] for name, values in series.turns.items()}
    return replace(series, times=series.times[::step], points=points, turns=turns)


@pytest.mark.parametrize(
    ("spoil", "reason"),
    [
        (lambda s: thinned(s, 6), "frames-second"),
        (lambda s: shifted(s, right=0.45), "whole-body-picture"),
        (lambda s: shifted(s, down=0.5), "whole-body-picture"),
        (lambda s: without(s, slice(40, 50)), "without-gap"),
        (lambda s: without(s, slice(0, 80)), "found-only-frames"),
        (lambda s: replace(s, points={n: v * [1, -1, 1] + [0, 1, 0] for n, v in s.points.items()}), "upside-down"),
        (lambda s: thinned(replace(s, times=s.times / 4), 1), "seconds"),
    ],
)
def test_unmeasurable_clip_gives_a_reason(spoil, reason):
    with pytest.raises(InputError, match=reason):
        body_of(spoil(filmed("face-on")[0]), 175)


@pytest.mark.parametrize("view", VIEWS)
def test_standing_still_is_not_a_swing(view):
    series, _ = filmed(view)
    points = {name: np.repeat(values[:1], len(values), axis=0) for name, values in series.points.items()}
    with pytest.raises(InputError, match="swing"):
        body_of(replace(series, points=points), 175)


def test_a_short_gap_is_bridged():
    series, _ = filmed("face-on")
    complete, gapped = body_of(series, 175), body_of(without(series, slice(70, 73)), 175)
    assert at(gapped, "sway_cm", "impact") == pytest.approx(at(complete, "sway_cm", "impact"), abs=0.3)
    assert not np.isnan(checked(without(series, slice(70, 73))).points["nose"]).any()


RATE = 16_000


def noise(seconds=2.0, loud=0.004):
    return np.random.default_rng(3).normal(0, loud, int(seconds * RATE))


def strike(wave, when, loud=0.5):
    start = int(when * RATE)
    ring = np.arange(int(0.03 * RATE)) / RATE
    wave[start : start + ring.size] += loud * np.exp(-ring / 0.004) * np.sin(2 * np.pi * 3000 * ring)
    return wave


@pytest.mark.parametrize("when", [0.4, 1.2345, 1.9])
def test_strike_is_found_within_two_milliseconds(when):
    assert strike_heard(strike(noise(), when), RATE) == pytest.approx(when, abs=0.003)
    assert strike_heard(strike(noise(), when), RATE, since=-0.1) == pytest.approx(when - 0.1, abs=0.003)


@pytest.mark.parametrize(
    "wave",
    [noise(), strike(strike(noise(), 0.5), 1.5), np.zeros(0), np.zeros(2 * RATE), 0.4 * np.sin(np.arange(32_000))],
)
def test_ambiguous_sounds_give_no_strike(wave):
    assert strike_heard(wave, RATE) is None


def test_bad_camera_table_names_the_error():
    good = '[[habit]]\nview = "face-on"\nquantity = "sway_cm"\ngain = 1.0\nerror = {}\nabout = {{}}\n'
    good += "error_at = {{ top = {} }}\n"
    assert load_camera_from(lambda _: good.format("1.0", "0.9"))["face-on"]["sway_cm"].gain == 1.0
    for errors in (("0.0", "0.9"), ("1.0", "0.0")):
        with pytest.raises(KnowledgeError, match="error is 0"):
            load_camera_from(lambda _, errors=errors: good.format(*errors))
    with pytest.raises(KnowledgeError, match="expected view"):
        load_camera_from(lambda _: '[[habit]]\nview = "face-on"\n')


@pytest.mark.parametrize("hand", ["right", "left"])
@pytest.mark.parametrize("view", VIEWS)
def test_lines_are_where_the_body_was(view, hand):
    series, _ = filmed(view, hand)
    lines = lines_of(series, body_of(series, 175).moments, 175)
    side = 1 if hand == "right" else -1
    first = {name: values[0, :2] for name, values in series.points.items()}
    hips = (first["lead_hip"] + first["trail_hip"]) / 2
    x, y, wide, high = lines.head
    assert np.hypot((first["nose"][0] - x) / wide, (first["nose"][1] - y) / high) < 1
    assert wide * series.width == pytest.approx(high * series.height)
    left, top, across, down = lines.hands
    assert left < first["lead_wrist"][0] < left + across
    assert top < first["lead_wrist"][1] < top + down
    if view == "face-on":
        assert lines.seat is None
        assert side * (lines.lead_hip - first["lead_hip"][0]) > 0
    else:
        assert lines.lead_hip is None
        # Behind the hips, away from the ball.
        behind = side * (hips[0] - lines.seat) * series.width / series.height / lines.centimetre
        assert behind == pytest.approx(17, abs=0.5)


@pytest.mark.parametrize("view", VIEWS)
@pytest.mark.parametrize("rest", [0.4, 1.5])
@pytest.mark.parametrize("begin", [0.0, 1.5])
def test_rehearsal_before_the_swing_is_ignored(view, rest, begin):
    """Also where the clip begins in the middle of the rehearsal."""
    rehearsal, _ = filmed(view, fault="early-extension")
    swing, moments = filmed(view)
    still = np.arange(0.0, rest, 1 / 60)
    times = np.arange(rehearsal.times.size + still.size + swing.times.size) / 60
    points = {
        name: np.concatenate([rehearsal.points[name], np.repeat(swing.points[name][:1], still.size, 0), values])
        for name, values in swing.points.items()
    }
    turns = {
        part: np.concatenate([rehearsal.turns[part], np.repeat(values[:1], still.size), values])
        for part, values in swing.turns.items()
    }
    both = replace(swing, times=times, points=points, turns=turns).during(times >= begin)
    found, alone = body_of(last_swing(both, 2.2, 1.0), 175.0), body_of(swing, 175.0)
    first = times[rehearsal.times.size + still.size]
    since = last_swing(both, 2.2, 1.0).since
    assert since + found.moments.at["impact"] == pytest.approx(first + moments["impact"], abs=0.03)
    for name, values in alone.swing.columns.items():
        there = found.swing.at(name, found.moments.at["halfway-down"])
        assert there == pytest.approx(
            float(np.interp(alone.moments.at["halfway-down"], alone.swing.time, values)), abs=0.8
        )


def test_clip_without_a_swing_is_unchanged():
    swing, _ = filmed()
    still = swing.during(swing.times < STILL)
    assert last_swing(still, 2.2, 1.0) is still

"""The jointed figure: bones keep their length, hands mirror, and every answer is visible."""

from __future__ import annotations

import numpy as np
import pytest

from instavis_core.errors import InputError
from instavis_core.figure import SHEET, Ink, View, check_picture, drill_picture, pose_at, project, stand
from instavis_core.figure.skeleton import BONES, FOREARM, HIP_HALF, SHANK, SHOULDER_HALF, SPINE, THIGH, UPPER_ARM
from instavis_core.knowledge import load_motion
from instavis_core.knowledge.figure import load_figure, load_figure_from
from instavis_core.knowledge.loader import KnowledgeError, shipped_knowledge, shipped_text

MOMENTS = load_motion().moments
CHECKS = list(shipped_knowledge().checks)
FAULTS = sorted({c.id for c in shipped_knowledge().of_kind("fault")})


def length(figure, a, b):
    return float(np.linalg.norm(figure[a] - figure[b]))


def poses():
    yield from (pose_at(moment) for moment in MOMENTS)
    yield from (pose_at(moment, {fault: 1.0}) for moment in MOMENTS for fault in FAULTS)


def test_bones_keep_their_length_in_every_pose():
    for pose in poses():
        figure = stand(pose)
        assert length(figure, "lead-hip", "trail-hip") == pytest.approx(2 * HIP_HALF, abs=1e-9)
        assert length(figure, "lead-shoulder", "trail-shoulder") == pytest.approx(2 * SHOULDER_HALF, abs=1e-9)
        assert length(figure, "pelvis", "neck") == pytest.approx(SPINE, abs=1e-9)
        for side in ("lead", "trail"):
            assert length(figure, f"{side}-hip", f"{side}-knee") == pytest.approx(THIGH, abs=0.01)
            assert length(figure, f"{side}-shoulder", f"{side}-elbow") == pytest.approx(UPPER_ARM, abs=1e-6)
            assert length(figure, f"{side}-elbow", "hands") == pytest.approx(FOREARM, abs=0.01)


@pytest.mark.parametrize("moment", MOMENTS)
def test_shanks_reach_the_feet_of_a_sound_swing(moment):
    figure = stand(pose_at(moment))
    for side in ("lead", "trail"):
        assert length(figure, f"{side}-knee", f"{side}-ankle") == pytest.approx(SHANK, abs=0.02)
        assert figure[f"{side}-toe"][2] >= 0


def test_club_touches_the_ball_only_at_address_and_impact():
    for moment in MOMENTS:
        grounded = moment in ("address", "impact")
        figure = stand(pose_at(moment), grounded)
        assert (length(figure, "club-head", "ball") < 0.12) == grounded


def test_pelvis_follows_the_pose():
    plain, moved = (
        stand(pose_at("top")),
        stand(pose_at("top", None, {"sway_cm": 5.0, "thrust_cm": -3.0, "lift_cm": 2.0})),
    )
    assert moved["pelvis"] - plain["pelvis"] == pytest.approx([0.05, -0.03, 0.02])


def test_open_pelvis_moves_the_lead_hip_away():
    shut, open_ = stand(pose_at("impact", None, {"turn_deg": -60})), stand(pose_at("impact"))
    assert open_["lead-hip"][1] < shut["lead-hip"][1]


def test_left_handers_are_the_mirror_image():
    for view in ("face-on", "down-the-line"):
        figure = stand(pose_at("halfway-down"))
        right, left = (project(figure, View(view, hand)) for hand in ("right", "left"))
        assert all(left[name] == (-x or 0.0, z) for name, (x, z) in right.items())


def test_from_the_front_a_right_hander_has_the_target_on_the_right():
    assert View("face-on").point(np.array([1.0, 0, 0]))[0] > 0 > View("face-on", "left").point(np.array([1.0, 0, 0]))[0]


@pytest.mark.parametrize("check", CHECKS)
def test_every_bad_answer_is_drawn_differently(check):
    drawn = check_picture(check)
    assert [g.grade for g in drawn.grades] == list(shipped_knowledge().checks[check].grades)
    sound = drawn.grades[0]
    assert sound.sound

    def points(grade):
        return np.array([line for stroke in grade.strokes for line in stroke.lines]).reshape(-1, 2)

    for grade in drawn.grades[1:]:
        assert not grade.sound
        assert np.abs(points(grade) - points(sound)).max() > 0.03


def test_thrust_leaves_the_seat_line():
    def gap(**adds):
        seat = stand(pose_at("address"))["seat"][1]
        return stand(pose_at("halfway-down", None, adds))["seat"][1] - seat

    assert gap(thrust_cm=13.0) > 0.08 > abs(gap())


@pytest.mark.parametrize(
    ("call", "field"),
    [
        (lambda: check_picture("seat-lines"), "check"),
        (lambda: check_picture("seat-line", "both"), "hand"),
        (lambda: check_picture("seat-line", view="above"), "view"),
        (lambda: pose_at("lunch"), "moment"),
    ],
)
def test_unknown_names_are_refused(call, field):
    with pytest.raises(InputError) as caught:
        call()
    assert caught.value.field == field


@pytest.mark.parametrize(
    ("old", "new", "place"),
    [
        ('id = "seat-line"', 'id = "seat-lines"', "seat-lines"),
        ('at = "finish"', 'at = "dinner"', "finish-balance.at"),
        ("leaves-late = { thrust_cm = 5", "leaves-late = { shove_cm = 5", "shove_cm"),
        ("leaves-late = {", "leaves-soon = {", "seat-line.grades"),
        ('id = "statue"', 'id = "statues"', "statues"),
        ('shape = "chair"', 'shape = "sofa"', "bar-stool.object.shape"),
        ("heel_cm = [0, ", "heel_cm = [", "pose.heel_cm"),
        ("[pose]", "[pose", "figure.toml"),
    ],
)
def test_bad_figure_data_is_refused_by_name(old, new, place):
    text = shipped_text("figure.toml")
    assert old in text
    with pytest.raises(KnowledgeError) as caught:
        load_figure_from(lambda name: text.replace(old, new, 1))
    assert place in str(caught.value)


def test_every_check_is_drawn():
    assert set(load_figure().checks) == set(CHECKS)


DRILLS = list(shipped_knowledge().drills)


def lines_of(picture, ink):
    return [stroke.lines for stroke in picture.strokes if stroke.ink == ink]


def test_strokes_are_on_the_sheet_in_drawing_order():
    left, bottom, right, top = SHEET
    for drill in DRILLS:
        inks = [stroke.ink for stroke in drill_picture(drill).strokes]
        assert inks[:2] == [Ink.GROUND, Ink.MARK]
        assert inks[-2:] == [Ink.BODY, Ink.BODY]
    for check in CHECKS:
        for grade in check_picture(check).grades:
            bones = next(s for s in grade.strokes if s.ink == (Ink.BODY if grade.sound else Ink.FAULT))
            assert all(left < x < right and bottom < y < top for line in bones.lines for x, y in line)


@pytest.mark.parametrize("drill", DRILLS)
def test_every_drill_is_drawn_with_its_object_for_both_hands(drill):
    right, left = drill_picture(drill), drill_picture(drill, "left")
    (bones, head), (mirrored, turned) = (lines_of(picture, Ink.BODY) for picture in (right, left))
    assert len(bones) == len(mirrored) == len(BONES)
    [prop] = lines_of(right, Ink.MARK)
    needs = shipped_knowledge().drills[drill].object != "none"
    assert bool(prop) == needs
    assert head[0][0][0] == pytest.approx(-turned[0][0][0])
    assert all(-2 < x < 2 and -0.1 < y < 2.6 for segment in [*bones, *prop] for x, y in segment)


def test_the_seat_touches_the_chair_and_the_hip_the_post():
    chair, post = drill_picture("bar-stool"), drill_picture("lamp-post")
    [back], [bones, _] = lines_of(chair, Ink.MARK), lines_of(chair, Ink.BODY)
    assert abs(min(x for bone in bones[:5] for x, _ in bone) - back[0][0][0]) < 0.16
    [upright], [bones, _] = lines_of(post, Ink.MARK), lines_of(post, Ink.BODY)
    assert abs(max(x for x, _ in bones[4]) - upright[0][0][0]) < 0.12


def test_unknown_drills_are_refused():
    with pytest.raises(InputError):
        drill_picture("own-drill")
    with pytest.raises(InputError):
        drill_picture("lamp-post", "both")


DIRECTIONS = {"sway": 0, "thrust": 1, "lift": 2}


@pytest.mark.parametrize("fault", ["", *load_motion().adds])
def test_motion_table_matches_the_figures_head_and_hands(fault):
    motion = load_motion()
    severity = {fault: 1.0} if fault else None
    figures = [stand(pose_at(m, severity), grounded=m in ("address", "impact")) for m in motion.moments]
    for name, series in motion.series.items():
        if not series.carried:
            continue
        part, direction, _ = name.split("_")
        path = np.array([100 * figure[part][DIRECTIONS[direction]] for figure in figures])
        result = series.sound + motion.adds.get(fault, {}).get(name, 0.0)
        np.testing.assert_allclose(result, path - path[0], atol=2.0, err_msg=name)

"""Landmarks as an open record: round trip, and what is refused."""

import json
from pathlib import Path

import numpy as np
import pytest

from instavis_core.camera import LANDMARKS, PoseSeries, body_of
from instavis_core.errors import InputError
from instavis_io.poses import body_record, pose_record, read_pose

MODEL = {"name": "a network", "version": "1", "sha256": "0" * 64}


@pytest.fixture
def series():
    rng = np.random.default_rng(5)
    points = {name: rng.random((40, 3)) for name in LANDMARKS}
    for values in points.values():
        values[7] = np.nan
    turns = {part: np.where(np.arange(40) == 7, np.nan, rng.normal(0, 40, 40)) for part in ("pelvis", "chest")}
    return PoseSeries(
        view="down-the-line",
        hand="left",
        width=720,
        height=1280,
        times=np.arange(40) / 50,
        points=points,
        turns=turns,
        sound_impact=0.61,
    )


def test_written_pose_is_read(series):
    record = json.loads(json.dumps(pose_record(series, MODEL), allow_nan=False))
    again = read_pose(record)
    assert record["format"] == "instavis.pose/1"
    assert (again.view, again.hand, again.width, again.height) == ("down-the-line", "left", 720, 1280)
    assert again.sound_impact == 0.61
    np.testing.assert_allclose(again.times, series.times, atol=1e-4)
    for name, values in series.points.items():
        np.testing.assert_allclose(again.points[name], values, atol=1e-3)
    for part, values in series.turns.items():
        np.testing.assert_allclose(again.turns[part], values, atol=0.06)


def test_stored_pose_is_read_and_measured():
    record = json.loads((Path(__file__).parent / "data" / "swing.pose.json").read_text())
    body = body_of(read_pose(record), 179)
    assert set(body.swing.columns) == {"thrust_cm", "lift_cm", "bend_deg", "head_lift_cm", "hands_thrust_cm"}
    assert json.dumps(body_record(body), allow_nan=False)


def test_foreign_pose_may_lack_turns_and_have_more_landmarks(series):
    record = pose_record(series, MODEL)
    del record["turns_deg"]
    record["landmarks"] = [*record["landmarks"], "lead_thumb"]
    record["points"] = [[*frame, None] for frame in record["points"]]
    assert read_pose(record).turns == {}


@pytest.mark.parametrize(
    ("field", "value", "expected"),
    [
        ("format", "instavis.pose/2", "format"),
        ("view", "from above", "view"),
        ("hand", "both", "hand"),
        ("width", 0, "width"),
        ("height", "tall", "height"),
        ("times_s", [0.0], "times_s"),
        ("times_s", [0.0] * 40, "times_s"),
        ("times_s", "soon", "times_s"),
        ("landmarks", ["nose"], "landmarks"),
        ("points", [], "points"),
        ("points", [[]] * 40, r"points\[0\]"),
        ("points", [[[1, 2]] * 19] * 40, r"points\[0\]\[0\]"),
        ("points", [[[1, 2, 1e9]] * 19] * 40, "points"),
        ("turns_deg", {"knee": []}, "turns_deg"),
        ("turns_deg", {"chest": [1.0]}, "turns_deg.chest"),
        ("sound_impact_s", 99.0, "sound_impact_s"),
        ("mood", "good", "mood"),
    ],
)
def test_invalid_pose_names_the_field(series, field, value, expected):
    with pytest.raises(InputError, match=expected):
        read_pose(pose_record(series, MODEL) | {field: value})


@pytest.mark.parametrize("raw", [None, [], "pose", 3])
def test_non_pose_is_refused(raw):
    with pytest.raises(InputError, match="format"):
        read_pose(raw)

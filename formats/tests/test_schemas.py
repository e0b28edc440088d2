"""Published schemas are current and agree with the readers."""

from __future__ import annotations

import json

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from jsonschema import Draft202012Validator

from instavis_core.errors import InputError
from instavis_core.shots import read_shot
from instavis_core.simulate.recording import MOTION_SERIES, record_swing
from instavis_io.documents import answer_of
from instavis_io.recordings import read_recording
from instavis_io.schemas import SCHEMAS, recording_schema, shot_schema

DELIVERY = {"club": "7i", "club_speed_mps": 36.2, "path_deg": 4.1, "face_deg": 1.9}
LAUNCH = {"ball_speed_mps": 47.0, "launch_angle_deg": 17.2, "spin_rpm": 6100}
BALL = {"club": "7i", **{k: v for k, v in DELIVERY.items() if k != "club"}, "movement": "done", "stage": "half"}
CORRECTION = {
    "fault": "early-extension",
    "primary": "path_deg",
    "direction": "decrease",
    "gate": {"path_deg": [-4, 3]},
    "guards": {"strike_toe_mm": [-40, 40]},
    "gate_by_stage": {"half": [-5, 3.5]},
}
PROOF = {"club": "7i", "baseline": [BALL] * 4, "correction": CORRECTION, "shots": [BALL] * 3}
INTAKE = {"start": "right", "curve": "left", "contact": ["thin"], "feels": []}

GOOD = [
    ("fly", {"delivery": DELIVERY, "trace": True}),
    ("fly", {"launch": LAUNCH, "air": {"wind_mps": 4, "wind_from_deg": 180}, "detail": True}),
    ("read", {"golfer": {"hand": "left", "handicap": 12}, "shots": [BALL | {"hand": "left"}]}),
    ("read", {}),
    ("cause", {"shots": [BALL] * 3, "intake": INTAKE, "checks": {"seat-line": "leaves-early"}}),
    ("cause", {"intake": None, "checks": None}),
    ("prove", PROOF),
]
BAD = [
    ("fly", {"delivery": DELIVERY, "launch": LAUNCH}),
    ("fly", {"delivery": DELIVERY, "wind": 3}),
    ("fly", {"delivery": DELIVERY | {"path_deg": 200}}),
    ("fly", {"delivery": DELIVERY | {"club": "8w"}}),
    ("fly", {"launch": {"ball_speed_mps": 47}}),
    ("read", {"golfer": {"hand": "both"}}),
    ("read", {"golfer": {"handicap": 200}}),
    ("read", {"shots": [{"path_deg": "left"}]}),
    ("read", {"shots": [{"own": {"nested": 1}}]}),
    ("read", {"club": "spoon"}),
    ("cause", {"checks": {"seat-line": "gone"}}),
    ("cause", {"checks": {"no-such-look": "sound"}}),
    ("cause", {"intake": {"curve": "up"}}),
    ("cause", {"intake": {"contact": ["sweet"]}}),
    ("prove", {"shots": []}),
    ("prove", PROOF | {"correction": CORRECTION | {"fault": "bad-luck"}}),
    ("prove", PROOF | {"correction": CORRECTION | {"direction": "sideways"}}),
    ("prove", PROOF | {"correction": CORRECTION | {"gate": {"path_deg": [1]}}}),
    ("prove", PROOF | {"correction": CORRECTION | {"gate_by_stage": {"swinging": [0, 1]}}}),
]


def valid(name: str, document) -> bool:
    return Draft202012Validator(SCHEMAS[name]()).is_valid(document)


@pytest.mark.parametrize("name", SCHEMAS)
def test_published_schema_matches_the_code(root, name):
    schema = SCHEMAS[name]()
    Draft202012Validator.check_schema(schema)
    assert json.loads((root / "docs" / "schemas" / f"{name}.schema.json").read_text()) == schema


@pytest.mark.parametrize(("verb", "document"), GOOD)
def test_answers_match_the_schema(verb, document):
    answer_of(verb)(document)
    assert valid(verb, document)


@pytest.mark.parametrize(("verb", "document"), BAD)
def test_refused_documents_fail_the_schema(verb, document):
    assert not valid(verb, document)
    with pytest.raises(InputError):
        answer_of(verb)(document)


NAMES = st.sampled_from(["path_deg", "spin_rpm", "turf", "club", "hand", "note", "own", "movement", "shot_id"])
VALUES = st.one_of(
    st.floats(-1e5, 1e5), st.integers(-20_000, 20_000), st.sampled_from(["thin", "7i", "left", "done", "x" * 600])
)


@settings(max_examples=200, deadline=None, derandomize=True)
@given(st.dictionaries(NAMES, VALUES, max_size=4))
def test_shot_reader_agrees_with_the_schema(raw):
    try:
        read_shot(raw)
        taken = True
    except InputError:
        taken = False
    assert Draft202012Validator(shot_schema()).is_valid(raw) == taken


@pytest.mark.parametrize(
    "wrong",
    [{"series": {}}, {"series": {"time_s": [0, "soon"]}}, {"speed": 3}, {"shot_id": "k" * 65}, {"series": [1, 2]}],
)
def test_recording_reader_agrees_with_the_schema(wrong):
    lines = record_swing({}, np.random.default_rng(3), MOTION_SERIES).to_csv().splitlines()
    header, *rows = [line.split(",") for line in lines]
    columns = {name: [float(row[i]) for row in rows] for i, name in enumerate(header)}
    raw = {"device_sequence": 1, "series": columns}
    check = Draft202012Validator(recording_schema())
    read_recording(raw)
    assert check.is_valid(raw)
    assert not check.is_valid(raw | wrong)
    with pytest.raises(InputError):
        read_recording(raw | wrong)

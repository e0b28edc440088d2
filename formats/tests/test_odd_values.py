"""Whatever replaces a value in a document, the error names the field."""

from __future__ import annotations

import copy
import json
from collections.abc import Iterator

import pytest

from instavis_core.errors import InputError
from instavis_io.documents import cause, fly, prove, read

ODD = [[], {}, [[]], {"a": []}, [{}], None, True, -1, 1e308, 10**400, "x", "", "\ud800", float("nan"), 0, "9" * 5000]
BALL = {
    "shot_id": "a",
    "at": "2026-05-04T09:12:31Z",
    "club": "7i",
    "hand": "right",
    "path_deg": 4.0,
    "face_deg": 1.0,
    "movement": "done",
    "mark_basis": "blind",
    "movement_dose": 0.5,
    "movement_dose_sd": 0.1,
    "stage": "full",
    "intent": "new",
    "turf": "clean",
    "note": "n",
    "extra": 1,
}
CORRECTION = {
    "fault": "early-extension",
    "variant": "from-inside",
    "primary": "path_deg",
    "direction": "decrease",
    "predicted": -2.0,
    "gate": {"path_deg": [-1, 3]},
    "guards": {"strike_toe_mm": [-8, 8]},
    "gate_by_stage": {"half": [-2, 4]},
}
GOLFER = {"hand": "right", "handicap": 12}
LESSON = {"golfer": GOLFER, "club": "7i", "baseline": [BALL] * 7, "shots": [BALL] * 7}
WORDS = {"start": "left", "curve": "right", "contact": ["thin"], "feels": ["flip"], "old_faults": ["hip-stall"]}
DELIVERY = {"club": "7i", "hand": "right", "club_speed_mps": 36, "path_deg": 1, "face_deg": 1, "attack_deg": -3}
CALLED = [{**BALL, "intent": intent} for intent in ("old", "new", "old", "new")]
DOCUMENTS = {
    "prove": (prove.answer, {**LESSON, "correction": CORRECTION, "changed_conditions": ["tee"]}),
    "proof set": (prove.answer, {"golfer": GOLFER, "proof_set": {"shots": CALLED, "primary": "path_deg"}}),
    "read": (read.answer, {"golfer": GOLFER, "club": "7i", "shots": [BALL] * 3}),
    "cause": (
        cause.answer,
        {"golfer": GOLFER, "shots": [BALL], "intake": WORDS, "checks": {"seat-line": "leaves-early"}},
    ),
    "fly": (
        fly.answer,
        {"delivery": {**DELIVERY, "dynamic_loft_deg": 25}, "air": {"temperature_c": 20}, "detail": True},
    ),
}


def places(value, path=()) -> Iterator[tuple]:
    if path:
        yield path
    if isinstance(value, dict):
        for key in value:
            yield from places(value[key], (*path, key))
    elif isinstance(value, list):
        for i in range(min(2, len(value))):
            yield from places(value[i], (*path, i))


@pytest.mark.parametrize("name", DOCUMENTS)
def test_odd_values_never_crash_a_document(name):
    answer, document = DOCUMENTS[name]
    named = []
    for path in places(document):
        for odd in ODD:
            changed = copy.deepcopy(document)
            part = changed
            for key in path[:-1]:
                part = part[key]
            part[path[-1]] = odd
            try:
                json.dumps(answer(changed))
            except InputError as error:
                named.append(bool(error.field))
    assert named
    assert all(named)

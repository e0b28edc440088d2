"""Recordings from files and devices: stored once, adjusted, excluded, proposing answers."""

from __future__ import annotations

import io

import c3d
import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from instavis.assessment.recordings.models import Recording
from instavis.assessment.recordings.services import MAX_IN_A_LESSON
from instavis_core.simulate.recording import MOTION_SERIES, PRESSURE_SERIES, record_swing

ALL = (*MOTION_SERIES, *PRESSURE_SERIES)


def swing(seed=1, **severity):
    return record_swing({k.replace("_", "-"): v for k, v in severity.items()}, np.random.default_rng(seed), ALL)


def as_series(recording):
    return {"time_s": recording.time.tolist(), **{n: v.tolist() for n, v in recording.columns.items()}}


@pytest.fixture
def send(api, lesson):
    def make(data: bytes, name="swing.csv", status=201):
        path = f"/api/v1/lessons/{lesson.pk}/recordings"
        response = api.client.post(path, {"file": SimpleUploadedFile(name, data)})
        assert response.status_code == status, response.content
        return response.json()

    return make


@pytest.fixture
def belt(device):
    """belt(recordings) posts as the bay's device."""

    def post(recordings, status=200):
        token = device.token
        return device.caller(
            "post", "/device/v1/recordings", {"recordings": recordings}, status, Authorization=f"Bearer {token}"
        )

    return post


def c3d_bytes(hand="right", rate=100.0):
    """A pelvis that turns and sways as a recorded swing says, as marker paths in a C3D file."""
    result = swing(3)
    turn, sway, thrust = (result.columns[n] for n in ("turn_deg", "sway_cm", "thrust_cm"))
    frames = []
    for k in range(result.time.size):
        angle = np.radians(turn[k])
        target, ball = np.array([1.0, 0, 0]), np.array([0, -1.0 if hand == "right" else 1.0, 0])
        across, facing = np.cos(angle) * target - np.sin(angle) * ball, np.sin(angle) * target + np.cos(angle) * ball
        centre = 10 * (sway[k] * target + thrust[k] * ball) + [0, 0, 950]
        side = {"L": 1, "R": -1} if hand == "right" else {"L": -1, "R": 1}
        points = [centre + side[s] * 120 * across + a * 80 * facing for s in "LR" for a in (1, -1)]
        frames.append((np.hstack([np.array(points), np.zeros((4, 2))]), np.zeros((0, 1))))
    writer = c3d.Writer(point_rate=rate, analog_rate=rate)
    writer.set_point_labels(["LASI", "LPSI", "RASI", "RPSI"])
    writer.add_frames(frames)
    out = io.BytesIO()
    writer.write(out)
    return out.getvalue()


def test_csv_is_stored_and_read(send):
    result = send(swing(1, early_extension=0.9).to_csv().encode())
    assert {p["check"]: p["grade"] for p in result["proposals"]}["seat-line"] == "leaves-early"
    assert list(result["moments"]["at"])[0] == "address"
    assert len(result["time"]) <= 300
    assert result["first"]["grade"] == "pelvis"


def test_a_c3d_is_read_through_its_pelvis_markers(send):
    result = send(c3d_bytes(), "swing.c3d")
    assert set(result["curves"]) == {"sway_cm", "thrust_cm", "lift_cm", "turn_deg", "bend_deg", "side_bend_deg"}
    truth = swing(3).columns["turn_deg"]
    assert min(result["curves"]["turn_deg"]) == pytest.approx(truth.min(), abs=2.5)


@pytest.mark.parametrize(
    ("data", "name"),
    [
        (b"", "empty.csv"),
        (b"\xff\xfe\x00\x01", "noise.csv"),
        (b"time_s,sway_cm\n0,1\n", "short.csv"),
        (b"\x02\x50" + b"\x00" * 2000, "broken.c3d"),
        (c3d_bytes()[:900], "cut.c3d"),
        (b"time_s,turn_deg\n" + b"".join(b"%.2f,0.1\n" % (i / 100) for i in range(300)), "still.csv"),
    ],
)
def test_non_swing_file_is_refused_and_not_stored(send, data, name):
    problem = send(data, name, 422)["errors"][0]
    assert problem["message"]
    assert not Recording.objects.exists()


def test_moments_are_set_by_hand_and_bad_ones_refused(send, api):
    result = send(swing(2).to_csv().encode())
    path, at = f"/v1/recordings/{result['id']}", result["moments"]["at"]
    moved = api("patch", path, {"marks": {"impact": at["impact"] + 0.03}})
    assert moved["moments"]["at"]["impact"] == pytest.approx(at["impact"] + 0.03)
    assert moved["moments"]["set_by_hand"] == ["impact"]
    problem = api("patch", path, {"marks": {"impact": 0.0}}, 422)["errors"][0]
    assert problem["field"] == "marks.impact"
    assert api("get", path)["moments"]["at"]["impact"] == pytest.approx(at["impact"] + 0.03)


def test_discarded_recording_is_restored(send, api, lesson):
    result = send(swing(2).to_csv().encode())
    path, listed = f"/v1/recordings/{result['id']}", f"/v1/lessons/{lesson.pk}/recordings"
    api("patch", path, {"dropped": True})
    assert api("get", listed) == {"recordings": [], "proposals": [], "seen": []}
    api("patch", path, {"dropped": False})
    assert len(api("get", listed)["recordings"]) == 1


def test_several_recordings_propose_one_answer_per_check(send, api, lesson):
    for seed in range(5):
        send(swing(seed, hip_stall=1.0).to_csv().encode(), f"{seed}.csv")
    result = {p["check"]: p for p in api("get", f"/v1/lessons/{lesson.pk}/recordings")["proposals"]}
    assert (result["pelvis-open-impact"]["grade"], result["pelvis-open-impact"]["swings"]) == ("facing-ball", 5)


def test_repeated_recording_is_stored_once(belt, lesson):
    batch = [
        {"device_sequence": 7, "series": as_series(swing(1))},
        {"device_sequence": 8, "series": as_series(swing(2))},
    ]
    assert belt(batch)["stored"] == 2
    again = belt(batch)
    assert (again["stored"], again["known"]) == (0, 2)
    assert lesson.recordings.count() == 2


def test_a_recording_finds_its_ball(belt, device, balls, numbered, lesson):
    records = numbered(balls(2))
    device(records)
    belt([{"device_sequence": 1, "shot_id": records[0]["shot_id"], "series": as_series(swing(1))}])
    belt([{"device_sequence": 2, "series": as_series(swing(2))}])
    assert [r.shot.number for r in lesson.recordings.order_by("id")] == [1, 2]


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"device_sequence": -1}, "device_sequence"),
        ({"device_sequence": True}, "device_sequence"),
        ({"series": {}}, "series"),
        ({"series": {"time_s": [0, 1], "sway_cm": [1]}}, "series"),
        ({"series": {"time_s": "now"}}, "series.time_s"),
        ({"colour": "red"}, "colour"),
        ({"shot_id": 12}, "shot_id"),
    ],
)
def test_bad_recording_is_refused_alone(belt, lesson, change, field):
    good = {"device_sequence": 1, "series": as_series(swing(1))}
    result = belt([{**good, "device_sequence": 2, **change}, good])
    assert result["stored"] == 1
    assert result["refused"][0]["index"] == 0
    assert result["refused"][0]["field"] == field


def test_without_a_lesson_in_the_bay_recordings_are_refused(belt, bay):
    bay.lesson = None
    bay.save()
    result = belt([{"device_sequence": 1, "series": as_series(swing(1))}])
    assert result["refused"][0]["field"] == "bay"


def test_recordings_per_lesson_are_limited(send, lesson, monkeypatch):
    monkeypatch.setattr("instavis.assessment.recordings.services.MAX_IN_A_LESSON", 1)
    assert MAX_IN_A_LESSON > 100
    send(swing(1).to_csv().encode())
    assert send(swing(2).to_csv().encode(), status=409)["errors"][0]["field"] == "recordings"


def test_answer_from_a_recording_has_its_source(send, api, lesson):
    send(swing(1, early_extension=0.9).to_csv().encode())
    body = {"grades": {"seat-line": "leaves-early"}, "source": "recording"}
    result = api("put", f"/v1/lessons/{lesson.pk}/checks", body)
    assert result["seen"][0]["source"] == "recording"
    assert (
        api("put", f"/v1/lessons/{lesson.pk}/checks", {**body, "source": "guess"}, 422)["errors"][0]["field"]
        == "source"
    )


def test_stored_swing_is_not_smoothed_again(send):
    from instavis.assessment.recordings.services import swing_of

    send(swing(1).to_csv().encode())
    stored = Recording.objects.get()
    read = swing_of(stored)
    assert read.columns["turn_deg"].tolist() == stored.columns["turn_deg"]
    assert read.time.tolist() == stored.columns["time_s"]


def test_import_notes_are_kept(api, lesson, send):
    rows = swing().to_csv().splitlines()
    header, *samples = rows
    gaps = [f"{line},7" for line in samples]
    first = gaps[40].split(",")
    gaps[40] = ",".join([first[0], "", *first[2:]])
    data = "\n".join([f"{header},mood", *gaps]).encode()
    result = send(data)
    again = api("get", f"/v1/recordings/{result['id']}")
    for notes in (result["notes"], again["notes"]):
        assert any(note.startswith("Bridged: 1 sample") for note in notes)
        assert any("mood" in note for note in notes)

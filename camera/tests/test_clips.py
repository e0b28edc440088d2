"""From a clip to landmarks and the body, with the shipped networks; clips of every unusual kind."""

import json
import shutil
import subprocess
import sys
import time
from pathlib import Path

import numpy as np
import pytest

from instavis_camera import decoder, model
from instavis_camera.__main__ import main
from instavis_camera.clip import landmarks_of, looked_at
from instavis_camera.decoder import decode
from instavis_camera.video import FASTEST, MAX_STORED_SIDE, ClipRefused, open_clip
from instavis_core.camera import body_of
from instavis_core.errors import InputError
from instavis_io.poses import read_pose


@pytest.fixture(scope="module")
def results(clips):
    """What the command says of a sample clip, run as a program of its own."""
    command = [sys.executable, "-m", "instavis_camera", str(clips / "bero-down-the-line.mp4"), "--height-cm", "179"]
    done = subprocess.run(command, capture_output=True, text=True, check=True)
    return json.loads(done.stdout)


def test_clip_gives_landmarks_and_body(results, clips):
    truth = json.loads((clips / "bero-down-the-line.json").read_text())
    assert (results["view"], results["hand"], results["format"]) == ("down-the-line", "right", "instavis.pose/1")
    assert results["model"]["sha256"] == model.LANDMARK_SHA
    body = results["body"]
    assert body["moments_s"]["impact"] == pytest.approx(truth["moments_s"]["impact"], abs=0.017)
    assert body["moments_s"]["top"] == pytest.approx(truth["moments_s"]["top"], abs=0.034)
    for name in ("thrust_cm", "lift_cm"):
        for moment in ("top", "halfway-down", "impact"):
            at = body["moments_s"][moment]
            true = np.interp(truth["moments_s"][moment], truth["times_s"], truth["body"][name])
            assert np.interp(at, body["times_s"], body[name]) == pytest.approx(
                true, abs=3 * body["errors_at"][name][moment]
            )


def test_stored_landmarks_give_the_same_body(results):
    record = {key: value for key, value in results.items() if key not in ("file", "body")}
    again = body_of(read_pose(record), 179)
    for name, values in again.swing.columns.items():
        np.testing.assert_allclose(values, results["body"][name], atol=0.15)


def test_only_the_swing_before_the_ball_is_measured():
    assert looked_at(None, 3.0) == (0.0, np.inf)
    assert looked_at(8.0, 6.5) == pytest.approx((4.3, 7.5))
    # Nothing was heard, or a strike of somebody else: long before, or after the ball was told.
    for heard in (None, 1.0, 8.4):
        assert looked_at(8.0, heard) == pytest.approx((3.0, 9.0))


def refused(path: Path, networks) -> str:
    with pytest.raises(InputError) as error:
        body_of(landmarks_of(path, "face-on", "right", networks), 175)
    return str(error.value)


def test_clip_without_a_person_is_rejected(film, networks):
    assert "films-no-golfer-found" in refused(film([np.full((240, 320, 3), 120, np.uint8)] * 40), networks)


def test_clip_with_two_people_is_rejected(film, networks, frames):
    pair = np.concatenate([frames[0][:, 320:960]] * 2, axis=1)
    assert "films-two-people" in refused(film([pair] * 3), networks)


def test_clip_with_half_a_body_is_rejected(film, networks, frames):
    assert "films-whole-body" in refused(film([f[:420] for f in frames[:60:2]]), networks)


def test_ten_frames_a_second_are_rejected(film, networks, frames):
    assert "films-least-frames-second" in refused(film(frames[::6], fps=10), networks)


def test_clip_without_a_swing_is_rejected(film, networks, frames):
    assert "swing" in refused(film(frames[:1] * 40), networks)


@pytest.mark.parametrize(
    "data", [b"", b"no video at all", b"\x89PNG\r\n\x1a\n" + bytes(200), b"\x00\x00\x00\x20ftypmp42"]
)
def test_non_video_is_rejected(tmp_path, networks, data):
    path = tmp_path / "swing.mp4"
    path.write_bytes(data)
    assert "video" in refused(path, networks)


def test_picture_named_as_a_video_is_rejected(tmp_path, networks, frames):
    from PIL import Image

    path = tmp_path / "swing.mp4"
    Image.fromarray(frames[0]).save(path, "png")
    assert refused(path, networks)


def test_three_minute_clip_is_rejected_before_decoding(film):
    path = film([np.zeros((64, 64, 3), np.uint8)] * 180, fps=1)
    with pytest.raises(InputError, match="clip-most-cut"):
        open_clip(path)


def test_frame_bomb_is_stopped(film):
    clip = open_clip(film([np.zeros((64, 64, 3), np.uint8)] * 3000, fps=240))
    with pytest.raises(InputError, match="frames"):
        list(clip.frames())


def test_large_fast_clip_is_downscaled_and_thinned(film):
    clip = open_clip(film([np.zeros((2160, 3840, 3), np.uint8)] * 12, fps=240))
    seen = list(clip.frames())
    assert seen[0].picture.shape == (720, MAX_STORED_SIDE, 3)
    assert len(seen) <= 1 + FASTEST * 12 / 240
    assert np.diff([frame.time for frame in seen]).min() > 0.9 / FASTEST


def test_truncated_file_gives_its_first_part(clips, tmp_path):
    data = (clips / "ansa-face-on.webm").read_bytes()
    path = tmp_path / "cut.webm"
    path.write_bytes(data[: len(data) // 2])
    seen = list(open_clip(path).frames())
    assert 20 < len(seen) < 147


def test_other_model_file_is_rejected(tmp_path):
    shutil.copy(model.SHIPPED / model.LANDMARK_FILE, tmp_path)
    data = bytearray((model.SHIPPED / model.DETECTOR_FILE).read_bytes())
    data[1000] ^= 1
    (tmp_path / model.DETECTOR_FILE).write_bytes(data)
    with pytest.raises(model.ModelError, match="another file"):
        model.load(tmp_path)
    with pytest.raises(model.ModelError, match="cannot be read"):
        model.load(tmp_path / "nowhere")


def test_camera_command_answers_every_file(tmp_path, capsys):
    path = tmp_path / "letter.mov"
    path.write_text("dear coach")
    assert main([str(path), str(tmp_path / "missing.mp4")]) == 2
    first, second = (json.loads(line) for line in capsys.readouterr().out.splitlines())
    assert first["file"] == "letter.mov"
    assert first["error"]["field"] == second["error"]["field"] == "clip"


def test_oversized_picture_is_rejected_before_decoding(film):
    path = film([np.zeros((8192, 8192, 3), np.uint8)] * 2, fps=30)
    begun = time.monotonic()
    with pytest.raises(ClipRefused) as caught:
        decode(path)
    assert caught.value.code == "size"
    assert time.monotonic() - begun < 5


def test_playlist_opens_no_file(clips, tmp_path):
    path = tmp_path / "swing.mp4"
    path.write_text(f"ffconcat version 1.0\nfile '{clips / 'ansa-face-on.webm'}'\n")
    with pytest.raises(ClipRefused) as caught:
        decode(path)
    assert caught.value.code == "unreadable"


def test_slow_decoder_is_stopped(clips, monkeypatch):
    monkeypatch.setattr(decoder, "MAX_SECONDS", 0.0)
    with pytest.raises(ClipRefused) as caught:
        list(decode(clips / "ansa-face-on.webm").frames())
    assert caught.value.code == "too-costly"


def test_killed_decoder_rejects_the_film(clips):
    decoded = decode(clips / "ansa-face-on.webm")
    frames = decoded.frames()
    next(frames)
    decoded._pipe._child.kill()
    with pytest.raises(ClipRefused):
        list(frames)


def test_child_process_gives_the_same_frames(clips):
    alone, isolated = open_clip(clips / "bero-face-on.mp4"), decode(clips / "bero-face-on.mp4")
    assert (alone.width, alone.height, alone.sound_from) == (isolated.width, isolated.height, isolated.sound_from)
    assert np.array_equal(alone.sound, isolated.sound)
    for here, there in zip(alone.frames(), isolated.frames(), strict=True):
        assert here.time == there.time
        assert np.array_equal(here.picture, there.picture)


def test_unused_decoder_is_stopped(clips):
    decoded = decode(clips / "ansa-face-on.webm")
    frames = decoded.frames()
    next(frames)
    frames.close()
    assert decoded._pipe._child.poll() is not None

"""A sample clip as a browser's camera: a golfer stands, swings once, and waits, in a loop."""

from __future__ import annotations

import io
import wave
from pathlib import Path

import av
from PIL import Image

RATE = 30  # frames a second that the browser plays a file of pictures with
STILL_BEFORE, STILL_AFTER = 2.0, 1.0  # s
SIZE = (320, 180)  # a browser that shares two cores with everything else must film it in time


def flags(clip: Path, folder: Path) -> list[str]:
    """What a browser is started with, so that its camera shows the clip and its microphone hears nothing."""
    pictures, silence = folder / "camera.mjpeg", folder / "silence.wav"
    if not pictures.exists():
        pictures.write_bytes(b"".join(_frames(clip)))
        with wave.open(str(silence), "wb") as sound:
            sound.setnchannels(1)
            sound.setsampwidth(2)
            sound.setframerate(16_000)
            sound.writeframes(bytes(2 * 16_000))
    return [
        "--use-fake-ui-for-media-stream",
        "--use-fake-device-for-media-stream",
        f"--use-file-for-fake-video-capture={pictures}",
        f"--use-file-for-fake-audio-capture={silence}",
    ]


def _frames(clip: Path):
    with av.open(str(clip)) as file:
        rate = float(file.streams.video[0].average_rate or 60)
        step = max(1, round(rate / RATE))
        swing = [f.to_image().resize(SIZE) for i, f in enumerate(file.decode(video=0)) if i % step == 0]
    yield from [_jpeg(swing[0])] * round(STILL_BEFORE * RATE)
    yield from (_jpeg(picture) for picture in swing)
    yield from [_jpeg(swing[-1])] * round(STILL_AFTER * RATE)


def _jpeg(picture: Image.Image) -> bytes:
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=85)
    return out.getvalue()

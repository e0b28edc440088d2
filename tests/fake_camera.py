"""A sample clip as the camera of a browser: somebody stands there, swings once, and waits, over and over."""

from __future__ import annotations

import io
import wave
from pathlib import Path

import av
from PIL import Image, ImageDraw

RATE = 30  # frames a second that the browser plays a file of pictures with
STILL_BEFORE, STILL_AFTER = 4.0, 3.0  # s
SIZE = (640, 360)
LAMP = (0, 0, 40, 40)
"""Lit while the ball should be told: just after the swing."""


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


LIT = """() => {
  const video = document.querySelector("video");
  if (!video?.videoWidth) return false;
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [64, 36];
  const drawing = canvas.getContext("2d");
  drawing.drawImage(video, 0, 0, 64, 36);
  const [red, green, blue] = drawing.getImageData(1, 1, 1, 1).data;
  return red > 200 && green < 90 && blue > 200;
}"""
"""Whether the lamp is lit in the page's picture."""


def _frames(clip: Path):
    with av.open(str(clip)) as file:
        rate = float(file.streams.video[0].average_rate or 60)
        step = max(1, round(rate / RATE))
        swing = [f.to_image().resize(SIZE) for i, f in enumerate(file.decode(video=0)) if i % step == 0]
    yield from [_jpeg(swing[0])] * round(STILL_BEFORE * RATE)
    yield from (_jpeg(picture) for picture in swing)
    last = swing[-1].copy()
    ImageDraw.Draw(last).rectangle(LAMP, fill=(255, 0, 255))
    lit, dark = round(0.8 * RATE), round((STILL_AFTER - 0.8) * RATE)
    yield from [_jpeg(last)] * lit
    yield from [_jpeg(swing[-1])] * dark


def _jpeg(picture: Image.Image) -> bytes:
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=85)
    return out.getvalue()

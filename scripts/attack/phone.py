"""A phone that films a bay: a real browser whose camera plays made-up swings in turn."""

from __future__ import annotations

import contextlib
import wave
from collections.abc import Iterator, Sequence
from pathlib import Path

import av
import numpy as np
from bench.painted import CHROMIUM
from playwright.sync_api import Page, sync_playwright

SIZE, RATE = (640, 360), 60
STILL_BEFORE, STILL_AFTER = 1.2, 2.2  # s around each swing: a second swing before a ball would be measured too
MARK = 12  # pixels of the corner whose brightness marks the swing that was just struck
DARK, BRIGHTEST = 16, 235
SHOWN = 0.25  # s for which it is marked
PATIENCE_MS = 120_000

# Waits for the first frame whose corner has a given brightness, in the camera's picture.
STRUCK = """
([level, mark]) => new Promise((done) => {
  const video = document.querySelector('video');
  const canvas = new OffscreenCanvas(1, 1);
  const brush = canvas.getContext('2d', { willReadFrequently: true });
  const look = () => {
    brush.drawImage(video, mark / 4, mark / 4, mark / 2, mark / 2, 0, 0, 1, 1);
    if (Math.abs(brush.getImageData(0, 0, 1, 1).data[0] - level) < 16) done();
    else video.requestVideoFrameCallback(look);
  };
  look();
})
"""


class Phone:
    """A browser on the camera page.

    ``swings`` are the clips that its camera plays in a loop.
    """

    def __init__(self, page: Page, swings: Sequence[str]) -> None:
        self._page, self._swings, self._sent = page, list(swings), 0

    def pair(self, code: str) -> None:
        """Enter a code, and wait until the phone films."""
        self._page.goto("/camera")
        self._page.get_by_label("Code").fill(code)
        self._page.keyboard.press("Enter")
        self._page.get_by_role("heading", name="ball by ball").wait_for()
        self._page.wait_for_timeout(1000)
        self._sent = 0

    def unpair(self) -> None:
        """Remove the phone from its bay."""
        self._page.get_by_role("button", name="Use another code").click()

    def wait_for(self, swing: str) -> None:
        """Wait until the golfer in front of the camera has swung."""
        level = _level(self._swings.index(swing), len(self._swings))
        self._page.evaluate(STRUCK, [level, MARK])

    def sent(self) -> None:
        """Wait until the film of one more ball is sent."""
        self._sent += 1
        self._page.get_by_text(f"{self._sent} films sent, 0 waiting.").wait_for(timeout=PATIENCE_MS)


@contextlib.contextmanager
def filming(address: str, clips: dict[str, tuple[Path, float]], folder: Path) -> Iterator[Phone]:
    """Start a phone whose camera plays clips; each has the time [s] at which its ball is reported."""
    pictures, silence = folder / "camera.y4m", folder / "silence.wav"
    _write(pictures, clips)
    with wave.open(str(silence), "wb") as sound:
        sound.setnchannels(1)
        sound.setsampwidth(2)
        sound.setframerate(16_000)
        sound.writeframes(bytes(2 * 16_000))
    flags = [
        "--use-fake-ui-for-media-stream",
        f"--use-fake-device-for-media-stream=fps={RATE}",
        f"--use-file-for-fake-video-capture={pictures}",
        f"--use-file-for-fake-audio-capture={silence}",
    ]
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=flags)
        context = browser.new_context(viewport={"width": 844, "height": 390}, base_url=address)
        yield Phone(context.new_page(), list(clips))
        browser.close()
    pictures.unlink()


def _level(place: int, count: int) -> int:
    """Return the brightness that marks a swing, as the browser shows it."""
    return round((_shown_level(place, count) - DARK) * 255 / (BRIGHTEST - DARK))


def _shown_level(place: int, count: int) -> int:
    return DARK + round((place + 1) * (BRIGHTEST - DARK) / count)


def _write(out: Path, clips: dict[str, tuple[Path, float]]) -> None:
    """Write uncompressed pictures, because a browser on two cores has no time to decompress them."""
    with out.open("wb") as file:
        file.write(f"YUV4MPEG2 W{SIZE[0]} H{SIZE[1]} F{RATE}:1 Ip A1:1 C420jpeg\n".encode())
        for place, (clip, reported_at) in enumerate(clips.values()):
            swing = _frames(clip)
            struck = round(reported_at * RATE)
            frames = [swing[0]] * round(STILL_BEFORE * RATE) + swing + [swing[-1]] * round(STILL_AFTER * RATE)
            struck += round(STILL_BEFORE * RATE)
            for number, frame in enumerate(frames):
                picture = frame.copy()
                result = struck <= number < struck + SHOWN * RATE
                picture[:MARK, :MARK] = _shown_level(place, len(clips)) if result else DARK
                file.write(b"FRAME\n" + picture.tobytes())


def _frames(clip: Path) -> list[np.ndarray]:
    """Yield the pictures of a clip, brightness first, colors below it: (height × 3/2, width)."""
    with av.open(str(clip)) as file:
        return [f.reformat(*SIZE, format="yuv420p").to_ndarray() for f in file.decode(video=0)]

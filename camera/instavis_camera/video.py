"""Pictures and sound of a clip, frame by frame, within limits for any file."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import av
import numpy as np

from instavis_core.errors import InputError
from instavis_core.message import Message

LONGEST, MAX_FRAMES = 20.0, 2_400  # s, and frames that are decoded at all
LARGEST = 8_192  # px of a side
MAX_PIXELS = 9_000_000  # largest picture: 4K
MAX_DECODED = 12_000_000_000  # pixels of all pictures: 20 s of 4K at 60 frames per second, plus a margin
FORMATS = "mov,mp4,m4a,3gp,3g2,mj2,matroska,webm"
"""Containers that may be opened; others, such as playlists, could make the decoder open files that were not uploaded.
"""
MAX_STORED_SIDE = 1_280  # px: larger pictures are downscaled; less is enough to find a person
FASTEST = 62.0  # frames per second used; of more, every second, third … is skipped
SOUND_RATE = 16_000  # samples a second


_VIDEO = Message("films-video-file-mp4-mov-webm")
_EXPECTED = {
    "unreadable": _VIDEO,
    "no-picture": _VIDEO,
    "size": Message("films-64-pixels-side-4k-most", most=LARGEST),
    "length": Message("films-clip-most-cut-around-swing", longest=LONGEST),
    "frames": Message("common-most-frames", most=MAX_FRAMES),
    "pixels": Message("films-shorter-clip-fewer-pixels"),
    "too-costly": Message("films-film-can-decoded-minute"),
}
_FOUND = {
    "unreadable": Message("films-unreadable"),
    "no-picture": Message("films-picture-track"),
    "too-costly": Message("films-too-costly-decode"),
}


class ClipRefused(InputError):
    """A rejected clip; ``code`` is the reason and ``found`` what it has, as plain data."""

    def __init__(self, code: str, found: str | float | None = None) -> None:
        self.code, self.found = code, found
        super().__init__("clip", _FOUND.get(code, found), _EXPECTED[code])


@dataclass(frozen=True)
class Frame:
    """``time`` [s] since the clip's first frame, ``picture`` (height, width, 3) of red, green, blue."""

    time: float
    picture: np.ndarray


@dataclass(frozen=True)
class Clip:
    """A clip: ``sound`` (n,) from −1 to 1 at `SOUND_RATE`, starting at ``sound_from`` [s] on the frames' clock; empty
    without sound.
    """

    path: Path
    width: int
    height: int
    frames_per_second: float
    sound: np.ndarray
    sound_from: float

    def frames(self) -> Iterator[Frame]:
        """Yield the pictures, upright, at least 1/`FASTEST` apart."""
        with _opened(self.path) as file:
            file.streams.video[0].codec_context.thread_count = 1  # a film uses one core: others wait for balls
            first, last, decoded = None, -1.0, 0
            for count, frame in enumerate(file.decode(video=0)):
                decoded += frame.width * frame.height
                if count >= MAX_FRAMES:
                    raise ClipRefused("frames", count)
                if decoded > MAX_DECODED or frame.width * frame.height > MAX_PIXELS:
                    raise ClipRefused("pixels", f"{frame.width} × {frame.height}")
                at = float(frame.time or 0.0)
                first = at if first is None else first
                if at - first > LONGEST:
                    raise ClipRefused("length", round(at - first, 1))
                if at - first <= last or at - first - last < 0.9 / FASTEST:
                    continue
                last = at - first
                yield Frame(last, _upright(frame, *self._stored()))

    def _stored(self) -> tuple[int, int]:
        return self.width, self.height


def open_clip(path: Path) -> Clip:
    """Read a file's metadata and sound.

    Raises
    ------
    ClipRefused
        When it is not a video, or is too long or too large.
    """
    with _opened(path) as file:
        if not file.streams.video or file.format.name.endswith("_pipe"):
            raise ClipRefused("no-picture")
        stream = file.streams.video[0]
        width, height = stream.codec_context.width, stream.codec_context.height
        if not min(width, height) >= 64 or max(width, height) > LARGEST or width * height > MAX_PIXELS:
            raise ClipRefused("size", f"{width} × {height}")
        if width * height * stream.frames > MAX_DECODED:
            raise ClipRefused("pixels", f"{width} × {height} × {stream.frames}")
        length = float(file.duration or 0) / av.time_base
        if length > LONGEST:
            raise ClipRefused("length", round(length, 1))
        rate = float(stream.average_rate or stream.guessed_rate or 0)
        start = float((stream.start_time or 0) * (stream.time_base or 0))
        sound, since = _sound(file) if file.streams.audio else (np.zeros(0, np.float32), start)
    share = min(1.0, MAX_STORED_SIDE / max(width, height))
    width, height = (2 * max(1, round(side * share / 2)) for side in (width, height))
    return Clip(path, width, height, rate, sound, since - start)


def _opened(path: Path) -> av.container.InputContainer:
    try:
        only = {"format_whitelist": FORMATS, "protocol_whitelist": "file"}
        return av.open(str(path), metadata_errors="ignore", options=only)
    except (av.FFmpegError, OSError, ValueError) as error:
        raise ClipRefused("unreadable") from error


def _sound(file: av.container.InputContainer) -> tuple[np.ndarray, float]:
    resampler = av.AudioResampler("flt", "mono", SOUND_RATE)
    parts: list[np.ndarray] = []
    since = 0.0
    try:
        for frame in file.decode(audio=0):
            if not parts:
                since = float(frame.time or 0.0)
            parts += [part.to_ndarray()[0] for part in resampler.resample(frame)]
            if sum(part.size for part in parts) > LONGEST * SOUND_RATE:
                break
    except av.FFmpegError:  # sound until here is enough, or there is none
        pass
    return (np.concatenate(parts) if parts else np.zeros(0, np.float32)), since


def _upright(frame: av.VideoFrame, width: int, height: int) -> np.ndarray:
    """Rotate the picture as the phone was held."""
    turned = round(getattr(frame, "rotation", 0) / 90) % 4
    picture = frame.reformat(width, height, format="rgb24").to_ndarray()
    return np.rot90(picture, turned)

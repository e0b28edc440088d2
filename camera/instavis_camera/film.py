"""The stored pictures of a swing: small, one JPEG each, so that every one can be shown."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

from instavis_camera.decoder import decode
from instavis_core.camera import PoseSeries
from instavis_core.recordings import Moments

LONG_SIDE = 720  # px of the longer side
QUALITY = 4  # quantiser of the pictures, 2 (best) to 31
AROUND = 0.35  # s before address and after the finish


@dataclass(frozen=True, kw_only=True)
class Film:
    """A stored film: ``times`` (k,) [s] on the clock of the landmarks, and the picture of each as a JPEG."""

    width: int
    height: int
    times: list[float]
    pictures: list[bytes]


def film_of(path: Path, series: PoseSeries, moments: Moments) -> Film:
    """Extract the pictures of a swing from its clip.

    Parameters
    ----------
    path : Path
        The clip.
    series : PoseSeries
        What was found in it, with when its clock begins.
    moments : Moments
        Of the swing: what is well before address and after the finish stays out.
    """
    begin, end = moments.at["address"] - AROUND, moments.at["finish"] + AROUND
    times: list[float] = []
    pictures: list[bytes] = []
    encoder: av.VideoCodecContext | None = None
    for frame in decode(path).frames():
        at = frame.time - series.since
        if at > end:
            break
        if at < begin or at < 0:
            continue
        if encoder is None:
            encoder = _encoder(*frame.picture.shape[:2])
        times.append(round(at, 4))
        pictures.append(_encoded(encoder, frame.picture, len(pictures)))
    width, height = (encoder.width, encoder.height) if encoder else (0, 0)
    return Film(width=width, height=height, times=times, pictures=pictures)


def _encoder(height: int, width: int) -> av.VideoCodecContext:
    share = min(1.0, LONG_SIDE / max(width, height))
    encoder = av.CodecContext.create("mjpeg", "w")
    encoder.width, encoder.height = (2 * max(1, round(side * share / 2)) for side in (width, height))
    encoder.pix_fmt, encoder.time_base = "yuvj420p", Fraction(1, 1000)
    encoder.qmin = encoder.qmax = QUALITY
    return encoder


def _encoded(encoder: av.VideoCodecContext, picture: np.ndarray, count: int) -> bytes:
    frame = av.VideoFrame.from_ndarray(np.ascontiguousarray(picture), format="rgb24")
    small = frame.reformat(encoder.width, encoder.height, format="yuvj420p")
    small.pts = count
    return b"".join(bytes(packet) for packet in encoder.encode(small))

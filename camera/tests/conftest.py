"""Clips for the camera's tests: the samples, and unusual ones made here."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from instavis_camera.model import SHIPPED, load

CLIPS = Path(__file__).parents[2] / "standins" / "instavis_standins" / "clips"


@pytest.fixture(scope="session")
def clips() -> Path:
    return CLIPS


@pytest.fixture(scope="session")
def networks():
    return load(SHIPPED)


@pytest.fixture(scope="session")
def frames():
    """The frames of a sample clip, from in front, as pictures (height, width, 3)."""
    with av.open(str(CLIPS / "ansa-face-on.webm")) as file:
        return [frame.to_ndarray(format="rgb24") for frame in file.decode(video=0)]


@pytest.fixture
def film(tmp_path):
    """film(pictures, fps) writes a clip without sound and gives its path."""

    def write(pictures, fps=30, name="odd.mp4", codec="libx264") -> Path:
        path = tmp_path / name
        with av.open(str(path), "w") as file:
            stream = file.add_stream(codec, rate=Fraction(fps), options={"preset": "ultrafast"})
            stream.height, stream.width = pictures[0].shape[:2]
            stream.pix_fmt = "yuv420p"
            for picture in pictures:
                file.mux(stream.encode(av.VideoFrame.from_ndarray(np.ascontiguousarray(picture), format="rgb24")))
            file.mux(stream.encode())
        return path

    return write

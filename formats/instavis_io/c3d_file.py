"""Read marker paths from a C3D file with the c3d library."""

from __future__ import annotations

import io

import c3d
import numpy as np

from instavis_core.errors import InputError
from instavis_core.message import Message

MAX_FRAMES = 20_000
KEY_BYTE = 0x50  # the second byte of every C3D file
TO_MM = {"mm": 1.0, "cm": 10.0, "m": 1000.0}


def is_c3d(data: bytes) -> bool:
    """Return True if the bytes look like a C3D file."""
    return len(data) > 512 and data[1] == KEY_BYTE and data[0] < 0x20


def read_c3d(data: bytes) -> tuple[dict[str, np.ndarray], float, int]:
    """Return marker paths (k, 3) [mm] by name with NaN where not visible, frames per second, and the vertical axis.

    Raises
    ------
    InputError
        When the file cannot be read, is too long, or holds no markers.
    """
    try:
        reader = c3d.Reader(io.BytesIO(data))
        if reader.frame_count > MAX_FRAMES:
            raise InputError("file", reader.frame_count, Message("common-most-frames", most=MAX_FRAMES))
        frames = np.array([points[:, :4] for _, points, _ in reader.read_frames(copy=True)], float)
        labels = [label.strip() for label in reader.point_labels]
        rate = float(reader.point_rate)
        unit = _text(reader, "POINT:UNITS", "mm").lower()
        up = _text(reader, "POINT:Y_SCREEN", "+Z").upper()
    except InputError:
        raise
    except Exception as error:  # the library raises any error of its parser
        raise InputError("file", type(error).__name__, Message("files-readable-c3d-file")) from error
    if frames.ndim != 3 or not labels or not len(frames) or rate <= 0:
        raise InputError("file", Message("found-no-markers"), Message("files-c3d-file-marker-paths"))
    paths = np.where(frames[:, :, 3:4] < 0, np.nan, frames[:, :, :3]) * TO_MM.get(unit, 1.0)
    return {name: paths[:, k] for k, name in enumerate(labels[: paths.shape[1]])}, rate, "XYZ".find(up[-1:]) % 3


def _text(reader: c3d.Reader, name: str, otherwise: str) -> str:
    parameter = reader.get(name)
    return (parameter.string_value.strip() or otherwise) if parameter is not None else otherwise

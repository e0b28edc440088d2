"""Recorded swings from a file or a device."""

from __future__ import annotations

from typing import Any

import numpy as np

from instavis_core.errors import InputError
from instavis_core.message import Message
from instavis_core.recordings import SwingSeries, find_moments, pelvis_of_markers, read_swing_csv, swing_of_columns
from instavis_core.shots import LONGEST_TEXT
from instavis_io.c3d_file import is_c3d, read_c3d

FIELDS = ("device_sequence", "shot_id", "at", "series")


def read_swing_file(data: bytes, name: str, hand: str) -> SwingSeries:
    """Read the swing in a CSV or C3D file.

    Parameters
    ----------
    data : bytes
    name : str
        Of the file, for a refusal.
    hand : {"right", "left"}
        The golfer's, to tell the sides of marker paths.

    Raises
    ------
    InputError
        When it is neither, or no swing is in it.
    """
    if is_c3d(data):
        points, rate, up = read_c3d(data)
        return swing_of_columns(pelvis_of_markers(points, rate, hand, up))
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise InputError("file", name, Message("files-csv-file-utf-8-c3d")) from None
    return read_swing_csv(text)


def read_recording(raw: Any) -> tuple[SwingSeries, str]:
    """Read the swing in a device's record, and the key of its ball (may be empty).

    Raises
    ------
    InputError
        Naming the field, its value and what was expected.
    """
    if not isinstance(raw, dict):
        raise InputError("recording", raw, Message("common-object"))
    if unknown := sorted(set(raw) - set(FIELDS)):
        raise InputError(unknown[0][:60], raw[unknown[0]], Message("common-one", known=", ".join(FIELDS)))
    series = raw.get("series")
    if not isinstance(series, dict) or not series:
        raise InputError("series", type(series).__name__, Message("files-object-name-numbers"))
    columns = {name: _numbers(name, values) for name, values in series.items()}
    lengths = {name: len(values) for name, values in columns.items()}
    if len(set(lengths.values())) > 1:
        raise InputError("series", lengths, Message("files-same-number-samples-every-series"))
    swing = swing_of_columns(columns)
    find_moments(swing)
    shot_id = raw.get("shot_id", "")
    if not isinstance(shot_id, str) or len(shot_id) > LONGEST_TEXT["shot_id"]:
        raise InputError("shot_id", shot_id, Message("files-key-ball"))
    return swing, shot_id


def _numbers(name: str, values: Any) -> np.ndarray:
    if not isinstance(values, list) or not all(v is None or type(v) in (int, float) for v in values):
        raise InputError(f"series.{name}"[:60], "other", Message("files-list-numbers-null-where-nothing"))
    column = np.array([np.nan if v is None else v for v in values], float)
    if np.isinf(column).any():
        raise InputError(f"series.{name}"[:60], "infinity", Message("files-finite-numbers"))
    return column

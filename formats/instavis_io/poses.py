"""Landmarks of a clip as an open record, ``instavis.pose/1``."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from instavis_core.camera import LANDMARKS, VIEWS, CameraBody, PoseSeries
from instavis_core.errors import InputError
from instavis_core.message import Message, plain
from instavis_report.catalog import english

FORMAT = "instavis.pose/1"
FIELDS = (
    "format",
    "view",
    "hand",
    "fps",
    "model",
    "width",
    "height",
    "times_s",
    "landmarks",
    "points",
    "turns_deg",
    "sound_impact_s",
)
PARTS = ("pelvis", "chest")
MAX_FRAMES = 5_000


def pose_record(series: PoseSeries, model: dict[str, str]) -> dict[str, Any]:
    """Return the record of a clip; ``model`` names the network, its version and its hash."""
    table = np.stack([series.points[name] for name in LANDMARKS], axis=1)
    return {
        "format": FORMAT,
        "view": series.view,
        "hand": series.hand,
        "fps": round(series.fps, 3),
        "model": model,
        "width": series.width,
        "height": series.height,
        "times_s": [round(float(t), 4) for t in series.times],
        "landmarks": list(LANDMARKS),
        "points": [[None if math.isnan(x) else _point(x, y, v) for x, y, v in frame] for frame in table],
        "turns_deg": {part: _rounded(values) for part, values in series.turns.items()},
        "sound_impact_s": None if series.sound_impact is None else round(series.sound_impact, 4),
    }


def body_record(body: CameraBody) -> dict[str, Any]:
    """Return what the body did, one series for each quantity, with one SD of each and of the moments."""
    return {
        "times_s": [round(float(t), 4) for t in body.swing.time],
        **{name: [round(float(v), 2) for v in values] for name, values in body.swing.columns.items()},
        "errors": {name: round(error, 2) for name, error in body.swing.errors.items()},
        "errors_at": {
            name: {moment: round(error, 2) for moment, error in errors.items()}
            for name, errors in body.swing.errors_at.items()
        },
        "moments_s": {name: round(at, 4) for name, at in body.moments.at.items()},
        "moments_error_s": {name: round(error, 4) for name, error in body.moments.error.items()},
        "notes": [english(note) for note in body.notes],
    }


def _rounded(degrees: np.ndarray) -> list[float | None]:
    return [None if math.isnan(v) else round(float(v), 1) for v in degrees]


def _point(x: float, y: float, visibility: float) -> list[float]:
    return [round(float(x), 5), round(float(y), 5), round(float(visibility), 3)]


def read_pose(raw: Any) -> PoseSeries:
    """Read the landmarks of a record.

    Raises
    ------
    InputError
        Naming the field, its value and what was expected.
    """
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise InputError("format", raw.get("format") if isinstance(raw, dict) else raw, plain(FORMAT))
    if unknown := sorted(set(raw) - set(FIELDS)):
        raise InputError(unknown[0][:60], raw[unknown[0]], Message("common-one", known=", ".join(FIELDS)))
    for field, known in (("view", VIEWS), ("hand", ("right", "left"))):
        if raw.get(field) not in known:
            raise InputError(field, raw.get(field), Message("common-one", known=", ".join(known)))
    for field in ("width", "height"):
        if type(raw.get(field)) is not int or not 0 < raw[field] <= 20_000:
            raise InputError(field, raw.get(field), Message("files-pixels"))
    times = _times(raw.get("times_s"))
    heard = raw.get("sound_impact_s")
    if heard is not None and (type(heard) not in (int, float) or not 0 <= heard <= times[-1]):
        raise InputError("sound_impact_s", heard, Message("files-time-within-clip-null"))
    return PoseSeries(
        view=raw["view"],
        hand=raw["hand"],
        width=raw["width"],
        height=raw["height"],
        times=times,
        points=_points(raw, times.size),
        turns=_turns(raw.get("turns_deg", {}), times.size),
        sound_impact=heard,
    )


def _times(raw: Any) -> np.ndarray:
    if not isinstance(raw, list) or not 2 <= len(raw) <= MAX_FRAMES or not all(type(t) in (int, float) for t in raw):
        result = Message("files-list-2-numbers", most=MAX_FRAMES)
        raise InputError("times_s", len(raw) if isinstance(raw, list) else raw, result)
    times = np.array(raw, float)
    if not np.isfinite(times).all() or (np.diff(times) <= 0).any():
        raise InputError("times_s", Message("found-not-rising"), Message("files-finite-times-rise"))
    return times - times[0]


def _turns(raw: Any, frames: int) -> dict[str, np.ndarray]:
    if not isinstance(raw, dict) or not set(raw) <= set(PARTS):
        raise InputError("turns_deg", raw, Message("files-object-of", known=", ".join(PARTS)))
    for part, row in raw.items():
        good = isinstance(row, list) and len(row) == frames
        if not good or not all(v is None or (type(v) in (int, float) and abs(v) <= 720) for v in row):
            raise InputError(
                f"turns_deg.{part}", Message("found-unusable"), Message("files-numbers-null-frame-each", n=frames)
            )
    return {part: np.array([math.nan if v is None else v for v in row], float) for part, row in raw.items()}


def _points(raw: dict[str, Any], frames: int) -> dict[str, np.ndarray]:
    names, rows = raw.get("landmarks"), raw.get("points")
    if not isinstance(names, list) or (missing := sorted(set(LANDMARKS) - set(map(str, names)))):
        raise InputError(
            "landmarks", names if not isinstance(names, list) else missing[0], Message("files-every-landmark")
        )
    if not isinstance(rows, list) or len(rows) != frames:
        raise InputError(
            "points", len(rows) if isinstance(rows, list) else rows, Message("files-frames-times", n=frames)
        )
    table = np.full((frames, len(names), 3), np.nan)
    for i, row in enumerate(rows):
        if not isinstance(row, list) or len(row) != len(names):
            raise InputError(f"points[{i}]", type(row).__name__, Message("files-points", n=len(names)))
        for j, point in enumerate(row):
            if point is None:
                continue
            if not isinstance(point, list) or len(point) != 3 or not all(type(v) in (int, float) for v in point):
                raise InputError(f"points[{i}][{j}]", point, Message("files-x-y-visibility-null"))
            table[i, j] = point
    if np.isinf(table).any() or (np.abs(table[~np.isnan(table)]) > 10).any():
        raise InputError("points", Message("found-far-outside"), Message("files-shares-picture"))
    return {name: table[:, names.index(name)] for name in LANDMARKS}

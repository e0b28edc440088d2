"""Time series of one swing: read, converted to our units, gaps bridged or rejected, smoothed."""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from instavis_core.errors import InputError
from instavis_core.knowledge import load_motion
from instavis_core.message import Message, joined

SHORTEST, LONGEST = 0.8, 30.0  # s
SLOWEST, FASTEST = 25.0, 2000.0  # samples a second
MAX_SAMPLES = 20_000
LONGEST_GAP = 0.10  # s that may be bridged
CUTOFF = 12.0  # Hz, low pass without delay (Winter 2009, ch. 3: 4 to 12 Hz for the trunk in fast movements)
UNITS = {  # suffix → factor of the unit
    "cm": {"cm": 1.0, "mm": 0.1, "m": 100.0, "in": 2.54},
    "deg": {"deg": 1.0, "rad": 180 / math.pi},
    "share": {"share": 1.0, "pct": 0.01},
}
RANGES = {"cm": (-80.0, 80.0), "deg": (-270.0, 270.0), "share": (0.0, 1.0)}
OWN_RANGES = {
    "turn_deg": (-120.0, 180.0),
    "bend_deg": (-70.0, 70.0),
    "side_bend_deg": (-60.0, 60.0),
    **{f"hands_{direction}_cm": (-200.0, 200.0) for direction in ("sway", "thrust", "lift")},
}


@dataclass(frozen=True)
class SwingSeries:
    """A recorded swing.

    ``time`` (k,) [s] rises evenly from 0; ``columns`` are (k,) each, in the units of ``motion.toml``, smoothed.
    ``errors`` are one SD of a series whose instrument differs from that in ``motion.toml``; ``errors_at`` is the same
    at single moments of the swing.
    """

    time: np.ndarray
    columns: dict[str, np.ndarray]
    notes: tuple[Message, ...] = ()
    errors: dict[str, float] = field(default_factory=dict)
    errors_at: dict[str, dict[str, float]] = field(default_factory=dict)

    def error(self, name: str, moment: str, usual: float) -> float:
        """Return one SD of a series at a moment; ``usual`` if the recording has no error of its own."""
        return self.errors_at.get(name, {}).get(moment, self.errors.get(name, usual))

    def at(self, name: str, moment: float) -> float:
        """Return the value of a series at one time [s], linear between samples."""
        return float(np.interp(moment, self.time, self.columns[name]))


def read_swing_csv(text: str) -> SwingSeries:
    """Read a recording in the open CSV form.

    Parameters
    ----------
    text : str
        A header with ``time_s`` (or ``time_ms``) and series by name and unit (``sway_cm``, ``sway_mm``,
        ``turn_deg``, ``lead_share``, ``lead_pct`` …), then one row a sample; empty or ``nan`` cells are gaps.

    Raises
    ------
    InputError
        For a missing time, no known series, unreadable or implausible cells (line and column named), times that
        do not rise, long gaps, or too short a recording.
    """
    try:
        rows = list(csv.reader(io.StringIO(text.lstrip("\ufeff"), newline=None)))
    except csv.Error as error:
        raise InputError("recording", str(error), Message("common-well-formed-csv-table")) from None
    rows = [row for row in rows if any(cell.strip() for cell in row)]
    if len(rows) < 2:
        raise InputError("recording", len(rows), Message("recordings-header-one-row-sample"))
    header = [name.strip().lower() for name in rows[0]]
    if len(rows) > MAX_SAMPLES + 1:
        raise InputError("recording", len(rows) - 1, Message("recordings-most-samples", most=MAX_SAMPLES))
    if len(set(header)) < len(header):
        raise InputError("header", ", ".join(header), Message("recordings-every-column-once"))
    table = np.full((len(rows) - 1, len(header)), np.nan)
    for line, row in enumerate(rows[1:], start=2):
        if len(row) != len(header):
            raise InputError(f"line {line}", len(row), Message("recordings-cells-header", header=len(header)))
        for column, cell in enumerate(row):
            table[line - 2, column] = _number(cell.strip(), header[column], line)
    return swing_of_columns(dict(zip(header, table.T, strict=True)))


def _number(cell: str, name: str, line: int) -> float:
    if cell.lower() in ("", "nan"):
        return math.nan
    try:
        value = float(cell)
    except ValueError:
        raise InputError(f"line {line}, {name}", cell, Message("common-number")) from None
    if math.isinf(value):
        raise InputError(f"line {line}, {name}", cell, Message("common-finite-number"))
    return value


def swing_of_columns(columns: Mapping[str, np.ndarray]) -> SwingSeries:
    """Build a recording from columns by name and unit, NaN for gaps; see `read_swing_csv`.

    Raises
    ------
    InputError
        As `read_swing_csv`.
    """
    time = _time(columns)
    series: dict[str, np.ndarray] = {}
    ignored: list[str] = []
    notes: list[Message] = []
    for name, values in columns.items():
        if name in ("time_s", "time_ms"):
            continue
        known, factor = _known(name)
        if known is None:
            ignored.append(name)
            continue
        if known in series:
            raise InputError(name, known, Message("recordings-every-series-once"))
        series[known] = _plausible(known, name, np.asarray(values, float) * factor, time)
    if not series:
        raise InputError(
            "header", ", ".join(columns), Message("common-least-one", known=", ".join(load_motion().series))
        )
    if ignored:
        notes.append(Message("recordings-left-out-unknown", names=", ".join(ignored)))
    return evened(time, series, notes)


def _time(columns: Mapping[str, np.ndarray]) -> np.ndarray:
    if "time_s" in columns:
        name, time = "time_s", np.asarray(columns["time_s"], float)
    elif "time_ms" in columns:
        name, time = "time_ms", np.asarray(columns["time_ms"], float) / 1000
    else:
        raise InputError("header", ", ".join(columns), Message("recordings-column-time-time-ms"))
    if np.isnan(time).any():
        raise InputError(
            name, Message("found-row", n=int(np.isnan(time).argmax()) + 1), Message("recordings-time-every-row")
        )
    rising = np.diff(time) > 0
    if not rising.all():
        raise InputError(
            name, Message("found-row", n=int((~rising).argmax()) + 2), Message("recordings-times-rise-row-row")
        )
    length = float(time[-1] - time[0])
    if not SHORTEST <= length <= LONGEST:
        raise InputError(
            name,
            round(length, 2),
            Message(
                "recordings-seconds-these",
                shortest=SHORTEST,
                longest=LONGEST,
                other=_other(name),
            ),
        )
    if not SLOWEST <= (time.size - 1) / length <= FASTEST:
        raise InputError(
            name,
            round((time.size - 1) / length),
            Message("recordings-samples-second", slowest=SLOWEST, fastest=FASTEST),
        )
    return time - time[0]


def _other(name: str) -> str:
    return "milliseconds" if name == "time_s" else "seconds"


def _known(name: str) -> tuple[str | None, float]:
    """Return our name of a column and the factor of its unit."""
    stem, _, unit = name.rpartition("_")
    for known in load_motion().series:
        own_stem, _, own = known.rpartition("_")
        if stem == own_stem and unit in UNITS[own]:
            return known, UNITS[own][unit]
    return None, 1.0


def _plausible(known: str, name: str, values: np.ndarray, time: np.ndarray) -> np.ndarray:
    low, high = OWN_RANGES.get(known, RANGES[known.rpartition("_")[2]])
    with np.errstate(invalid="ignore"):
        outside = (values < low) | (values > high)
    if outside.any():
        at = int(outside.argmax())
        result = Message("recordings-to", low=low, high=high)
        hint = Message("recordings-unit-another-one") if outside.mean() > 0.1 else ""
        raise InputError(f"row {at + 1}, {name}", round(float(values[at]), 3), result + hint)
    missing = np.isnan(values)
    if missing.all():
        raise InputError(name, "empty", Message("recordings-values"))
    gap, since = 0.0, None
    for t, gone in zip(time, missing, strict=True):
        since = (t if since is None else since) if gone else None
        gap = max(gap, t - since if since is not None else 0.0)
        if gap > LONGEST_GAP:
            raise InputError(
                name, Message("found-gap", at=t), Message("recordings-no-gap-longer-ms", value=1000 * LONGEST_GAP)
            )
    return values


def evened(time: np.ndarray, series: dict[str, np.ndarray], notes: Sequence[Message] = ()) -> SwingSeries:
    """Return a recording with gaps bridged, in even steps, low-passed without delay.

    Parameters
    ----------
    time : ndarray
        Rising times (k,) [s], the first 0.
    series : dict of ndarray
        Columns, each (k,), NaN for gaps.
    notes : sequence of Message
        To go with it.
    """
    notes = list(notes)
    step = float(np.median(np.diff(time)))
    even = np.arange(0.0, time[-1] + step / 2, step)
    bridged = {name: int(np.isnan(values).sum()) for name, values in series.items()}
    if any(bridged.values()):
        samples = (Message("recordings-samples-of", n=n, name=name) for name, n in bridged.items() if n)
        notes.append(Message("recordings-bridged", samples=joined(samples)))
    from scipy.signal import butter, sosfiltfilt  # takes a second and a half to import, needed only for recordings

    smooth = {}
    sections = butter(2, min(CUTOFF * step * 2, 0.9), output="sos")
    for name, values in series.items():
        there = ~np.isnan(values)
        smooth[name] = sosfiltfilt(sections, np.interp(even, time[there], values[there]))
    return SwingSeries(even, smooth, tuple(notes))

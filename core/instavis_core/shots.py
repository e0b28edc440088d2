"""Shot records (`instavis.shot/1`) and blocks of them.

Unknown fields: a scalar under an unknown name is stored unchanged (`extra`); anything nested is rejected. Known fields
are checked for type, finiteness and range, and an error names the field.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any

import numpy as np

from instavis_core.errors import InputError
from instavis_core.golfer import HANDS, Golfer, mirror
from instavis_core.knowledge import Club, vocabulary
from instavis_core.message import Message
from instavis_core.terms import MarkBasis, Movement, StageName, Turf

FORMAT = "instavis.shot/1"
CHOICES = {
    "hand": HANDS,
    "turf": tuple(Turf),
    "movement": tuple(Movement),
    "mark_basis": tuple(MarkBasis),
    "stage": tuple(StageName),
}
SHARES = ("movement_dose", "movement_dose_sd")
PIVOT = {"pivot": (-270.0, 270.0), "pivot_sd": (0.0, 90.0)}
OF_A_BALL = ("hand", "turf", "movement", "mark_basis", "movement_dose", "stage", "intent", *PIVOT)
"""What a block stores of each ball beside its metrics and whether it was entered in words."""
DOSES = {Movement.DONE: 1.0, Movement.PARTLY: 0.5, Movement.MISSED: 0.0}
OLD, NEW = "old", "new"
CALLED_DOSES = {NEW: 1.0, OLD: 0.0}
LONGEST_TEXT = {"shot_id": 64, "note": 500, "intent": 60, "format": 40}
MAX_SHOTS = 50_000
EARLIEST, LATEST = datetime(1970, 1, 1, tzinfo=UTC), datetime(2200, 1, 1, tzinfo=UTC)
MIN_SPIN_RPM = 300.0
MAX_INTEGER = 2**53  # the largest whole number that every reader of JSON keeps exactly


@dataclass(frozen=True, kw_only=True)
class Shot:
    """One checked record in the device frame.

    ``values`` holds only what was measured. ``movement_dose`` is how much of the movement an instrument measured, 0 to
    1, and ``movement_dose_sd`` its error (one SD). ``pivot`` is the measured body value in the unit of the series that
    the correction names, with ``pivot_sd``.
    """

    values: dict[str, float]
    shot_id: str | None = None
    at: datetime | None = None
    club: str | None = None
    hand: str | None = None
    turf: str | None = None
    movement: str | None = None
    mark_basis: str | None = None
    movement_dose: float | None = None
    movement_dose_sd: float | None = None
    pivot: float | None = None
    pivot_sd: float | None = None
    stage: str | None = None
    intent: str | None = None
    note: str = ""
    extra: dict[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class PivotValue:
    """What an instrument measured of the body on one ball, in the unit of a series, with one SD.

    ``others`` are further series by name, used for limits.
    """

    value: float
    error: float
    others: tuple[tuple[str, float], ...] = ()


@dataclass(frozen=True, kw_only=True)
class Block:
    """Balls of one golfer and one club in the golfer frame.

    ``columns[metric]`` has shape (n,), NaN where not measured; the texts are tuples of length n. ``measured_doses`` is
    empty without an instrument; otherwise one for each ball, NaN for a ball it did not measure. ``pivot`` is the
    measured body value by ball, None for a ball without one; empty if no ball has one.
    """

    golfer: Golfer
    club: Club
    columns: dict[str, np.ndarray]
    turf: tuple[str | None, ...]
    movement: tuple[str | None, ...]
    stage: tuple[str | None, ...]
    intent: tuple[str | None, ...]
    by_hand: tuple[bool, ...] = ()
    basis: tuple[str | None, ...] = ()
    measured_doses: tuple[float, ...] = ()
    pivot: tuple[PivotValue | None, ...] = ()

    def __len__(self) -> int:
        return len(self.turf)

    def column(self, metric: str) -> np.ndarray:
        """Return a metric's values, shape (n,), NaN where not measured."""
        return self.columns[metric]

    def keep(self, rows: np.ndarray) -> Block:
        """Return the balls where ``rows`` (bool, shape (n,)) is true."""
        pick = np.flatnonzero(rows)
        if pick.size == len(self):
            return self

        def some(texts: tuple[str | None, ...]) -> tuple[str | None, ...]:
            return tuple(texts[i] for i in pick)

        columns = {name: values[pick] for name, values in self.columns.items()}
        return Block(
            golfer=self.golfer,
            club=self.club,
            columns=columns,
            turf=some(self.turf),
            movement=some(self.movement),
            stage=some(self.stage),
            intent=some(self.intent),
            by_hand=tuple(self.by_hand[i] for i in pick) if self.by_hand else (),
            basis=some(self.basis) if self.basis else (),
            measured_doses=tuple(self.measured_doses[i] for i in pick) if self.measured_doses else (),
            pivot=tuple(self.pivot[i] for i in pick) if self.pivot else (),
        )

    def doses(self) -> np.ndarray:
        """Return how much of the movement every ball had, 0 to 1, NaN if unknown; shape (n,).

        A call comes first (old 0, new 1), then the instrument, then the mark (done 1, partly ½, missed 0).
        """
        marked = [DOSES.get(Movement(m)) if m else None for m in self.movement]
        called = [CALLED_DOSES.get(intent or "") for intent in self.intent]
        doses = np.array([m if c is None else c for c, m in zip(called, marked, strict=True)], float)
        if self.measured_doses:
            measured = np.array(self.measured_doses, float)
            free = np.array([c is None for c in called]) & ~np.isnan(measured)
            doses[free] = measured[free]
        return doses

    def hand_entered(self) -> np.ndarray:
        """Return which balls were entered in words; bool, shape (n,)."""
        return np.array(self.by_hand, dtype=bool) if self.by_hand else np.zeros(len(self), dtype=bool)


def read_shot(raw: Any) -> Shot:
    """Check one shot record.

    Parameters
    ----------
    raw : dict
        As in the format; every measurement optional.

    Raises
    ------
    InputError
        Naming the field, its value and what was expected.
    """
    if not isinstance(raw, dict):
        raise InputError("shot", raw, Message("common-object"))
    metrics = vocabulary().metrics
    values: dict[str, float] = {}
    texts: dict[str, Any] = {}
    extra: dict[str, Any] = {}
    for name, value in raw.items():
        if value is None or value == "":
            continue
        metric = metrics.get(name)
        if metric is not None:
            low, high = metric.range
            plain = type(value) is float and low <= value <= high  # nearly every value; the rest gets an error
            values[name] = value if plain else read_number(name, value, metric.range, metric.unit)
        elif name == "club":
            texts[name] = read_club(value).id
        elif name in CHOICES:
            if value not in CHOICES[name]:
                raise InputError(name, value, Message("common-one", known=", ".join(CHOICES[name])))
            texts[name] = value
        elif name in SHARES:
            texts[name] = read_number(name, value, (0, 1))
        elif name in PIVOT:
            texts[name] = read_number(name, value, PIVOT[name])
        elif name == "at":
            texts[name] = read_time(value)
        elif name in LONGEST_TEXT:
            text = read_text(name, value, LONGEST_TEXT[name])
            if name == "format":
                if value != FORMAT:
                    raise InputError(name, value, FORMAT)
            else:
                texts[name] = text
        elif len(name) > 60 or len(extra) >= 30 or not _encodes(name):
            raise InputError(name[:60], value, Message("shots-most-30-further-fields-names"))
        else:
            extra[name] = _further(name, value)
    return Shot(values=values, extra=extra, **texts)


def read_text(name: str, value: Any, longest: int) -> str:
    """Check a text: within the length limit, without broken characters or zero bytes.

    Raises
    ------
    InputError
    """
    if not isinstance(value, str) or len(value) > longest:
        raise InputError(name, value, Message("common-text-most-characters", longest=longest))
    if not _encodes(value):
        raise InputError(name, value, Message("shots-text-utf-8-can-hold"))
    return value


def _encodes(text: str) -> bool:
    if text.isascii():
        return "\0" not in text
    try:
        text.encode()
    except UnicodeEncodeError:
        return False
    return "\0" not in text


def _further(name: str, value: Any) -> str | int | float | bool:
    """Store an unknown field unchanged."""
    if isinstance(value, str):
        return read_text(name, value[:200], 200)
    if isinstance(value, bool):
        return value
    if isinstance(value, int) and abs(value) > MAX_INTEGER:
        raise InputError(name, value, Message("shots-whole-number-most", most=MAX_INTEGER))
    if isinstance(value, float) and not math.isfinite(value):
        raise InputError(name, value, Message("common-finite-number"))
    if isinstance(value, int | float):
        return value
    raise InputError(name, value, Message("shots-known-field-plain-text-number"))


def read_number(name: str, value: Any, limits: Sequence[float], unit: str = "") -> float:
    """Check a finite number within limits."""
    # Not-a-number fails both comparisons, infinity one of them. JSON's huge integers compare exactly.
    if isinstance(value, float | int) and not isinstance(value, bool) and limits[0] <= value <= limits[1]:
        return float(value)
    high = f"{limits[1]:g} {unit}".rstrip()
    raise InputError(name, value, Message("shots-number", low=limits[0], high=high))


def read_club(value: Any) -> Club:
    """A club by its id."""
    clubs = vocabulary().clubs
    if not isinstance(value, str) or value not in clubs:
        raise InputError("club", value, Message("common-one", known=" ".join(clubs)))
    return clubs[value]


def read_time(value: Any) -> datetime:
    """Check a moment in ISO 8601 with its time zone, from 1970 to 2200: the range that every clock and database can
    represent.
    """
    try:
        moment = datetime.fromisoformat(value)
    except (TypeError, ValueError):
        moment = None
    if moment is None or moment.tzinfo is None:
        raise InputError("at", value, Message("shots-moment-such-2026-05-04t09"))
    if not EARLIEST <= moment < LATEST:
        raise InputError("at", value, Message("shots-moment-1970-2200"))
    return moment


def read_shots(raw: Any, name: str = "shots") -> list[Shot]:
    """Check a list of records; errors name the record: ``shots[3].path_deg``."""
    if raw is None:
        return []
    if not isinstance(raw, list):
        raise InputError(name, raw, Message("shots-list-shot-records"))
    if len(raw) > MAX_SHOTS:
        raise InputError(name, len(raw), Message("shots-most-records", most=MAX_SHOTS))
    shots = []
    for i, record in enumerate(raw):
        try:
            shots.append(read_shot(record))
        except InputError as error:
            raise error.inside(f"{name}[{i}]") from None
    return shots


def block_of(shots: Iterable[Shot], golfer: Golfer, club: Club) -> Block:
    """Combine shots into a block in the golfer frame.

    Raises
    ------
    InputError
        When a shot names another hand than the golfer's.
    """
    shots = list(shots)
    columns: dict[str, Sequence[Any]] = {name: [getattr(s, name) for s in shots] for name in OF_A_BALL}
    columns |= {metric: [s.values.get(metric) for s in shots] for metric in vocabulary().metrics}
    columns["by_hand"] = [s.extra.get("entered") == "hand" for s in shots]
    return block_from(columns, golfer, club)


def block_from(columns: Mapping[str, Sequence[Any]], golfer: Golfer, club: Club) -> Block:
    """Build a block in the golfer frame from columns.

    Parameters
    ----------
    columns : mapping of str to sequences of length n
        Every metric, device frame, and each of `OF_A_BALL`, None where missing; ``by_hand`` is true for balls entered
        in words.

    Raises
    ------
    InputError
        When a ball names another hand than the golfer's.
    """
    for i, hand in enumerate(columns["hand"]):
        if hand is not None and hand != golfer.hand:
            raise InputError(
                f"shots[{i}].hand", hand, Message("shots-golfers-hand", hand=Message(f"common-{golfer.hand}"))
            )
    measured = {m: mirror(m, np.array(columns[m], dtype=float), golfer) for m in vocabulary().metrics}
    # No struck ball spins so little: a monitor that cannot measure spin writes zero.
    unseen = measured["spin_rpm"] < MIN_SPIN_RPM
    measured["spin_rpm"][unseen] = measured["spin_axis_deg"][unseen] = np.nan
    doses, pivots, errors = columns["movement_dose"], columns["pivot"], columns["pivot_sd"]
    return Block(
        golfer=golfer,
        club=club,
        columns=measured,
        turf=tuple(columns["turf"]),
        movement=tuple(columns["movement"]),
        stage=tuple(columns["stage"]),
        intent=tuple(columns["intent"]),
        by_hand=tuple(columns["by_hand"]),
        basis=tuple(columns["mark_basis"]),
        measured_doses=tuple(np.nan if dose is None else dose for dose in doses)
        if any(dose is not None for dose in doses)
        else (),
        pivot=tuple(
            None if value is None else PivotValue(value=value, error=error or 0.0)
            for value, error in zip(pivots, errors, strict=True)
        )
        if any(value is not None for value in pivots)
        else (),
    )


def of_club(shots: Sequence[Shot], club: Club) -> tuple[list[Shot], int]:
    """Return shots of one club (or without a club) and the number of others."""
    same = [s for s in shots if s.club in (None, club.id)]
    return same, len(shots) - len(same)

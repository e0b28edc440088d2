"""A first guess at a table: headers, meaning of columns, units, and why."""

from __future__ import annotations

import io
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import islice
from typing import BinaryIO

import numpy as np

from instavis_core.errors import InputError
from instavis_core.flight import fly
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.message import NOTHING, Message
from instavis_core.units import SUFFIXES
from instavis_io.tables.cells import EMPTY, UNIT_WORDS, Cell, guess_decimal, read_cell, side_of
from instavis_io.tables.clubs import read_club_name
from instavis_io.tables.guess import ColumnGuess, Proposal, notes_on
from instavis_io.tables.header_row import (
    header_place,
    is_units_row,
    match_header,
    own_field,
    stated_side,
    suggested_side,
)
from instavis_io.tables.lines import Cut
from instavis_io.tables.mapping import (
    TEXT_FIELDS,
    ColumnUse,
    Mapping,
    is_mirrored,
    is_sided,
    kind_of,
    units_of,
)
from instavis_io.tables.moments import CLOCK, DAY, has_clock, is_clock
from instavis_io.tables.problems import TableErrors
from instavis_io.tables.rows import number_reader
from instavis_io.tables.text import SAMPLE_BYTES, rows_of, sniff_delimiter, sniff_encoding

SAMPLE_ROWS = 200
# plausible range of the median of a full-swing block, internal units; decides between units if nothing else does
PLAUSIBLE = {"club_speed_mps": (22, 58), "ball_speed_mps": (25, 84), "carry_m": (50, 290), "apex_m": (6, 50)}
TURNED_BELOW = -0.35  # correlation under which two sideways columns count opposite ways
GAP = "face_to_path_deg"  # correlates with the difference of face and path
PARTNERS = (("launch_direction_deg", "face_deg"), ("side_m", "launch_direction_deg"), (GAP, "face_deg"))
CURVES = ("spin_axis_deg", "side_spin_rpm")
RIGHT_IS_D = frozenset({"g", "gauche", "i", "iz", "izq", "izquierda"})
"""Words of a column which show that its d stands for droite or derecha."""
CURVE, CLEARLY = 0.5, 0.3  # correlation of the spin axis with face minus path, and how far the other side is below


def propose(file: BinaryIO, golfer: Golfer, far_unit: str = "m", cut: Cut | None = None) -> Proposal:
    """Propose a mapping from the first rows of a table.

    Parameters
    ----------
    file : binary file
    golfer : Golfer
        Who hit the balls.
    far_unit : {"m", "yd"}
        The coach's own unit of distance: taken where the numbers do not tell.
    cut : Cut, optional
        How its rows are cut, where that is known: its first row is the headers then, whatever it names.

    Raises
    ------
    TableErrors
        When the file is no table, or none of its rows looks like headers.
    """
    file.seek(0)
    sample = file.read(SAMPLE_BYTES)
    if not sample.strip():
        raise TableErrors(
            [InputError("file", Message("found-nothing"), Message("files-header-line-least-one-ball"), 1)]
        )
    encoding = sniff_encoding(sample)
    text = sample.decode(encoding, errors="ignore")
    delimiter = cut.delimiter if cut else sniff_delimiter(text.splitlines()[:40])
    rows = list(islice(rows_of(io.BytesIO(sample), encoding, delimiter), SAMPLE_ROWS))
    if len(sample) == SAMPLE_BYTES:
        rows = rows[:-1]  # cut in the middle
    place = 0 if cut else header_place([cells for _, cells in rows])
    header_line, headers = rows[place]
    below = [cells for _, cells in rows[place + 1 :]]
    units_row = below[0] if below and is_units_row(below[0]) else []
    body = below[1:] if units_row else below
    decimal = "." if delimiter == "," and not _quoted_commas(body) else guess_decimal([c for row in body for c in row])
    columns = [
        _Column(header, units_row[i] if i < len(units_row) else "", [r[i] for r in body if i < len(r)])
        for i, header in enumerate(headers)
    ]
    guesses = [_guess(column, decimal, far_unit) for column in columns]
    guesses = _speeds_alike(_without_doubles(guesses))
    guesses = _turned(_carry_unit(guesses, columns, decimal, golfer), columns, decimal, golfer)
    mapping = Mapping(
        encoding=encoding,
        delimiter=delimiter,
        decimal=decimal,
        header_line=header_line,
        columns=tuple(g.use for g in guesses),
    )
    names = set(vocabulary().metrics) | set(TEXT_FIELDS)
    own = all(h in names or own_field(h) for h in headers)
    return Proposal(
        mapping=mapping, columns=tuple(guesses), notes=notes_on(mapping, bool(units_row), place), own_format=own
    )


@dataclass(frozen=True)
class _Column:
    header: str
    unit_cell: str
    cells: list[str]


def _quoted_commas(body: list[list[str]]) -> bool:
    return any(re.fullmatch(r"[-−]?\d+,\d+\D*", cell) for row in body[:20] for cell in row)


def _guess(column: _Column, decimal: str, far_unit: str) -> ColumnGuess:
    field, unit, term = match_header(column.header)
    filled = [c for c in column.cells if c.lower() not in EMPTY]
    samples = tuple(filled[:4])
    if not field:
        reason = Message("files-known-not-stored") if field == "" else Message("files-unknown-choose-meaning-leave-out")
        return ColumnGuess(
            use=ColumnUse(header=column.header, field=""),
            reasons=(reason,),
            sure=field == "",
            samples=samples,
            units=(),
            sided=False,
            letters=False,
        )
    reasons = [Message("files-header-says", term=term)]
    if field == "club" and filled and not any(read_club_name(cell) for cell in filled):
        return ColumnGuess(
            use=ColumnUse(header=column.header, field=""),
            reasons=(*reasons, Message("files-no-cell-names-club")),
            sure=False,
            samples=samples,
            units=(),
            sided=False,
            letters=False,
        )
    if field == "at":
        field = _moment_field(filled)
    if not kind_of(field):
        return ColumnGuess(
            use=ColumnUse(header=column.header, field=field),
            reasons=tuple(reasons),
            sure=True,
            samples=samples,
            units=(),
            sided=False,
            letters=False,
        )
    read = [r for c in filled if (r := _try(c, decimal)) is not None]
    unit, why, sure = _unit(field, unit, column.unit_cell, read, far_unit)
    reasons.append(why)
    words = {r.letters: side_of(r.letters, field) for r in read if r.letters and r.value} if is_sided(field) else {}
    letters = any(side is not None for side in words.values())
    if letters:
        reasons.append(Message("files-letters-cells-give-side"))
    if "d" in words and field in CURVES and not words.keys() & RIGHT_IS_D:
        reasons.append(Message("files-d-may-mean-draw-right"))
        sure = False
    if unknown := [word for word, side in words.items() if side is None]:
        reasons.append(Message("files-unknown-text-next-numbers", words=", ".join(unknown[:3])))
        sure = False
    text = stated_side(column.header) if is_sided(field) and not letters else ""
    if text:
        reasons.append(Message("files-header-states-positive-side"))
    elif is_mirrored(field) and not letters and (text := suggested_side(column.header)):
        # "In-Out" without a plus: positive numbers are probably in-to-out for everyone, but that is not stated.
        reasons.append(Message("files-header-names-side-taken-positive"))
        sure = False
    use = ColumnUse(header=column.header, field=field, unit=unit, sign=text or "plus")
    return ColumnGuess(
        use=use,
        reasons=tuple(r for r in reasons if r),
        sure=sure,
        samples=samples,
        units=tuple(units_of(field)),
        sided=is_sided(field),
        letters=letters,
    )


def _moment_field(cells: list[str]) -> str:
    """Return the field of a time, or of the half that a column holds."""
    days = sum(not has_clock(cell) for cell in cells)
    clocks = sum(is_clock(cell) for cell in cells)
    return DAY if days > len(cells) / 2 else CLOCK if clocks > len(cells) / 2 else "at"


def _try(cell: str, decimal: str) -> Cell | None:
    try:
        return read_cell(cell, decimal)
    except ValueError:
        return None


def _unit(field: str, named: str, unit_cell: str, read: Sequence[Cell], far_unit: str) -> tuple[str, Message, bool]:
    """Return the unit of a column, the reason, and whether it is certain."""
    allowed = units_of(field)
    below = UNIT_WORDS.get(unit_cell.lower().strip("[]() "), "")
    for unit, why in (
        (named, Message("files-header-names", unit=named)),
        (below, Message("files-row-units-says", unit=below)),
    ):
        if unit in allowed:
            return unit, why, True
    in_cells = {r.unit for r in read if r.unit in allowed}
    if len(in_cells) == 1:
        unit = in_cells.pop()
        return unit, Message("files-cells-say", unit=unit), True
    if len(allowed) == 1:
        return allowed[0], NOTHING, True
    middle = float(np.median([abs(r.value) for r in read])) if read else float("nan")
    low, high = PLAUSIBLE.get(field, (0, float("inf")))
    fitting = [u for u in allowed if low <= middle * SUFFIXES[u][1] <= high]
    if field in PLAUSIBLE and len(fitting) == 1:
        return (
            fitting[0],
            Message("files-only-gives-plausible-median", fitting=fitting[0], middle=middle),
            True,
        )
    fallback = {"distance": far_unit, "speed": "mph" if far_unit == "yd" else "mps", "strike": "mm"}.get(
        kind_of(field), allowed[0]
    )
    choice = fallback if fallback in fitting or not fitting else fitting[0]
    return choice, Message("files-not-stated-guess", choice=choice), False


def _without_doubles(guesses: list[ColumnGuess]) -> list[ColumnGuess]:
    """Resolve a field that appears twice: the first column keeps it, the others are left out."""
    seen: set[str] = set()
    out = []
    for guess in guesses:
        if guess.use.field and guess.use.field in seen:
            guess = replace(
                guess,
                use=replace(guess.use, field=""),
                reasons=(*guess.reasons, Message("files-earlier-column-already-field")),
                sure=False,
            )
        seen.add(guess.use.field)
        out.append(guess)
    return out


def _speeds_alike(guesses: list[ColumnGuess]) -> list[ColumnGuess]:
    """Give both speeds the same unit if only one of them states it."""
    result = [g.use.unit for g in guesses if kind_of(g.use.field) == "speed" and g.sure]
    if len(set(result)) != 1:
        return guesses
    return [
        replace(
            g,
            use=replace(g.use, unit=result[0]),
            reasons=(*g.reasons[:-1], Message("files-other-speed", text=result[0])),
            sure=True,
        )
        if kind_of(g.use.field) == "speed" and not g.sure
        else g
        for g in guesses
    ]


def _values(column: _Column, use: ColumnUse, decimal: str, golfer: Golfer) -> np.ndarray:
    out, read = [], number_reader(use, decimal, golfer)
    for cell in column.cells:
        try:
            value = read(cell)
        except ValueError:
            value = None
        out.append(np.nan if value is None else value)
    return np.array(out, float)


def _carry_unit(
    guesses: list[ColumnGuess], columns: Sequence[_Column], decimal: str, golfer: Golfer
) -> list[ColumnGuess]:
    """Choose between meters and yards from the balls' own speeds if nothing else decides."""
    place = {g.use.field: i for i, g in enumerate(guesses)}
    if "carry_m" not in place or "ball_speed_mps" not in place or guesses[place["carry_m"]].sure:
        return guesses
    i, j = place["carry_m"], place["ball_speed_mps"]
    speed = _values(columns[j], guesses[j].use, decimal, golfer)
    angle = (
        _values(columns[place["launch_angle_deg"]], guesses[place["launch_angle_deg"]].use, decimal, golfer)
        if "launch_angle_deg" in place
        else np.full(speed.size, 16.0)
    )
    spin = (
        _values(columns[place["spin_rpm"]], guesses[place["spin_rpm"]].use, decimal, golfer)
        if "spin_rpm" in place
        else np.full(speed.size, 5500.0)
    )
    given = _values(columns[i], replace(guesses[i].use, unit="m"), decimal, golfer)
    n = min(speed.size, angle.size, spin.size, given.size)
    table = np.stack([speed[:n], angle[:n], spin[:n], given[:n]])
    table = table[:, ~np.isnan(table).any(axis=0)]
    if table.shape[1] < 3:
        return guesses
    flown = fly(np.clip(table[0], 1, 105), np.clip(table[1], 1, 60), 0, np.clip(table[2], 0, 14000), 0).carry_m
    ratio = float(np.median(table[3] / np.maximum(flown, 1)))
    errors = {u: abs(np.log(max(ratio, 1e-6) * SUFFIXES[u][1])) for u in ("m", "yd")}
    unit = min(errors, key=lambda u: errors[u])
    guess = guesses[i]
    reasons = (*guess.reasons[:-1], Message("files-ball-speeds-give-about-distance", unit=unit))
    out = list(guesses)
    out[i] = replace(
        guess,
        use=replace(guess.use, unit=unit),
        reasons=reasons,
        sure=bool(abs(errors["m"] - errors["yd"]) > 0.04 and errors[unit] < 0.12),
    )
    for k, other in enumerate(out):
        # Side and height nearly always have the unit of the carry.
        if other.use.field in ("side_m", "apex_m") and not other.sure and out[i].sure:
            out[k] = replace(
                other,
                use=replace(other.use, unit=unit),
                reasons=(*other.reasons[:-1], Message("files-carry", unit=unit)),
                sure=True,
            )
    return out


def _turned(guesses: list[ColumnGuess], columns: Sequence[_Column], decimal: str, golfer: Golfer) -> list[ColumnGuess]:
    """Reverse a sideways column that contradicts the columns it should agree with."""
    out = list(guesses)
    place = {g.use.field: i for i, g in enumerate(out)}

    def values(field: str) -> np.ndarray:
        return _values(columns[place[field]], out[place[field]].use, decimal, golfer)

    def turn(field: str, partner: str) -> None:
        guess = out[place[field]]
        reason = Message("files-contradicts-so-left-taken-positive", label=vocabulary().metrics[partner].label.lower())
        use = replace(guess.use, sign="minus")
        out[place[field]] = replace(guess, use=use, reasons=(*guess.reasons, reason), sure=False)

    def open_to_doubt(field: str) -> bool:
        guess = out[place[field]]
        return not guess.letters and is_mirrored(field) and not stated_side(guess.use.header)

    for field, partner in PARTNERS:
        if field not in place or partner not in place or not open_to_doubt(field) or out[place[partner]].letters:
            continue
        against = values(partner)
        if field == GAP and "path_deg" in place:
            against = _less(against, values("path_deg"))
        if _together(values(field), against) < TURNED_BELOW:
            turn(field, partner)
    if {"path_deg", "face_deg", "spin_axis_deg"} <= place.keys():
        # The ball curves with face minus path, whatever one golfer's faces and paths do together.
        axis, face, path = (values(f) for f in ("spin_axis_deg", "face_deg", "path_deg"))
        as_read, path_turned = _together(axis, _less(face, path)), _together(axis, _less(face, -path))
        if as_read < -CURVE and abs(as_read) > abs(path_turned) + CLEARLY and open_to_doubt("spin_axis_deg"):
            turn("spin_axis_deg", "face_deg")
        elif path_turned > CURVE and path_turned > as_read + CLEARLY and open_to_doubt("path_deg"):
            turn("path_deg", "spin_axis_deg")
        elif as_read < path_turned + CLEARLY and open_to_doubt("path_deg"):
            guess = out[place["path_deg"]]
            doubt = Message("files-these-balls-do-not-show")
            out[place["path_deg"]] = replace(guess, reasons=(*guess.reasons, doubt), sure=False)
    return out


def _less(a: np.ndarray, b: np.ndarray) -> np.ndarray:
    n = min(a.size, b.size)
    return a[:n] - b[:n]


def _together(a: np.ndarray, b: np.ndarray) -> float:
    """Return the rank correlation of two columns, which one shank does not change; 0 if too few rows have both."""
    n = min(a.size, b.size)
    both = ~np.isnan(a[:n]) & ~np.isnan(b[:n])
    if both.sum() < 8 or min(a[:n][both].std(), b[:n][both].std()) < 1e-9:
        return 0.0
    first, second = (np.argsort(np.argsort(values[:n][both])) for values in (a, b))
    return float(np.corrcoef(first, second)[0, 1])

"""Balls as a made-up monitor's program would write them: columns, units, signs, letters and languages of a dialect."""

from __future__ import annotations

import csv
import functools
import io
import json
import tomllib
from dataclasses import dataclass
from importlib import resources
from typing import Any

FACTORS = {
    "mps": 1.0,
    "m/s": 1.0,
    "mph": 0.44704,
    "kmh": 1 / 3.6,
    "km/h": 1 / 3.6,
    "m": 1.0,
    "yd": 0.9144,
    "ft": 0.3048,
    "mm": 1.0,
}
NUMBER, CLUB, TIME, IDENTITY, SMASH, GAP, MYSTERY = "number", "club", "time", "id", "smash", "face_to_path", "mystery"


@dataclass(frozen=True, kw_only=True)
class Column:
    """One column: its header, its metric (or word), its unit, and how its sides are written."""

    header: str
    what: str
    unit: str
    side: str


@dataclass(frozen=True, kw_only=True)
class Dialect:
    """How a program writes tables, or objects."""

    id: str
    columns: tuple[Column, ...]
    club: str
    decimal: str = "."
    delimiter: str = ","
    encoding: str = "utf-8"
    titles: tuple[str, ...] = ()
    units_row: bool = False
    summary: str = ""
    thousands: bool = False
    objects: bool = False

    def head(self) -> list[str]:
        """Return the lines above the balls."""
        if self.objects:
            return []
        rows = [*self.titles, self._row([c.header for c in self.columns])]
        if self.units_row:
            rows.append(self._row([c.unit for c in self.columns]))
        return rows

    def foot(self, balls: list[dict[str, Any]]) -> list[str]:
        """Return the lines below the balls: their average, if the dialect has such a row."""
        if not self.summary or not balls:
            return []
        names = {name for ball in balls for name, v in ball.items() if isinstance(v, float)}
        middle = {n: sum(b[n] for b in balls if n in b) / sum(n in b for b in balls) for n in names}
        cells = [self._cell(c, middle, 0) if c.what in middle else "" for c in self.columns]
        return [self._row([self.summary, *cells[1:]])]

    def line(self, ball: dict[str, Any], number: int) -> str:
        """Return one ball, a shot record in the device's frame, as a line without its end."""
        cells = [self._cell(column, ball, number) for column in self.columns]
        if not self.objects:
            return self._row(cells)
        record: dict[str, Any] = {}
        for column, cell in zip(self.columns, cells, strict=True):
            *path, last = column.header.split(".")
            place = record
            for name in path:
                place = place.setdefault(name, {})
            place[last] = float(cell) if column.what in ball and column.what not in (CLUB, TIME) else cell
        return json.dumps(record)

    def _row(self, cells: list[str]) -> str:
        out = io.StringIO()
        csv.writer(out, delimiter=self.delimiter, lineterminator="").writerow(cells)
        return out.getvalue()

    def _cell(self, column: Column, ball: dict[str, Any], number: int) -> str:
        what = column.what
        fixed = {NUMBER: str(number), CLUB: self.club, MYSTERY: "41.5"}
        if what in fixed:
            return fixed[what]
        if what == TIME:
            return str(ball.get("at", ""))
        if what == IDENTITY:
            return str(ball.get("shot_id", ""))
        if what == SMASH:
            return self._number(ball["ball_speed_mps"] / ball["club_speed_mps"], 2) if "club_speed_mps" in ball else ""
        value = ball["face_deg"] - ball["path_deg"] if what == GAP else ball.get(what)
        if value is None:
            return ""
        return self._measured(column, value, -1 if ball.get("hand") == "left" else 1)

    def _measured(self, column: Column, value: float, side: int) -> str:
        in_cell, _, unit = column.unit.rpartition(":")
        value /= FACTORS.get(unit, 1.0)
        if column.side in ("-", "golfer", "against"):
            value *= {"-": -1, "golfer": side, "against": -side}[column.side]
        places = 0 if column.what == "spin_rpm" else 1
        how, _, letters = column.side.partition(":")
        if letters:
            plus, minus = letters.split("/")
            letter, size = (plus if value >= 0 else minus), self._number(abs(value), places)
            return f"{letter} {size}" if how == "before" else f"{size} {letter}"
        result = self._number(value, places)
        return f"{result} {unit}" if in_cell else result

    def _number(self, value: float, places: int) -> str:
        result = f"{value:,.{places}f}" if self.thousands else f"{value:.{places}f}"
        swap = {",": ".", ".": ","} if self.decimal == "," else {}
        return "".join(swap.get(c, c) for c in result)


@functools.lru_cache(maxsize=1)
def dialects() -> dict[str, Dialect]:
    """Return all dialects by their ids."""
    text = (resources.files("instavis_standins") / "dialects.toml").read_text(encoding="utf-8")
    found = {}
    for row in tomllib.loads(text)["dialect"]:
        columns = tuple(Column(header=h, what=w, unit=u, side=s) for h, w, u, s in row.pop("columns"))
        found[row["id"]] = Dialect(**row | {"columns": columns, "titles": tuple(row.get("titles", ()))})
    return found

"""One cell as a number: decimal commas, thousands, units and letters for sides."""

from __future__ import annotations

import re
from dataclasses import dataclass

EMPTY = {"", "-", "--", "---", "–", "—", "n/a", "na", "nan", "null", "none", "#n/a", "."}
#: letters that stand for a side, by the kind of side; True is the plus side of the shot format
LETTERS = {
    "sideways": {
        "r": True,
        "right": True,
        "rechts": True,
        "d": True,
        "droite": True,
        "l": False,
        "left": False,
        "links": False,
        "g": False,
        "gauche": False,
    },
    "toe": {"t": True, "toe": True, "h": False, "heel": False},
    "high": {"h": True, "high": True, "up": True, "u": True, "l": False, "low": False, "d": False, "down": False},
    "attack": {"u": True, "up": True, "d": False, "down": False},
}
UNIT_WORDS = {
    "mph": "mph",
    "mi/h": "mph",
    "km/h": "kmh",
    "kmh": "kmh",
    "kph": "kmh",
    "m/s": "mps",
    "mps": "mps",
    "m": "m",
    "meter": "m",
    "meters": "m",
    "metres": "m",
    "mtr": "m",
    "yd": "yd",
    "yds": "yd",
    "yards": "yd",
    "yard": "yd",
    "ft": "ft",
    "feet": "ft",
    "mm": "mm",
    "cm": "cm",
    "in": "in",
    "inch": "in",
    "inches": "in",
    "°": "deg",
    "deg": "deg",
    "degrees": "deg",
    "degree": "deg",
    "grad": "deg",
    "rpm": "rpm",
    "u/min": "rpm",
    "tr/min": "rpm",
}
_CELL = re.compile(r"^(?P<before>[^\d+\-−.,]*)(?P<number>[+\-−]?[\d.,'\u00a0\u202f ]*\d[.,]?)\s*(?P<after>.*)$")


@dataclass(frozen=True)
class Cell:
    """A cell that holds a number: its value, the unit and the letters that stood with it."""

    value: float
    unit: str
    letters: str


def bare_number(text: str, decimal: str) -> float | None:
    """The value of a cell that is nothing but a number, as nearly every cell is; None for any other."""
    if decimal == ",":
        if "." in text:
            return None
        text = text.replace(",", ".", 1)
    try:
        value = float(text)
    except ValueError:
        return None
    return value if value == value else None


def read_cell(text: str, decimal: str) -> Cell | None:
    """A number with what stands around it; None for an empty cell.

    Parameters
    ----------
    text : str
    decimal : str
        The decimal sign: ``.`` or ``,``; the other one and blanks separate thousands.

    Raises
    ------
    ValueError
        When the cell holds no number.
    """
    text = text.strip().strip("\"'")
    if text.lower() in EMPTY:
        return None
    match = _CELL.match(text)
    if match is None:
        raise ValueError(text)
    thousands = "," if decimal == "." else "."
    digits = re.sub(r"[\s'\u00a0\u202f]", "", match["number"].replace("−", "-"))
    if thousands in digits:
        if not re.fullmatch(rf"[+-]?\d{{1,3}}(\{thousands}\d{{3}})+(\{decimal}\d+)?", digits):
            raise ValueError(text)
        digits = digits.replace(thousands, "")
    value = float(digits.replace(decimal, "."))
    unit, letters = "", ""
    for word in (match["before"].strip(), match["after"].strip()):
        for part in word.lower().split():
            if part in UNIT_WORDS:
                unit = UNIT_WORDS[part]
            elif part:
                letters = part.strip("()[]")
    return Cell(value, unit, letters)


def side_of(letters: str, kind: str) -> bool | None:
    """Whether letters mean the plus side; None when they mean nothing for this kind of value."""
    return LETTERS.get(kind, {}).get(letters)


def guess_decimal(cells: list[str]) -> str:
    """The decimal sign that the cells use: a comma before one or two last digits speaks for the comma."""
    comma = sum(bool(re.search(r"\d,\d{1,2}\D*$", c)) or bool(re.search(r"\d\.\d{3},\d", c)) for c in cells)
    point = sum(bool(re.search(r"\d\.\d{1,2}\D*$", c)) or bool(re.search(r"\d,\d{3}\.\d", c)) for c in cells)
    return "," if comma > point else "."

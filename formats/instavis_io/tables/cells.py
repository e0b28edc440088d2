"""One cell as a number: decimal commas, thousands, units and words for sides."""

from __future__ import annotations

import functools
import re
from dataclasses import dataclass

from instavis_core.knowledge.headers import cell_terms, plain_side

EMPTY = {"", "-", "--", "---", "–", "—", "n/a", "na", "nan", "null", "none", "#n/a", "."}
MINUS_SIGNS = "−–‒—﹣－⁻"
"""Characters that programs write for a minus."""
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
_CELL = re.compile(r"^(?P<before>[^\d+\-.,]*)(?P<number>[+\-]?[\d.,'\u00a0\u202f ]*\d[.,]?)\s*(?P<after>.*)$")
_MINUS = str.maketrans(dict.fromkeys(MINUS_SIGNS, "-"))


@dataclass(frozen=True)
class Cell:
    """A cell with a number: its value, unit, and remaining words as side words."""

    value: float
    unit: str
    letters: str


def bare_number(text: str, decimal: str) -> float | None:
    """Return the value of a cell that is just a number; None for any other."""
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
    """Return a number with the text around it; None for an empty cell.

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
    match = _CELL.match(text.translate(_MINUS))
    if match is None:
        raise ValueError(text)
    thousands = "," if decimal == "." else "."
    digits = re.sub(r"[\s'\u00a0\u202f]", "", match["number"])
    if thousands in digits:
        if not re.fullmatch(rf"[+-]?\d{{1,3}}(\{thousands}\d{{3}})+(\{decimal}\d+)?", digits):
            raise ValueError(text)
        digits = digits.replace(thousands, "")
    value = float(digits.replace(decimal, "."))
    around = f"{match['before']} {match['after']}".replace("°", " ").lower()
    if plain_side(around) in _side_phrases():  # "in to out" is not an inch
        return Cell(value, "", plain_side(around))
    unit, words = "deg" if "°" in text else "", []
    for part in around.split():
        if part.strip("()[]") in UNIT_WORDS:
            unit = UNIT_WORDS[part.strip("()[]")]
        else:
            words.append(part)
    return Cell(value, unit, plain_side(" ".join(words)))


@functools.lru_cache(maxsize=1)
def _side_phrases() -> frozenset[str]:
    """Return the side words that have more than one word."""
    return frozenset(term for terms in cell_terms().values() for term in terms if " " in term)


def side_of(letters: str, field: str) -> str | None:
    """Return the sign of a mapping that side words stand for in a field's cells; None when they mean nothing there.

    >>> side_of("out in", "path_deg")
    'against'
    """
    return cell_terms().get(field, {}).get(letters)


def signed_by(side: str, golfer_side: int) -> int:
    """Return the value on a named side with the sign of the shot format.

    Parameters
    ----------
    side : {"plus", "minus", "golfer", "against"}
    golfer_side : {1, -1}
        1 for a right-hander.
    """
    return {"plus": 1, "minus": -1, "golfer": golfer_side, "against": -golfer_side}[side]


def guess_decimal(cells: list[str]) -> str:
    """Guess the decimal sign of the cells: a comma before the last one or two digits suggests the comma."""
    comma = sum(bool(re.search(r"\d,\d{1,2}\D*$", c)) or bool(re.search(r"\d\.\d{3},\d", c)) for c in cells)
    point = sum(bool(re.search(r"\d\.\d{1,2}\D*$", c)) or bool(re.search(r"\d,\d{3}\.\d", c)) for c in cells)
    return "," if comma > point else "."

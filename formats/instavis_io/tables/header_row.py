"""Headers of a table: their row, the field and the unit of each."""

from __future__ import annotations

import re

from instavis_core.errors import InputError
from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.headers import header_terms, plain_side, plain_term, side_terms
from instavis_core.message import Message
from instavis_core.units import SUFFIXES
from instavis_io.tables.cells import UNIT_WORDS
from instavis_io.tables.problems import TableErrors

HEADER_WITHIN = 30  # rows
_FILLER = re.compile(r"\b(data|info|values?|measurements?|metrics?|results?)\b")
_BRACKETS = re.compile(r"[\[(]([^\])]+)[\])]")
_PLUS = re.compile(r"(?P<before>[^\W\d_][^+\[\]()=,;]*?)\s*\+(?!\s*=)|\+\s*=?\s*(?P<after>[^\W\d_][^+\[\]()=,;]*)")


def header_place(rows: list[list[str]]) -> int:
    """Find the row with most known headers among the first rows.

    Raises
    ------
    TableErrors
        Where no row names two columns.
    """
    scores = [sum(match_header(cell)[0] is not None for cell in cells) for cells in rows[:HEADER_WITHIN]]
    if not scores or max(scores) < (1 if len(rows[scores.index(max(scores))]) == 1 else 2):
        raise TableErrors(
            [
                InputError(
                    "file",
                    Message("found-no-header-row"),
                    Message("files-row-names-least-two-columns"),
                    1,
                )
            ]
        )
    return scores.index(max(scores))


def match_header(header: str) -> tuple[str | None, str, str]:
    """Return the field of a header (None if unknown), its unit, and the term that matched."""
    if header in vocabulary().metrics:
        return header, header.rpartition("_")[2], header
    if own_field(header):
        return own_field(header), header.rpartition("_")[2], header
    unit, bare = "", header
    for bracket in _BRACKETS.finditer(header):
        inner = bracket[1].strip().lower()
        unit = UNIT_WORDS.get(inner, unit)
        if inner in UNIT_WORDS or "+" in inner:
            bare = bare.replace(bracket[0], " ")
    words = plain_term(re.sub(r"(?<=[a-zà-ÿ])(?=[A-Z])", " ", bare))
    last = words.rsplit(" ", 1)
    if len(last) == 2 and last[1] in UNIT_WORDS:
        words, unit = last[0], unit or UNIT_WORDS[last[1]]
    terms = header_terms()
    for candidate in (plain_term(bare), words, " ".join(_FILLER.sub(" ", words).split())):
        if candidate in terms:
            return terms[candidate], unit, candidate
    parts = words.split(" ")
    # Words in front give the object ("ball data launch angle"), words behind give details ("carry flat").
    behind = [t for i in range(1, len(parts)) if len(t := " ".join(parts[i:])) > 3 and t in terms]
    found = [*behind, *(t for t in terms if len(t) > 3 and words.startswith(t + " "))]
    if found:
        best = max(found, key=len)  # of two equally long ones the last: in "club data path" the first is the object
        return terms[best], unit, best
    return None, unit, ""


def stated_side(header: str) -> str:
    """Return the sign that a header states ("path (in-out +)", "face + = open"); empty if none."""
    sides = side_terms()
    for match in _PLUS.finditer(header.lower()):
        words = (match["before"] or match["after"] or "").strip()
        for start in range(len(words)):
            if (start == 0 or not words[start - 1].isalnum()) and words[start:] in sides:
                return sides[words[start:]]
        for end in range(len(words), 0, -1):
            if match["after"] and words[:end] in sides:
                return sides[words[:end]]
    return ""


def suggested_side(header: str) -> str:
    """Return the sign that a header without a plus suggests, as in "Path In-Out" or "Face Open"; empty for none or two.

    >>> side_named("Club Path In-Out")
    'golfer'
    """
    words = f" {plain_side(header)} "
    named = {sign for term, sign in side_terms().items() if len(term) > 3 and f" {plain_side(term)} " in words}
    return named.pop() if len(named) == 1 else ""


def own_field(header: str) -> str | None:
    """Return the field of our own header with another unit's suffix, such as ``carry_yd``."""
    stem, _, suffix = header.rpartition("_")
    if suffix not in SUFFIXES:
        return None
    metrics = vocabulary().metrics.values()
    return next((m.id for m in metrics if m.id.rpartition("_")[0] == stem and SUFFIXES[suffix][0] == m.kind), None)


def is_units_row(cells: list[str]) -> bool:
    """Return True if a row holds only units."""
    filled = [c for c in cells if c]
    return bool(filled) and all(c.lower().strip("[]()") in UNIT_WORDS for c in filled)

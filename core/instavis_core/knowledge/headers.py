"""Column names of other tables."""

from __future__ import annotations

import functools
import re
import tomllib
from importlib import resources
from typing import Any


@functools.lru_cache(maxsize=1)
def header_terms() -> dict[str, str]:
    """Return the field for each term (lower case, without dots).

    The empty field marks known columns that are left out.
    """
    return {plain_term(term): row["field"] for row in _table()["header"] for term in row["terms"]}


@functools.lru_cache(maxsize=1)
def side_terms() -> dict[str, str]:
    """Sign of a mapping by the word for a plus side (lower case)."""
    return {term: row["sign"] for row in _table()["side"] for term in row["terms"]}


@functools.lru_cache(maxsize=1)
def cell_terms() -> dict[str, dict[str, str]]:
    """Return, by field, the sign of a mapping for each word that can stand beside a number (written as by
    `plain_side`).
    """
    terms: dict[str, dict[str, str]] = {}
    for row in _table()["cell"]:
        for field in row["fields"]:
            terms.setdefault(field, {}).update({plain_side(term): row["sign"] for term in row["terms"]})
    return terms


def plain_side(text: str) -> str:
    """Return a side word as it is compared: lower case, without brackets, with blanks for dots and hyphens.

    >>> plain_side("(OUT-IN)")
    'out in'
    """
    return " ".join(re.sub(r"[\s.()\[\]\-_→>/]+", " ", text.lower()).split())


def plain_term(text: str) -> str:
    """Return a term as it is compared: lower case, with blanks for dots and underscores."""
    return " ".join(text.lower().replace(".", " ").replace("_", " ").split())


@functools.lru_cache(maxsize=1)
def _table() -> dict[str, Any]:
    text = (resources.files("instavis_core.knowledge") / "data" / "headers.toml").read_text(encoding="utf-8")
    return tomllib.loads(text)

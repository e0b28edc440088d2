"""How other tables name their columns."""

from __future__ import annotations

import functools
import tomllib
from importlib import resources


@functools.lru_cache(maxsize=1)
def header_terms() -> dict[str, str]:
    """Field by term (lower case); the empty field stands for columns that are known and left out."""
    text = (resources.files("instavis_core.knowledge") / "data" / "headers.toml").read_text(encoding="utf-8")
    return {term: row["field"] for row in tomllib.loads(text)["header"] for term in row["terms"]}

"""Which module answers which verb; a verb imports only what it needs, so it starts fast."""

from __future__ import annotations

import importlib
from collections.abc import Callable
from typing import Any

VERBS = {
    "fly": "Flight of one ball from a launch or a delivery, device frame.",
    "read": "Reading of a block of balls, golfer frame.",
    "cause": "Ranking of the causes.",
    "prove": "Proof of a correction, or the result of a proof set.",
}


def answer_of(verb: str) -> Callable[[dict[str, Any]], dict[str, Any]]:
    """Return the function that answers a verb's documents."""
    return importlib.import_module(f"instavis_io.documents.{verb}").answer

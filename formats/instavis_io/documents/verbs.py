"""Which verb is answered where. A verb loads only what it needs, so that it answers at once."""

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
    """The function that answers a verb's documents."""
    return importlib.import_module(f"instavis_io.documents.{verb}").answer

"""`cause`: what explains the balls."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from instavis_core.cause import rank_causes, read_checks, read_intake
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_io.documents.fields import block_in, plain, told_left_out


def answer(raw: dict[str, Any]) -> dict[str, Any]:
    """Ranking of the causes; the school is read by nobody here, for it never alters evidence."""
    block, left_out = block_in(raw)
    known = shipped_knowledge()
    ranking = rank_causes(known, block, read_intake(raw.get("intake")), read_checks(known, raw.get("checks")))
    return told_left_out(plain(asdict(ranking)), left_out)

"""`cause`: what explains the balls."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from instavis_core.cause import rank_causes, read_checks, read_intake
from instavis_core.documents.fields import block_in, plain, told_left_out


def answer(raw: dict[str, Any]) -> dict[str, Any]:
    """Ranking of the causes; the school is read by nobody here, for it never alters evidence."""
    block, left_out = block_in(raw)
    ranking = rank_causes(block, read_intake(raw.get("intake")), read_checks(raw.get("checks")))
    return told_left_out(plain(asdict(ranking)), left_out)

"""`cause`: what explains the balls."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from instavis_core.cause import rank_causes, read_checks, read_eye, read_intake
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_io.documents.fields import blocks_in, plain


def answer(raw: dict[str, Any]) -> dict[str, Any]:
    """Rank the causes; the school is ignored because it never changes evidence."""
    block, *others = blocks_in(raw)
    known = shipped_knowledge()
    intake, checks = read_intake(raw.get("intake")), read_checks(known, raw.get("checks"))
    eye = read_eye(known.checks, raw.get("eye"))
    return dict(plain(asdict(rank_causes(known, block, intake, checks, others=others, eye=eye))))

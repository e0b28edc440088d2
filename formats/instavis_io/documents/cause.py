"""`cause`: what explains the balls."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from instavis_core.cause import rank_causes, read_checks, read_eye, read_intake
from instavis_core.errors import InputError, is_one_of
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.message import Message
from instavis_io.documents.fields import blocks_in, plain


def _leaning(raw: Any, checks: Mapping[str, object]) -> list[str]:
    """Return the checks that were answered after the coach saw the ranking."""
    if raw is None:
        return []
    if not isinstance(raw, list) or not all(is_one_of(name, checks) for name in raw):
        raise InputError("after_ranking", raw, Message("common-list", known=", ".join(checks)))
    return raw


def answer(raw: dict[str, Any]) -> dict[str, Any]:
    """Rank the causes; the school is ignored because it never changes evidence."""
    block, *others = blocks_in(raw)
    known = shipped_knowledge()
    intake, checks = read_intake(raw.get("intake")), read_checks(known, raw.get("checks"))
    eye = read_eye(known.checks, raw.get("eye")).after_ranking(_leaning(raw.get("after_ranking"), checks))
    return dict(plain(asdict(rank_causes(known, block, intake, checks, others=others, eye=eye))))

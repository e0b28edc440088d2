"""Slow database statements are logged: how long they took and what was asked, without values."""

from __future__ import annotations

import logging
import re
import time
from collections.abc import Callable
from typing import Any

from django.db.backends.signals import connection_created
from django.dispatch import receiver

from instavis.platform import metrics

SLOW_SECONDS = 0.5
MAX_LENGTH = 600
VALUES = re.compile(r"'(?:[^'\\]|\\.|'')*'|\b\d+\b")
"""What a statement may contain besides placeholders: a constant of ours, a key."""

logger = logging.getLogger(__name__)


@receiver(connection_created)
def _watch(sender: type, connection: Any, **kwargs: Any) -> None:
    if timed not in connection.execute_wrappers:
        connection.execute_wrappers.append(timed)


def timed(execute: Callable[..., Any], sql: str, params: Any, many: bool, context: dict[str, Any]) -> Any:
    """Run a statement, and log it if it was slow."""
    begun = time.perf_counter()
    try:
        return execute(sql, params, many, context)
    finally:
        took = time.perf_counter() - begun
        metrics.statement_took(took, took >= SLOW_SECONDS)
        if took >= SLOW_SECONDS:
            result = VALUES.sub("…", sql)[:MAX_LENGTH]
            logger.warning("slow statement", extra={"seconds": round(took, 3), "statement": result})

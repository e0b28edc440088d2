"""What is not kept for ever, and goes by itself."""

from __future__ import annotations

import logging
from collections.abc import Callable
from datetime import datetime

from django.contrib.sessions.models import Session

from instavis.capture.files.services import drop_old_drafts
from instavis.lessons.events import shorten_logs
from instavis.work.services import drop_old_works

logger = logging.getLogger("instavis.retention")


def _old_sessions(now: datetime) -> int:
    return Session.objects.filter(expire_date__lt=now).delete()[0]


RULES: dict[str, Callable[[datetime], int]] = {
    "sessions that ended": _old_sessions,
    "files that were not brought in": drop_old_drafts,
    "works that ended": drop_old_works,
    "events of long lessons": lambda now: shorten_logs(),
}


def carry_out(now: datetime) -> dict[str, int]:
    """Carry out every rule; one that fails keeps none of the others from it. Gives how much each took away."""
    gone: dict[str, int] = {}
    for name, rule in RULES.items():
        try:
            gone[name] = rule(now)
        except Exception:
            logger.exception("%s could not be taken away", name)
    logger.info("retention", extra={"gone": gone})
    return gone

"""Automatic deletion of old data."""

from __future__ import annotations

import logging
from collections.abc import Callable
from datetime import datetime

from instavis.accounts.models import Academy
from instavis.accounts.once import delete_old_answers
from instavis.accounts.people import drop_old_lines
from instavis.accounts.selectors import students_gone_at
from instavis.accounts.sessions import drop_ended_sessions
from instavis.archives.services import forget_student
from instavis.assessment.clips.services import drop_old_clips
from instavis.assessment.films.services import drop_old_films
from instavis.assessment.stills.services import drop_old_stills
from instavis.capture.bridges.services import drop_old_identities
from instavis.capture.files.services import drop_old_drafts
from instavis.lessons.events import shorten_logs
from instavis.work.services import drop_old_works

logger = logging.getLogger("instavis.retention")


def _students_gone(now: datetime) -> int:
    gone = [student for academy in Academy.objects.all() for student in students_gone_at(academy, now)]
    for student in gone:
        forget_student(student, now)
    return len(gone)


RULES: dict[str, Callable[[datetime], int]] = {
    "sessions that ended": drop_ended_sessions,
    "answers to requests": delete_old_answers,
    "files that were not brought in": drop_old_drafts,
    "rows that are known again": drop_old_identities,
    "clips that were not measured": drop_old_clips,
    "works that ended": drop_old_works,
    "events of long lessons": lambda now: shorten_logs(),
    "lines written down": drop_old_lines,
    "pictures": drop_old_stills,
    "films": drop_old_films,
    "students who do not come any more": _students_gone,
}


def carry_out(now: datetime) -> dict[str, int]:
    """Apply every rule; a failing one does not stop the others.

    Return how much each deleted.
    """
    gone: dict[str, int] = {}
    for name, rule in RULES.items():
        try:
            gone[name] = rule(now)
        except Exception:
            logger.exception("%s could not be deleted", name)
    logger.info("retention", extra={"gone": gone})
    return gone

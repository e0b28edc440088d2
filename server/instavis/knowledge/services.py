"""Changes to an academy's knowledge."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from instavis.accounts.models import Academy, Coach
from instavis.knowledge.models import KnowledgeVersion
from instavis.knowledge.selectors import check_changes, newest_version
from instavis.lessons.models import Lesson
from instavis.platform.errors import Refused
from instavis.platform.transactions import transactional
from instavis_core.errors import InputError
from instavis_core.knowledge import Changes, KnowledgeError
from instavis_core.message import Message, plain

MAX_CHANGES = 400


def checked(changes: Any) -> Changes:
    """Return changes in the form the core reads.

    Raises
    ------
    InputError
        When it is shaped otherwise.
    Refused
        For what the knowledge base cannot hold, naming entry and field.
    """
    shaped = isinstance(changes, dict) and all(
        isinstance(rows, dict) and all(isinstance(row, dict) for row in rows.values()) for rows in changes.values()
    )
    if not shaped:
        raise InputError("changes", "other", Message("knowledge-table-entry-field-value"))
    if sum(len(rows) for rows in changes.values()) > MAX_CHANGES:
        raise InputError(
            "changes",
            sum(len(rows) for rows in changes.values()),
            Message("knowledge-most-entries", most=MAX_CHANGES),
        )
    unknown = set(changes) - {"fault", "partner", "check", "drill", "window"}
    if unknown:
        raise InputError(f"changes.{sorted(unknown)[0]}", "", Message("knowledge-one-fault-partner-check-drill"))
    try:
        check_changes(changes)
    except KnowledgeError as error:
        raise Refused(422, error.field or "changes", plain(f"{error.field} {error.why}".strip())) from error
    return changes


@transactional
def save_version(coach: Coach, changes: Any, note: str, now: datetime) -> KnowledgeVersion:
    """Save a new version; lessons that begin later use it, earlier ones keep theirs.

    Raises
    ------
    Refused
        For changes the knowledge base cannot hold, or when nothing differs from the version that holds.
    """
    changes = {table: rows for table, rows in checked(changes).items() if rows}
    academy = Academy.objects.select_for_update().get(pk=coach.academy_id)
    last = newest_version(academy)
    if changes == (last.changes if last else {}):
        raise Refused(409, "changes", Message("knowledge-nothing-differs-current-version"))
    number = last.number + 1 if last else 1
    return KnowledgeVersion.objects.create(
        academy=academy, number=number, changes=changes, note=note.strip()[:200], made_by=coach, made_at=now
    )


@transactional
def judge_anew(lesson: Lesson) -> Lesson:
    """Judge a lesson by the current version."""
    lesson.knowledge_version = newest_version(lesson.academy)
    lesson.save(update_fields=["knowledge_version"])
    return Lesson.objects.get(pk=lesson.pk)

"""Which knowledge judges which lesson."""

from __future__ import annotations

import functools
import json

from instavis.accounts.models import Academy
from instavis.knowledge.models import KnowledgeVersion
from instavis.lessons.models import Lesson
from instavis_core.knowledge import OWN, Changes, Knowledge
from instavis_core.knowledge.loader import changed_knowledge, shipped_knowledge, stored_knowledge


@functools.lru_cache(maxsize=32)
def _built(changes: str) -> Knowledge:
    return stored_knowledge(json.loads(changes))


def knowledge_with(changes: Changes) -> Knowledge:
    """Return the shipped knowledge with stored changes; built once and cached.

    Raises
    ------
    KnowledgeError
        Naming table, entry and field.
    """
    return _built(json.dumps(changes, sort_keys=True)) if changes else shipped_knowledge()


def check_changes(changes: Changes) -> None:
    """Raise an error for changes that are invalid under the current rules.

    Raises
    ------
    KnowledgeError
        Naming table, entry and field.
    """
    changed_knowledge(changes)


def shipped() -> Knowledge:
    """Return the shipped knowledge."""
    return shipped_knowledge()


def newest_version(academy: Academy) -> KnowledgeVersion | None:
    """Return the version for new lessons."""
    return academy.knowledge_versions.first()


def knowledge_of(academy: Academy) -> Knowledge:
    """Return the academy's current knowledge."""
    version = newest_version(academy)
    return knowledge_with(version.changes if version else {})


def own_drills_ever(academy: Academy) -> dict[str, str]:
    """Return names of the academy's own drills by id, also of drills in old versions only."""
    names: dict[str, str] = {}
    for version in academy.knowledge_versions.order_by("number"):
        drills = version.changes.get("drill", {})
        names |= {key: row["name"] for key, row in drills.items() if key.startswith(OWN) and "name" in row}
    return names


def knowledge_for(lesson: Lesson) -> Knowledge:
    """Return the knowledge of a lesson: the version when it started, plus what earlier lessons showed about its
    student.

    Built once for each lesson object, so once for each request.
    """
    made = lesson.__dict__.get("_knowledge")
    if made is None:
        version = lesson.knowledge_version
        made = knowledge_with(_with_own(version.changes if version else {}, lesson))
        lesson.__dict__["_knowledge"] = made
    return made


def _with_own(changes: Changes, lesson: Lesson) -> Changes:
    """Return an academy's changes combined with the student's own effects."""
    rows = lesson.student.own_effects.filter(correction__lesson__started_at__lt=lesson.started_at)
    known = None
    for row in rows.order_by("learned_at"):
        known = known or knowledge_with(changes).causes
        cause = known.get(row.cause)
        if cause is None:
            continue
        table = {name: dict(entry) for name, entry in changes.get(cause.kind, {}).items()}
        entry = table.setdefault(row.cause, {})
        entry["effect"] = {**cause.effect, **entry.get("effect", {}), row.metric: round(row.mean, 2)}
        changes = {**changes, cause.kind: table}
    return changes

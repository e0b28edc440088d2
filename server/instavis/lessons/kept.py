"""What is worked out of lessons, kept until one of them changes; most lessons on a list never do again."""

from __future__ import annotations

import contextlib
import functools
import logging
from collections.abc import Callable, Iterable, Sequence
from datetime import datetime
from hashlib import sha256
from pathlib import Path
from typing import TypeVar, cast

from django.core.cache import cache
from django.db import transaction
from redis.exceptions import RedisError

import instavis
import instavis_core
from instavis.accounts.models import Student
from instavis.lessons.models import Lesson

logger = logging.getLogger(__name__)

KEPT_SECONDS = 30 * 24 * 3600
Result = TypeVar("Result")
State = tuple[datetime, int, int, str]

_calls: list[Callable[[int], None]] = []


def kept(
    what: str, lesson: Lesson, work: Callable[[], Result], *given: object, among: Sequence[State] | None = None
) -> Result:
    """The result of a work that rests on a lesson, its student's earlier lessons and what else is given.

    ``among`` are the `states_of` the student where they are known already. Without Redis the work is done each time.
    """
    states = states_of(lesson.student) if among is None else among
    before = [state for state in states if (state[0], state[1]) <= (lesson.started_at, lesson.pk)]
    resting = (what, _code(), lesson.pk, lesson.knowledge_version_id, lesson.student.handicap, before, *given)
    key = "kept:" + sha256(repr(resting).encode()).hexdigest()
    with contextlib.suppress(RedisError):
        if (known := cache.get(key)) is not None:
            return cast(Result, known)
    result = work()
    with contextlib.suppress(RedisError):
        cache.set(key, result, KEPT_SECONDS)
    return result


def states_of(student: Student) -> list[State]:
    """When each lesson of this student began, its key, and what changes with everything that is done in it."""
    rows = Lesson.objects.filter(student=student).order_by("started_at", "pk")
    return list(rows.values_list("started_at", "pk", "last_event", "state"))


def work_ahead_with(call: Callable[[int], None]) -> None:
    """Say how a worker is called to work out a student's record, by the student's key (the project knows the queue)."""
    _calls[:] = [call]


def work_ahead(student: Student) -> None:
    """Have this student's record worked out before anybody asks for it, when what is being done is committed."""
    if not student.made_up:
        transaction.on_commit(functools.partial(call_to_records, [student.pk]))


def call_to_records(students: Iterable[int]) -> None:
    """Call workers to these students' records.

    A queue that is away is no misfortune: whoever asks for the record waits for it then.
    """
    try:
        for student_id in students:
            for call in _calls:
                call(student_id)
    except Exception as error:
        logger.warning("no worker could be called to a student's record: %s", error)


def once_by_this_code(what: str, work: Callable[[], None]) -> None:
    """Do a work that fills what is kept, unless it was done by the code as it lies here and is still kept."""
    key = f"kept:{what}:{_code()}"
    with contextlib.suppress(RedisError):
        if cache.get(key) is None:
            work()
            cache.set(key, True, KEPT_SECONDS)


@functools.cache
def _code() -> str:
    """What works it out, as it lies here: after an upgrade everything is worked out anew."""
    told = sha256()
    for package in (instavis_core, instavis):
        for path in sorted(Path(package.__path__[0]).rglob("*")):
            if path.suffix in (".py", ".toml"):
                told.update(path.read_bytes())
    return told.hexdigest()

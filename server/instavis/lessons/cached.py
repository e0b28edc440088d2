"""Cached computations of lessons, valid until a lesson changes."""

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

CACHE_SECONDS = 30 * 24 * 3600
Result = TypeVar("Result")
State = tuple[datetime, int, int, str]

_calls: list[Callable[[int], None]] = []


def cached(
    what: str, lesson: Lesson, work: Callable[[], Result], *given: object, among: Sequence[State] | None = None
) -> Result:
    """Return a cached result that depends on a lesson, its student's earlier lessons and further inputs.

    ``among`` are the `states_of` the student, if already known. Without Redis the result is computed each time.
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
        cache.set(key, result, CACHE_SECONDS)
    return result


def states_of(student: Student) -> list[State]:
    """Return for each lesson of this student its start, key, and a state that changes with every change."""
    rows = Lesson.objects.filter(student=student).order_by("started_at", "pk")
    return list(rows.values_list("started_at", "pk", "last_event", "state"))


def work_ahead_with(call: Callable[[int], None]) -> None:
    """Register how a worker computes a student's record (the project knows the queue)."""
    _calls[:] = [call]


def work_ahead(student: Student) -> None:
    """Compute this student's record ahead of time, after the commit."""
    if not student.made_up:
        transaction.on_commit(functools.partial(call_to_records, [student.pk]))


def call_to_records(students: Iterable[int]) -> None:
    """Ask workers to compute these students' records.

    If the queue is down, a record is computed on first request.
    """
    try:
        for student_id in students:
            for call in _calls:
                call(student_id)
    except Exception as error:
        logger.warning("no worker could be called to a student's record: %s", error)


def once_by_this_code(what: str, work: Callable[[], None]) -> None:
    """Run a job that fills the cache, unless this code version already did."""
    key = f"kept:{what}:{_code()}"
    with contextlib.suppress(RedisError):
        if cache.get(key) is None:
            work()
            cache.set(key, True, CACHE_SECONDS)


@functools.cache
def _code() -> str:
    """Return a hash of the code, so that an upgrade recomputes everything."""
    result = sha256()
    for package in (instavis_core, instavis):
        for path in sorted(Path(package.__path__[0]).rglob("*")):
            if path.suffix in (".py", ".toml"):
                result.update(path.read_bytes())
    return result.hexdigest()

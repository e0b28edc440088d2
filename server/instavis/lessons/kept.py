"""What is worked out of lessons, kept until one of them changes; most lessons on a list never do again."""

from __future__ import annotations

import contextlib
import functools
from collections.abc import Callable
from hashlib import sha256
from pathlib import Path
from typing import TypeVar, cast

from django.core.cache import cache
from redis.exceptions import RedisError

import instavis
import instavis_core
from instavis.accounts.models import Student
from instavis.lessons.models import Lesson

KEPT_SECONDS = 30 * 24 * 3600
Result = TypeVar("Result")


def kept(what: str, lesson: Lesson, work: Callable[[], Result], *given: object, among: str | None = None) -> Result:
    """The result of a work that rests on a lesson, its student's other lessons and what else is given.

    ``among`` is `state_of` the student where that is known already. Without Redis the work is done each time.
    """
    state = state_of(lesson.student) if among is None else among
    resting = (what, _code(), lesson.pk, lesson.knowledge_version_id, state, *given)
    key = "kept:" + sha256(repr(resting).encode()).hexdigest()
    with contextlib.suppress(RedisError):
        if (known := cache.get(key)) is not None:
            return cast(Result, known)
    result = work()
    with contextlib.suppress(RedisError):
        cache.set(key, result, KEPT_SECONDS)
    return result


def state_of(student: Student) -> str:
    """Changes with everything that is done in a lesson of this student."""
    rows = Lesson.objects.filter(student=student).order_by("pk").values_list("pk", "last_event", "state")
    return sha256(repr((student.handicap, list(rows))).encode()).hexdigest()


@functools.cache
def _code() -> str:
    """What works it out, as it lies here: after an upgrade everything is worked out anew."""
    told = sha256()
    for package in (instavis_core, instavis):
        for path in sorted(Path(package.__path__[0]).rglob("*")):
            if path.suffix in (".py", ".toml"):
                told.update(path.read_bytes())
    return told.hexdigest()

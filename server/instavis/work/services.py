"""Requesting and doing tasks.

A worker holds a database lock by the task's name while it works. If it is killed, it loses the lock with its
connection, and the next round gives the task to another worker; uncommitted work is gone, so it starts again.
"""

from __future__ import annotations

import contextlib
import logging
from collections.abc import Callable, Iterator
from datetime import datetime, timedelta
from functools import partial
from typing import Any

from django.core.cache import cache
from django.db import connection, transaction
from redis.exceptions import RedisError

from instavis.accounts.models import Academy, Coach
from instavis.platform import metrics
from instavis.platform.file_storage import FilesAwayError
from instavis.platform.language import speak_to
from instavis.work.models import Work

logger = logging.getLogger(__name__)

MAX_BEGINNINGS = 3
"""A task that killed this many workers is not tried again."""
OVERDUE = timedelta(seconds=5)
KEEP_FOR = timedelta(days=7)
STEPS_LAST = 3600
LAST_ROUND = "work-last-round"


class Cancelled(Exception):
    """The task was canceled; nothing of it is kept."""


class WorkFailed(Exception):
    """A task that cannot be done; ``result`` has the reason."""

    def __init__(self, result: dict[str, Any]) -> None:
        self.result = result
        super().__init__("the task cannot be done")


class Step:
    """How a running task reports its progress and learns that it was canceled."""

    def __init__(self, work: Work) -> None:
        self.work, self.done = work, 0

    def __call__(self, count: int = 0) -> None:
        """Count what was done.

        Raises
        ------
        Cancelled
        """
        self.done += count
        with contextlib.suppress(RedisError):  # progress may be lost; everything else is in the database
            cache.set(_steps(self.work.pk), self.done, STEPS_LAST)
        if Work.objects.filter(pk=self.work.pk, cancel_asked=True).exists():
            raise Cancelled


Doing = Callable[[Work, Step], dict[str, Any]]
"""Does a task completely or not at all, and returns its result."""

QUICK, FILMS = "quick", "films"
"""Queues with their own workers: imports and emails never wait for a film."""

_kinds: dict[str, Doing] = {}
_queues: dict[str, str] = {}
_calls: list[Callable[[int, str], None]] = []


def does(kind: str, queue: str = QUICK) -> Callable[[Doing], Doing]:
    """Register a function for the tasks of a kind, and their queue."""

    def remember(doing: Doing) -> Doing:
        _kinds[kind], _queues[kind] = doing, queue
        return doing

    return remember


def call_with(call: Callable[[int, str], None]) -> None:
    """Set how a worker is notified of a task; the project sets it."""
    _calls[:] = [call]


def ask(kind: str, academy: Academy, coach: Coach, arguments: dict[str, Any], now: datetime, total: int = 0) -> Work:
    """Request a task; a worker is notified after the commit."""
    work = Work.objects.create(
        academy=academy, asked_by=coach, kind=kind, arguments=arguments, asked_at=now, total=total
    )
    transaction.on_commit(partial(_call_a_worker, work.pk, kind))
    return work


def cancel(work: Work) -> None:
    """Cancel a task: at its next step, or before it starts."""
    Work.objects.filter(pk=work.pk).update(cancel_asked=True)


def steps_done(work: Work) -> int:
    """Return the progress of a running task; 0 if unknown."""
    with contextlib.suppress(RedisError):
        return int(cache.get(_steps(work.pk)) or 0)
    return 0


def do(work_id: int, now: datetime) -> None:
    """Do a task, unless a worker has it or it has ended."""
    with _alone(work_id) as alone:
        work = Work.objects.select_related("academy", "asked_by").filter(pk=work_id).first() if alone else None
        if work is None or not work.open:
            return
        if work.begun >= MAX_BEGINNINGS:
            logger.error("task %s (%s) ended its worker %s times and is given up", work.pk, work.kind, work.begun)
            _end(work, Work.State.FAILED, {}, now)
            return
        Work.objects.filter(pk=work.pk).update(state=Work.State.RUNNING, begun=work.begun + 1)
        speak_to(work.asked_by)
        try:
            step = Step(work)
            step()
            result = _kinds[work.kind](work, step)
        except Cancelled:
            _end(work, Work.State.CANCELLED, {}, now)
        except FilesAwayError as error:  # not the task's fault: a later round retries it
            logger.warning("task %s (%s) waits: %s", work.pk, work.kind, error)
            Work.objects.filter(pk=work.pk).update(state=Work.State.WAITING, begun=work.begun)
        except WorkFailed as failure:
            _end(work, Work.State.FAILED, failure.result, now)
        except Exception:
            logger.exception("work %s (%s) failed", work.pk, work.kind)
            _end(work, Work.State.FAILED, {}, now)
        else:
            _end(work, Work.State.DONE, result, now)


def rounds(now: datetime) -> int:
    """Notify workers of tasks that wait too long or were abandoned; return how many."""
    open_states = (Work.State.WAITING, Work.State.RUNNING)
    waiting = Work.objects.filter(state__in=open_states, asked_at__lt=now - OVERDUE).values_list("pk", "kind")
    left = [(pk, kind) for pk, kind in waiting if _is_free(pk)]
    for work_id, kind in left:
        _call_a_worker(work_id, kind)
    with contextlib.suppress(RedisError):
        cache.set(LAST_ROUND, now.timestamp(), STEPS_LAST * 24)
    return len(left)


def round_age(now: datetime) -> float | None:
    """Return the age of the last round [s]; None if unknown.

    Raises
    ------
    RedisError
        When nobody can say.
    """
    last = cache.get(LAST_ROUND)
    return None if last is None else max(0.0, now.timestamp() - last)


def drop_old_works(now: datetime) -> int:
    """Delete old finished tasks; return how many."""
    return Work.objects.filter(ended_at__lt=now - KEEP_FOR).delete()[0]


def _call_a_worker(work_id: int, kind: str) -> None:
    """Notify a worker; if the queue is down, the next round does it again."""
    try:
        for call in _calls:
            call(work_id, _queues.get(kind, QUICK))
    except Exception as error:
        logger.warning("no worker could be notified of task %s: %s", work_id, error)


def _end(work: Work, state: str, result: dict[str, Any], now: datetime) -> None:
    Work.objects.filter(pk=work.pk).update(state=state, result=result, ended_at=now)
    metrics.work_ended(work.kind, state)


def _steps(work_id: int) -> str:
    return f"work-steps:{work_id}"


def _lock(work_id: int) -> str:
    return f"{connection.settings_dict['NAME']}.work.{work_id}"


@contextlib.contextmanager
def _alone(work_id: int) -> Iterator[bool]:
    with connection.cursor() as cursor:
        cursor.execute("SELECT GET_LOCK(%s, 0)", [_lock(work_id)])
        got = cursor.fetchone()[0] == 1
    try:
        yield got
    finally:
        if got:
            with contextlib.suppress(Exception), connection.cursor() as cursor:  # a lost connection has lost its lock
                cursor.execute("SELECT RELEASE_LOCK(%s)", [_lock(work_id)])


def _is_free(work_id: int) -> bool:
    with connection.cursor() as cursor:
        cursor.execute("SELECT IS_FREE_LOCK(%s)", [_lock(work_id)])
        return bool(cursor.fetchone()[0])

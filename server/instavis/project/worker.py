"""The workers: Celery takes notifications from Redis; the tasks are in the database."""

from __future__ import annotations

import contextlib
import logging
import os
from collections.abc import Iterator

import django
from django.apps import apps

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "instavis.project.settings")
if not apps.ready:
    django.setup()

from celery import Celery, signals  # noqa: E402 (Celery looks for the settings when it is loaded)
from django.conf import settings  # noqa: E402
from django.db import InterfaceError, OperationalError  # noqa: E402
from django.utils import timezone  # noqa: E402

from instavis.accounts.models import Student  # noqa: E402
from instavis.lessons.cached import call_to_records, once_by_this_code, work_ahead_with  # noqa: E402
from instavis.platform import copies  # noqa: E402
from instavis.platform import statements as statements  # noqa: E402 (slow ones make themselves known)
from instavis.project import works as works  # noqa: E402 (every kind of work makes itself known)
from instavis.project.retention import carry_out  # noqa: E402
from instavis.reports.history import who_comes, work_out  # noqa: E402
from instavis.work import services  # noqa: E402

ROUND_SECONDS, RETENTION_SECONDS, RECORDS_SECONDS = 5.0, 3600.0, 300.0
CALL_SECONDS, RECORD_SECONDS = 60, 3600
"""After this a notification is worthless: it was sent again, or the record was computed on request."""
LAST = 9
"""Celery priorities on Redis, where 0 comes first: nobody waits for a record that is computed ahead."""

logger = logging.getLogger("instavis.worker")

app = Celery("instavis")
app.conf.update(settings.CELERY)
app.conf.beat_schedule = {
    "rounds": {"task": "rounds", "schedule": ROUND_SECONDS, "options": {"expires": ROUND_SECONDS}},
    "retention": {"task": "retention", "schedule": RETENTION_SECONDS, "options": {"expires": ROUND_SECONDS}},
    "records": {"task": "records", "schedule": RECORDS_SECONDS, "options": {"expires": ROUND_SECONDS}},
}


@signals.worker_process_init.connect
def lower_priority(**_: object) -> None:
    """Lower this process's priority: balls come before films."""
    os.nice(settings.WORKER_NICE)


@signals.worker_process_init.connect
def end_with_worker(**_: object) -> None:
    """End a child of Celery with its parent."""
    copies.end_with_parent()


@app.task(name="work")
def do(work_id: int) -> None:
    """Do one work."""
    services.do(work_id, timezone.now())


@app.task(name="rounds")
def rounds() -> None:
    """Look for abandoned tasks; without the database there are none to find."""
    with _database_may_be_away("a round"):
        services.rounds(timezone.now())


@app.task(name="retention")
def retention() -> None:
    """Delete old data."""
    carry_out(timezone.now())


@app.task(name="record")
def record(student_id: int) -> None:
    """Compute a student's record ahead of time."""
    with _database_may_be_away("the record of a student"):
        student = Student.objects.select_related("academy").filter(pk=student_id).first()
        if student is not None:
            work_out(student, student.academy.day_of(timezone.now()))


@app.task(name="records")
def records() -> None:
    """After an upgrade, recompute the records of active students, one after another."""
    with _database_may_be_away("who comes"):
        once_by_this_code("records", lambda: call_to_records(who_comes(timezone.now())))


@contextlib.contextmanager
def _database_may_be_away(what: str) -> Iterator[None]:
    """Skip what will be retried or can be skipped while the database is unreachable; log one line."""
    try:
        yield
    except (OperationalError, InterfaceError) as error:
        logger.warning("the database did not answer %s: %s", what, error)


services.call_with(lambda work_id, queue: do.apply_async((work_id,), expires=CALL_SECONDS, queue=queue))
work_ahead_with(lambda key: record.apply_async((key,), expires=RECORD_SECONDS, priority=LAST))

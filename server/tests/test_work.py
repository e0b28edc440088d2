"""Background work: done once, restarted when a worker dies, given up after a limit."""

from __future__ import annotations

import contextlib
import os
import socket
import threading
import time
from datetime import timedelta

import MySQLdb
import pytest
from celery import Celery
from django.conf import settings
from django.core.cache import cache
from django.db import OperationalError, connection, transaction
from django.utils import timezone
from kombu.exceptions import OperationalError as QueueAway

from instavis.platform.copies import end_with_parent
from instavis.platform.transactions import DEADLOCK, transactional
from instavis.project.worker import LAST
from instavis.work import services as works
from instavis.work.models import Work
from instavis.work.services import Cancelled, WorkFailed


@pytest.fixture
def kind(monkeypatch):
    """kind(doing) says how works of the kind "try" are done."""

    def remember(doing):
        monkeypatch.setitem(works._kinds, "try", doing)

    return remember


@pytest.fixture
def called(monkeypatch) -> list[int]:
    calls: list[int] = []
    monkeypatch.setattr(works, "_calls", [lambda work_id, queue: calls.append(work_id)])
    return calls


@pytest.fixture
def asked(coach, django_capture_on_commit_callbacks) -> Work:
    with django_capture_on_commit_callbacks(execute=True):
        return works.ask("try", coach.academy, coach, {"n": 3}, timezone.now(), total=10)


def now_of(work: Work) -> Work:
    return Work.objects.get(pk=work.pk)


def test_task_runs_once_and_reports_progress(called, asked, kind):
    seen = []

    def doing(work, step):
        step(4)
        seen.append(works.steps_done(work))
        return {"sum": work.arguments["n"]}

    kind(doing)
    assert called == [asked.pk]
    for _ in range(2):
        works.do(asked.pk, timezone.now())
    assert seen == [4]
    assert (now_of(asked).state, now_of(asked).result) == ("done", {"sum": 3})


@pytest.mark.parametrize(
    ("trouble", "state", "result"),
    [
        (Cancelled(), "cancelled", {}),
        (WorkFailed({"why": "torn"}), "failed", {"why": "torn"}),
        (ZeroDivisionError(), "failed", {}),
    ],
)
def test_task_error_is_stored(called, asked, kind, trouble, state, result):
    def doing(work, step):
        raise trouble

    kind(doing)
    works.do(asked.pk, timezone.now())
    assert (now_of(asked).state, now_of(asked).result) == (state, result)


def test_canceled_task_never_starts(called, asked, kind):
    kind(lambda work, step: pytest.fail("it was called off"))
    works.cancel(asked)
    works.do(asked.pk, timezone.now())
    assert now_of(asked).state == "cancelled"


@pytest.fixture
def elsewhere():
    """Another connection to the same database, as another worker has it."""
    result = connection.settings_dict
    line = MySQLdb.connect(
        host=result["HOST"],
        port=int(result["PORT"]),
        user=result["USER"],
        password=result["PASSWORD"],
        database=result["NAME"],
    )
    yield line
    with contextlib.suppress(MySQLdb.Error):
        line.close()


def test_running_task_is_retried_only_after_its_worker_is_gone(called, asked, kind, elsewhere):
    kind(lambda work, step: {})
    elsewhere.cursor().execute("SELECT GET_LOCK(%s, 0)", [works._lock(asked.pk)])
    Work.objects.filter(pk=asked.pk).update(state="running", begun=1)
    works.do(asked.pk, timezone.now())
    later = timezone.now() + timedelta(minutes=1)
    assert works.rounds(later) == 0
    assert now_of(asked).state == "running"
    elsewhere.close()  # the worker was killed; the database takes a moment to notice
    deadline = time.monotonic() + 10
    while works.rounds(later) == 0:
        assert time.monotonic() < deadline
        time.sleep(0.02)
    works.do(called[-1], timezone.now())
    assert now_of(asked).state == "done"


def test_task_that_kills_workers_is_given_up(called, asked, kind):
    kind(lambda work, step: pytest.fail("no fourth time"))
    Work.objects.filter(pk=asked.pk).update(state="running", begun=works.MAX_BEGINNINGS)
    works.do(asked.pk, timezone.now())
    assert now_of(asked).state == "failed"


def test_requests_work_without_the_queue(coach, monkeypatch, django_capture_on_commit_callbacks, caplog):
    def away(work_id, queue):
        raise ConnectionError("nobody there")

    monkeypatch.setattr(works, "_calls", [away])
    with django_capture_on_commit_callbacks(execute=True):
        work = works.ask("try", coach.academy, coach, {}, timezone.now())
    assert now_of(work).state == "waiting"
    assert "nobody there" in caplog.text


def test_lost_queue_connection_is_retried_once():
    tried = []

    def hang_up(listening: socket.socket) -> None:
        with contextlib.suppress(OSError):
            while True:
                line, _ = listening.accept()
                tried.append(line.close())

    with contextlib.closing(socket.create_server(("127.0.0.1", 0))) as listening:
        threading.Thread(target=hang_up, args=(listening,), daemon=True).start()
        queue = Celery(set_as_current=False)
        queue.conf.update(settings.CELERY, broker_url=f"redis://127.0.0.1:{listening.getsockname()[1]}/0")
        with pytest.raises(QueueAway):
            queue.send_task("work", (1,))
        listening.shutdown(socket.SHUT_RDWR)
    assert len(tried) in (1, 2)


def test_awaited_tasks_come_before_records():
    queue = Celery(set_as_current=False)
    queue.conf.update(settings.CELERY, task_default_queue="a-test-of-priorities")
    queue.send_task("record", (1,), priority=LAST, expires=60)
    queue.send_task("work", (1,), expires=60)
    with queue.connection() as line:
        waiting = line.SimpleQueue(queue.conf.task_default_queue)
        taken = [waiting.get(timeout=5) for _ in range(2)]
        for message in taken:
            message.ack()
    assert [message.headers["task"] for message in taken] == ["work", "record"]


@pytest.mark.django_db(transaction=True)
def test_transaction_is_retried_after_a_deadlock():
    tries = []

    @transactional
    def action(value: int) -> int:
        tries.append(connection.in_atomic_block)
        if len(tries) < 3:
            raise OperationalError(DEADLOCK, "Deadlock found")
        return value

    assert action(5) == 5
    assert tries == [True] * 3
    tries.clear()
    # Inside another's transaction there is nothing left to go on with.
    with pytest.raises(OperationalError), transaction.atomic():
        action(5)
    assert len(tries) == 1


def test_copy_ends_if_its_parent_is_gone():
    """A worker that is killed while it makes a copy has nobody who would end the copy."""
    result, tell = os.pipe()
    worker_of_its_own = os.fork()
    if not worker_of_its_own:
        parent = os.getpid()
        if os.fork():
            os._exit(0)
        while os.getppid() == parent:
            time.sleep(0.01)
        end_with_parent()
        os.write(tell, b"still here")
        os._exit(0)
    os.close(tell)
    os.waitpid(worker_of_its_own, 0)
    with open(result, "rb") as line:
        assert line.read() == b""


def test_films_have_their_own_queue(coach, monkeypatch, django_capture_on_commit_callbacks):
    """However many films wait, an import or an email goes to a worker that does none."""
    calls: list[tuple[int, str]] = []
    monkeypatch.setattr(works, "_calls", [lambda work_id, queue: calls.append((work_id, queue))])
    with django_capture_on_commit_callbacks(execute=True):
        asked = [works.ask(kind, coach.academy, coach, {}, timezone.now()) for kind in ("clip", "import", "letter")]
    assert [queue for _, queue in calls] == [works.FILMS, works.QUICK, works.QUICK]
    later = timezone.now() + timedelta(minutes=1)
    calls.clear()
    works.rounds(later)
    assert dict(calls)[asked[0].pk] == works.FILMS


def test_health_knows_the_last_round(client, db):
    def found() -> dict:
        return client.get("/readyz").json()

    cache.delete(works.LAST_ROUND)
    assert (found()["state"], found()["checks"]["rounds"]) == ("degraded", False)
    works.rounds(timezone.now())
    assert (found()["state"], found()["checks"]["rounds"]) == ("ready", True)
    works.rounds(timezone.now() - timedelta(minutes=5))
    assert found()["checks"]["rounds"] is False

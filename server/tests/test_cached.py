"""Results of lessons are cached until an input changes, and computed ahead of time."""

from datetime import date, timedelta

import pytest
from django.core.cache import cache
from django.db import OperationalError, transaction

from instavis.accounts.models import Student
from instavis.assessment.findings import selectors as findings
from instavis.lessons import cached as caching
from instavis.lessons.cached import cached, once_by_this_code
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import Lesson
from instavis.project import worker
from instavis.reports import history
from instavis.reports.history import who_comes, work_out


@pytest.fixture
def times():
    return []


def work(times):
    def done():
        times.append(1)
        return len(times)

    return done


def again(lesson, times, *given):
    return cached("a test", Lesson.objects.get(pk=lesson.pk), work(times), *given)


def test_result_is_cached_until_the_lesson_changes(lesson, times):
    assert [again(lesson, times), again(lesson, times)] == [1, 1]
    with transaction.atomic():
        log_change(locked_lesson(lesson.pk), Aspect.CHECKS)
    assert [again(lesson, times), again(lesson, times)] == [2, 2]


def test_further_inputs_are_part_of_the_key(lesson, times):
    assert [again(lesson, times, "7i"), again(lesson, times, "dr"), again(lesson, times, "7i")] == [1, 2, 1]


def test_key_includes_earlier_lessons_and_handicap_only(lesson, times):
    assert again(lesson, times) == 1
    here = Lesson.objects.get(pk=lesson.pk)
    others = {"academy": here.academy, "student": here.student, "coach": here.coach}
    Lesson.objects.create(**others, started_at=here.started_at + timedelta(days=7))
    assert again(lesson, times) == 1
    before = Lesson.objects.create(**others, started_at=here.started_at - timedelta(days=7))
    assert again(lesson, times) == 2
    with transaction.atomic():
        log_change(locked_lesson(before.pk), Aspect.CHECKS)
    assert again(lesson, times) == 3
    here.student.handicap = 3.5
    here.student.save()
    assert again(lesson, times) == 4


def test_new_code_recomputes(lesson, times, monkeypatch):
    assert again(lesson, times) == 1
    monkeypatch.setattr(caching, "_code", lambda: "the-next-release")
    assert again(lesson, times) == 2


def test_lesson_state_never_repeats(lesson, times):
    """A backup brings the log back to where it was, and something else is done then."""
    with transaction.atomic():
        log_change(locked_lesson(lesson.pk), Aspect.CHECKS)
    assert again(lesson, times) == 1
    lesson.events.all().delete()
    Lesson.objects.filter(pk=lesson.pk).update(last_event=Lesson.objects.get(pk=lesson.pk).last_event - 1, state="")
    with transaction.atomic():
        log_change(locked_lesson(lesson.pk), Aspect.CHECKS)
    assert again(lesson, times) == 2


def test_without_a_cache_results_are_recomputed(lesson, times, monkeypatch):
    from redis.exceptions import ConnectionError as Gone

    def gone(*_):
        raise Gone

    monkeypatch.setattr(cache, "get", gone)
    monkeypatch.setattr(cache, "set", gone)
    assert [again(lesson, times), again(lesson, times)] == [1, 2]


def test_record_is_computed_at_start_and_end_of_a_lesson(
    api, coach, student, monkeypatch, django_capture_on_commit_callbacks
):
    called = []
    monkeypatch.setattr(caching, "_calls", [called.append])
    with django_capture_on_commit_callbacks(execute=True):
        begun = api("post", "/v1/lessons", {"student_id": student.pk}, 201)
    assert called == [student.pk]
    with django_capture_on_commit_callbacks(execute=True):
        api("patch", f"/v1/lessons/{begun['id']}", {"station": "check"})
    assert called == [student.pk]
    with django_capture_on_commit_callbacks(execute=True):
        api("patch", f"/v1/lessons/{begun['id']}", {"ended": True})
    assert called == [student.pk, student.pk]


def test_lesson_ends_while_the_queue_is_down(api, lesson, monkeypatch, django_capture_on_commit_callbacks, caplog):
    def away(_):
        raise OSError("no queue")

    monkeypatch.setattr(caching, "_calls", [away])
    with django_capture_on_commit_callbacks(execute=True):
        assert api("patch", f"/v1/lessons/{lesson.pk}", {"ended": True})["ended_at"]
    assert "no queue" in caplog.text


def test_worker_result_equals_the_record(api, corrected, student, monkeypatch):
    again = Lesson.objects.create(
        academy=corrected.academy,
        student=student,
        coach=corrected.coach,
        started_at=corrected.started_at + timedelta(days=7),
    )
    paths = (f"/v1/students/{student.pk}/history", f"/v1/lessons/{again.pk}/earlier")
    result = [api("get", path) for path in paths]
    assert result[0]["lessons"][0]["suspects"]
    assert result[1]
    cache.clear()
    work_out(student, date(2026, 6, 1))

    def nobody(*_):
        raise AssertionError("worked out again")

    for where, what in ((history, "_measured"), (findings, "_middles")):
        monkeypatch.setattr(where, what, nobody)
    assert [api("get", path) for path in paths] == result


def test_upgrade_recomputes_active_students_once(coach, student, lesson, monkeypatch):
    now = lesson.started_at + timedelta(days=1)
    others = {"academy": coach.academy, "hand": "right"}
    long_ago, made_up = (Student.objects.create(**others, name=n, made_up=n == "Nobody") for n in ("Gone", "Nobody"))
    for who, days in ((long_ago, 40), (made_up, 0)):
        Lesson.objects.create(academy=coach.academy, student=who, coach=coach, started_at=now - timedelta(days=days))
    called = []
    for _ in range(2):
        once_by_this_code("records", lambda: called.extend(who_comes(now)))
    assert called == [student.pk]
    monkeypatch.setattr(caching, "_code", lambda: "the-next-release")
    once_by_this_code("records", lambda: called.extend(who_comes(now)))
    assert called == [student.pk, student.pk]


def test_failed_task_is_not_marked_done(db):
    def fails():
        raise ValueError("halfway")

    done = []
    with pytest.raises(ValueError, match="halfway"):
        once_by_this_code("something", fails)
    once_by_this_code("something", lambda: done.append(1))
    assert done == [1]


@pytest.mark.parametrize("task", ["record", "records", "rounds"])
def test_worker_survives_a_lost_database(task, coach, student, lesson, monkeypatch, caplog):
    def away(*_):
        raise OperationalError(2006, "Server has gone away")

    for where, what in ((worker, "work_out"), (worker, "who_comes"), (worker.services, "rounds")):
        monkeypatch.setattr(where, what, away)
    getattr(worker, task)(*[student.pk] * (task == "record"))
    assert "gone away" in caplog.text

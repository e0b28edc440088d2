"""What is worked out of a lesson is worked out anew exactly when something of the student's lessons changed."""

import pytest
from django.core.cache import cache
from django.db import transaction

from instavis.lessons import kept as keeping
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.kept import kept
from instavis.lessons.models import Lesson


@pytest.fixture
def times():
    return []


def work(times):
    def done():
        times.append(1)
        return len(times)

    return done


def again(lesson, times, *given):
    return kept("a test", Lesson.objects.get(pk=lesson.pk), work(times), *given)


def test_it_is_kept_until_the_lesson_changes(lesson, times):
    assert [again(lesson, times), again(lesson, times)] == [1, 1]
    with transaction.atomic():
        log_change(locked_lesson(lesson.pk), Aspect.CHECKS)
    assert [again(lesson, times), again(lesson, times)] == [2, 2]


def test_what_else_is_given_is_part_of_it(lesson, times):
    assert [again(lesson, times, "7i"), again(lesson, times, "dr"), again(lesson, times, "7i")] == [1, 2, 1]


def test_another_lesson_of_the_student_and_the_handicap_are_part_of_it(lesson, times):
    assert again(lesson, times) == 1
    here = Lesson.objects.get(pk=lesson.pk)
    Lesson.objects.create(academy=here.academy, student=here.student, coach=here.coach, started_at=here.started_at)
    assert again(lesson, times) == 2
    here.student.handicap = 3.5
    here.student.save()
    assert again(lesson, times) == 3


def test_other_code_works_it_out_anew(lesson, times, monkeypatch):
    assert again(lesson, times) == 1
    monkeypatch.setattr(keeping, "_code", lambda: "the next release")
    assert again(lesson, times) == 2


def test_a_state_never_comes_back(lesson, times):
    """A backup brings the log back to where it was, and something else is done then."""
    with transaction.atomic():
        log_change(locked_lesson(lesson.pk), Aspect.CHECKS)
    assert again(lesson, times) == 1
    lesson.events.all().delete()
    Lesson.objects.filter(pk=lesson.pk).update(last_event=Lesson.objects.get(pk=lesson.pk).last_event - 1, state="")
    with transaction.atomic():
        log_change(locked_lesson(lesson.pk), Aspect.CHECKS)
    assert again(lesson, times) == 2


def test_without_a_cache_the_work_is_done_each_time(lesson, times, monkeypatch):
    from redis.exceptions import ConnectionError as Gone

    def gone(*_):
        raise Gone

    monkeypatch.setattr(cache, "get", gone)
    monkeypatch.setattr(cache, "set", gone)
    assert [again(lesson, times), again(lesson, times)] == [1, 2]

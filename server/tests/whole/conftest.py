"""One lesson with everything in it, made once per module; each test undoes only its own changes."""

from __future__ import annotations

import pytest

from instavis.lessons.models import Lesson

from ..conftest import corrected_lesson, furnished, signed_in


@pytest.fixture(scope="module")
def made(for_the_module, balls, picture):
    lesson = corrected_lesson(balls)
    return furnished(signed_in(lesson.coach), lesson, balls, picture).pk


@pytest.fixture
def full(db, made):
    return Lesson.objects.get(pk=made)


@pytest.fixture
def coach(full):
    return full.coach


@pytest.fixture
def student(full):
    return full.student

"""Altered archives are refused by name, or imported and readable on every page."""

from __future__ import annotations

import copy
import json
import os

import numpy as np
import pytest
from django.db import transaction
from django.utils import timezone

from instavis.archives.incoming import bring_in
from instavis.archives.outgoing import document_of
from instavis.assessment.findings.selectors import ranking_of
from instavis.corrections.proofs.api import proof_out
from instavis.corrections.selectors import candidates_of
from instavis.display.lessons.stations import stations_of
from instavis.lessons.models import Lesson
from instavis.practice.models import TakeHome
from instavis.practice.selectors import take_home_of
from instavis.reports.day import day_of
from instavis.reports.history import history_of
from instavis_core.errors import InputError

from .test_archives import document_of_lesson

MUTANTS = int(os.environ.get("INSTAVIS_MUTANTS", "90"))
"""How many of some thousand are tried; all of them by hand."""
VALUES = [
    *(
        None,
        True,
        False,
        -1,
        0,
        1.5,
        10**20,
        1e308,
        "",
        " ",
        "x",
        "x" * 5000,
        "half \ud800",
        "zero\0",
        [],
        [[]],
        {},
        {"a": 1},
    ),
    *("0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-12:00", "2026-05-04", "2026-13-45T00:00:00Z", "left", "=1+1"),
]


class Undo(Exception):
    """Takes everything back."""


def places(value, path=()):
    """Every place of a document; of long lists the first and the last entry."""
    yield path
    if isinstance(value, dict):
        for name in value:
            yield from places(value[name], (*path, name))
    elif isinstance(value, list):
        for i in sorted({0, len(value) - 1} & set(range(len(value)))):
            yield from places(value[i], (*path, i))


def mutant(document: dict, path: tuple, value) -> dict:
    changed = copy.deepcopy(document)
    row = changed
    for step in path[:-1]:
        row = row[step]
    if value is Undo:
        del row[path[-1]]
    else:
        row[path[-1]] = value
    return changed


def test_mutated_archives_break_no_page(full, coach):
    document = {**document_of_lesson(full), "stills": []}
    every = [(path, value) for path in places(document) if path for value in [*VALUES, Undo]]
    assert len(every) > 4000
    chosen = np.random.default_rng(20261126).permutation(len(every))[:MUTANTS]
    taken = 0
    for path, value in (every[i] for i in chosen):
        data = json.dumps(mutant(document, path, value)).encode()
        try:
            with transaction.atomic():
                try:
                    (lesson,) = bring_in(coach, data, timezone.now())
                except InputError as error:
                    error.message.encode()
                    continue
                taken += 1
                everything_reads(coach, Lesson.objects.get(pk=lesson.pk))
                raise Undo
        except Undo:
            continue
        except Exception as error:
            raise AssertionError(f"{'.'.join(map(str, path))} = {value!r}") from error
    assert 0 < taken < MUTANTS / 2


def everything_reads(coach, lesson: Lesson) -> None:
    """What a coach may open afterwards; of the lists, that nothing in them is unreadable."""
    json.dumps(document_of(lesson))
    stations_of(lesson)
    ranking_of(lesson)
    candidates_of(lesson, {})
    proof_out(lesson).dict(mode="json")
    take_home_of(lesson, lesson.day)
    for day in (lesson.day, coach.academy.day_of(timezone.now())):
        day_page = day_of(coach, day, False)
        assert "unreadable" not in {o.kind for o in day_page.open} | {v.state for v in day_page.visits}
    history_of(lesson.student, lesson.day)


@pytest.mark.parametrize("poison", [{"paused_for": "1"}, {"moves": {"soon": "later"}}])
def test_unreadable_lesson_breaks_no_list(api, full, poison):
    """As an older release could still take one in."""
    TakeHome.objects.filter(lesson=full).update(paused_at=timezone.now(), **poison)
    day = api("get", "/v1/day")
    assert [v["lesson_id"] for v in day["visits"]] == [full.pk]
    if "paused_for" in poison:
        assert "unreadable" in {o["kind"] for o in day["open"]}
    history = api("get", f"/v1/students/{full.student_id}/history")
    assert [row["id"] for row in history["lessons"]] == [full.pk]
    api("get", "/v1/lessons")

"""No query scans a table that grows with every ball."""

from __future__ import annotations

import re

import pytest
from django.apps import apps
from django.db import connection
from django.test.utils import CaptureQueriesContext

from .test_permissions import call, coach_endpoints, objects  # noqa: F401 (a fixture)

pytestmark = pytest.mark.django_db

GROWING = {
    apps.get_model(label)._meta.db_table
    for label in ("shots.Shot", "lessons.Lesson", "lessons.LessonEvent", "lessons.Block", "devices.RefusedBall")
    + ("recordings.Recording", "measured.PivotReading", "corrections.Correction", "people.Student")
}
READS = ("all", "index")
"""How MariaDB calls the reading of a whole table, or of a whole index."""


def without_index(statement: str) -> list[str]:
    """The growing tables that a statement could only answer by reading all of them."""
    named = dict(re.findall(r"`(\w+)` (T\d+)\b", statement))
    real = {alias: table for table, alias in named.items()}
    with connection.cursor() as cursor:
        cursor.execute("EXPLAIN " + statement.replace("%", "%%"))
        columns = [column[0].lower() for column in cursor.description]
        rows = [dict(zip(columns, row, strict=True)) for row in cursor.fetchall()]
    return [
        row["table"]
        for row in rows
        if real.get(row["table"], row["table"]) in GROWING
        and (row["type"] or "").lower() in READS
        and not row["possible_keys"]
    ]


def test_full_table_scan_is_recognized(lesson):
    assert without_index("SELECT id FROM `shots_shot` WHERE `shots_shot`.`note` = 'x'") == ["shots_shot"]
    assert without_index(f"SELECT id FROM `shots_shot` WHERE `shots_shot`.`lesson_id` = {lesson.pk}") == []


def test_every_page_and_ball_uses_an_index(api, objects, corrected, device, balls, numbered):  # noqa: F811
    asked: dict[str, str] = {}
    with CaptureQueriesContext(connection) as ball:
        device(numbered(balls(2), 900))
    asked |= {query["sql"]: "a ball" for query in ball.captured_queries}
    for method, path, spec in coach_endpoints():
        if method == "get":
            with CaptureQueriesContext(connection) as page:
                call(api.client, method, path, spec, objects)
            asked |= {query["sql"]: path for query in page.captured_queries}
    selects = {sql: where for sql, where in asked.items() if sql.startswith("SELECT")}
    assert len(selects) > 100
    slow = {f"{where}: {sql[:400]}" for sql, where in selects.items() if without_index(sql)}
    assert slow == set()

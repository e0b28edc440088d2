"""Every page of an academy with years of work in it: how long its answers take, and what they read past the indexes."""

from __future__ import annotations

import time
from collections.abc import Iterator

import numpy as np
from bench.target import Measured

from attack.siege import Siege
from attack.years import fill

P95_MS = 300.0
MOST_SCANNED = 2000  # rows that a page may read one after the other: small tables, and what was found already in order
TURNS = 20  # students and lessons that each page is opened for
PAGES = {
    "students": ("roster",),
    "a student looked for": ("roster?words=sam 00&days=90",),
    "archived students": ("roster?archived=true",),
    "a student": ("students/{student}", "students/{student}/history"),
    "day": ("day",),
    "outcomes": ("outcomes",),
    "bays": ("bays",),
    "lessons": ("lessons",),
    "a lesson opened": ("lessons/{lesson}", "lessons/{lesson}/shots"),
    "ask": ("lessons/{lesson}/intake", "lessons/{lesson}/earlier"),
    "baseline": ("lessons/{lesson}/reading",),
    "check and cause": ("lessons/{lesson}/cause", "lessons/{lesson}/checks"),
    "correct": ("lessons/{lesson}/corrections", "lessons/{lesson}/trials"),
    "prove": ("lessons/{lesson}/proof",),
    "take home": ("lessons/{lesson}/take-home", "lessons/{lesson}/schedule"),
    "academy": ("academy", "coaches", "invitations", "audit"),
    "own page": ("session/account", "session/list", "session/notices"),
    "knowledge": ("knowledge",),
}
"""What each page asks for when it is opened, one after the other."""


def attack(siege: Siege, balls: int, lessons: int, turns: int = TURNS) -> Iterator[Measured]:
    """Fill the academy, then open each page again and again, each time for another student and lesson."""
    begun = time.monotonic()
    fill(siege.running, balls, lessons)
    found = siege.access.ask(siege.access.name, "SELECT COUNT(*) FROM shots_shot")[0][0]
    yield Measured(
        what=f"academy filled in {time.monotonic() - begun:.0f} s",
        figure=f"{found:,} balls, {lessons:,} lessons",
        wanted=f"≥ {balls:,} balls",
        met=found >= balls,
    )
    rows = siege.access.ask(siege.access.name, "SELECT id, student_id FROM lessons_lesson ORDER BY id DESC LIMIT 10000")
    chosen = np.random.default_rng(1).choice(len(rows), turns, replace=False)
    opened = [rows[i] for i in chosen]
    for page, paths in PAGES.items():
        before = _scanned(siege)
        first = [_took(siege, paths, *row) for row in opened]
        scanned = (_scanned(siege) - before) / turns
        again = [_took(siege, paths, *row) for row in opened]
        worst = max(np.percentile(took, 95) for took in (first, again))
        yield Measured(
            what=f"answers of the page: {page}",
            figure=f"opened first {_told(first)}; again {_told(again)}; {scanned:,.0f} rows scanned",
            wanted=f"p95 ≤ {P95_MS:g} ms, ≤ {MOST_SCANNED:,} rows",
            met=bool(worst <= P95_MS and scanned <= MOST_SCANNED),
        )


def _scanned(siege: Siege) -> int:
    """Rows that the database has read one after the other instead of by an index, since it began."""
    (row,) = siege.access.ask("information_schema", "SHOW GLOBAL STATUS LIKE 'Handler_read_rnd_next'")
    return int(row[1])


def _took(siege: Siege, paths: tuple[str, ...], lesson: int, student: int) -> float:
    """Milliseconds until everything that a page asks for is answered."""
    begun = time.perf_counter()
    for path in paths:
        answer = siege.head.get("/api/v1/" + path.format(lesson=lesson, student=student))
        assert answer.status_code == 200, (path, answer.status_code, answer.text)
    return 1000 * (time.perf_counter() - begun)


def _told(took: list[float]) -> str:
    p50, p95 = np.percentile(took, [50, 95])
    return f"p50 {p50:.0f} ms, p95 {p95:.0f} ms"

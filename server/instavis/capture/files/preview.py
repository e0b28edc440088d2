"""What rows would become with a mapping, before anything is stored."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from instavis.capture.shots.selectors import record_of
from instavis.platform.errors import Problem, problem_of
from instavis_core.golfer import Golfer
from instavis_core.message import Message
from instavis_core.shots import Shot as CoreShot
from instavis_io.tables import MappedRow, table_doubts

SHOWN_BALLS, SHOWN_ROWS, DOUBTED_BALLS, PREVIEW_ROWS = 12, 12, 200, 3000


@dataclass(frozen=True, kw_only=True)
class Preview:
    """What rows would become with a mapping; ``complete`` is False if only the first ones were read."""

    balls: list[dict[str, Any]]
    count: int
    skipped: list[dict[str, Any]]
    skipped_count: int
    problems: list[Problem]
    problem_count: int
    doubts: list[Message]
    complete: bool


def preview(mapped: Iterable[MappedRow], golfer: Golfer) -> Preview:
    """Return the first balls, skipped rows, errors and doubts."""
    shots: list[CoreShot] = []
    skipped: list[dict[str, Any]] = []
    problems: list[Problem] = []
    rows = 0
    balls = wrong = passed_over = 0
    for row in mapped:
        rows += 1
        if rows > PREVIEW_ROWS:
            break
        if row.shot is not None:
            balls += 1
            if len(shots) < DOUBTED_BALLS:
                shots.append(row.shot)
        elif row.error is not None:
            wrong += 1
            if len(problems) < SHOWN_ROWS:
                problems.append(problem_of(row.error))
        else:
            passed_over += 1
            if len(skipped) < SHOWN_ROWS:
                skipped.append({"line": row.line, "reason": row.skipped})
    return Preview(
        balls=[record_of(s) for s in shots[:SHOWN_BALLS]],
        count=balls,
        skipped=skipped,
        skipped_count=passed_over,
        problems=problems,
        problem_count=wrong,
        doubts=table_doubts(shots, golfer),
        complete=rows <= PREVIEW_ROWS,
    )

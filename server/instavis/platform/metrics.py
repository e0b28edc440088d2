"""Counters for monitoring the running application; read at the launcher's own port."""

from __future__ import annotations

from prometheus_client import Counter, Gauge, Histogram

_answers = Counter("instavis_answers", "Requests answered", ["method", "status"])
_seconds = Histogram(
    "instavis_answer_seconds",
    "From the request to its answer",
    buckets=(0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1.0, 2.5, 5.0, 10.0, 30.0),
)
_statements = Counter("instavis_statements", "Statements to the database", ["slow"])
_statement_seconds = Counter("instavis_statement_seconds", "Time that statements to the database took")
_balls = Counter("instavis_balls", "Balls from devices", ["became"])
_lines = Gauge("instavis_live_lines", "Open live lines", multiprocess_mode="livesum")
_works = Counter("instavis_works", "Long works that ended", ["kind", "state"])

METHODS = frozenset({"GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS"})


def answered(method: str, status: int, seconds: float) -> None:
    """Count an answer."""
    _answers.labels(method if method in METHODS else "other", str(status)).inc()
    _seconds.observe(seconds)


def statement_took(seconds: float, slow: bool) -> None:
    """Count a statement to the database."""
    _statements.labels("yes" if slow else "no").inc()
    _statement_seconds.inc(seconds)


def balls_came(stored: int, known: int, refused: int) -> None:
    """Count the results of a device's batch."""
    for became, count in (("stored", stored), ("known", known), ("refused", refused)):
        if count:
            _balls.labels(became).inc(count)


def line_opened() -> None:
    """Count a live line."""
    _lines.inc()


def line_closed() -> None:
    """Count it out again."""
    _lines.dec()


def work_ended(kind: str, state: str) -> None:
    """Count a finished task."""
    _works.labels(kind, state).inc()

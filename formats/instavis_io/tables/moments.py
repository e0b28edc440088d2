"""When a ball was hit: one cell, or a day and a time in two."""

from __future__ import annotations

import contextlib
import re
from datetime import datetime, tzinfo

DAY, CLOCK = "at_day", "at_clock"
"""Text fields of a mapping that together make one time."""
_CLOCK = re.compile(r"\d{1,2}:\d{2}")
_ONLY_CLOCK = re.compile(r"\d{1,2}:\d{2}(:\d{2}([.,]\d+)?)?(\s*[ap]\.?m\.?)?", re.IGNORECASE)
_DAYS = {".": ("%d.%m.%Y",), "/": ("%d/%m/%Y", "%m/%d/%Y"), "-": ("%Y-%m-%d",)}


def has_clock(cell: str) -> bool:
    """Return whether a cell holds a clock time."""
    return bool(_CLOCK.search(cell))


def is_clock(cell: str) -> bool:
    """Return whether a cell holds a clock time and nothing else."""
    return bool(_ONLY_CLOCK.fullmatch(cell.strip()))


def read_moment(text: str, zone: tzinfo) -> str | None:
    """Return a moment in ISO form; None if it is ambiguous.

    A time without a zone is of the one that is given; 4/5/2026 may be April or May, so it is none.

    >>> from datetime import UTC
    >>> read_moment("24.12.2026 2:05 PM", UTC)
    '2026-12-24T14:05:00+00:00'
    """
    with contextlib.suppress(ValueError):
        return _zoned(datetime.fromisoformat(text), zone)
    clock = "%H:%M:%S" if text.count(":") == 2 else "%H:%M"
    if re.search(r"[ap]\.?m\.?$", text, re.IGNORECASE):
        clock = clock.replace("%H", "%I") + " %p"
        text = re.sub(r"\s*([ap])\.?m\.?$", r" \1m", text, flags=re.IGNORECASE)
    readings = set()
    for form in next((forms for mark, forms in _DAYS.items() if mark in text), ()):
        with contextlib.suppress(ValueError):
            readings.add(_zoned(datetime.strptime(text, f"{form} {clock}"), zone))  # noqa: DTZ007
    return readings.pop() if len(readings) == 1 else None


def _zoned(moment: datetime, zone: tzinfo) -> str:
    return (moment if moment.tzinfo else moment.replace(tzinfo=zone)).isoformat()

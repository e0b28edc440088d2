"""The practice log: check what a phone sends, merge duplicates, and compute the dose.

A phone may be offline for days with a wrong clock. It sends its own time, and the difference to the server's time is
subtracted. If two phones log the same practice, the entries overlap in time and count as one, with the larger counts.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from instavis_core.errors import InputError
from instavis_core.message import Message

LONGEST = timedelta(hours=4)
OLDEST = timedelta(days=70)  # earlier than any plan
CLOCK_OFF = timedelta(minutes=5)


@dataclass(frozen=True, kw_only=True)
class PracticeEntry:
    """One practice as one phone recorded it, in server time; ``pain`` is the body region that stopped it, or empty."""

    entry_id: str
    day: date
    started_at: datetime
    ended_at: datetime
    felt: int
    not_felt: int
    balls: tuple[dict[str, str], ...] = ()
    pain: str = ""
    note: str = ""


@dataclass(frozen=True, kw_only=True)
class Dose:
    """How much of a plan was practiced: ``days`` with practice out of ``planned`` days so far, and their ``share``
    (None before the first day); ``repetitions`` and how many were ``felt``; ``minutes``; ``balls``; ``pains`` are
    the regions that stopped a practice.
    """

    days: int
    planned: int
    share: float | None
    repetitions: int
    felt: int
    minutes: int
    balls: int
    pains: tuple[str, ...]


def on_the_servers_clock(
    day: date, started: datetime, ended: datetime, sent: datetime, now: datetime
) -> tuple[date, datetime, datetime]:
    """Convert day, start and end from a phone's clock, which may be wrong, to server time.

    Parameters
    ----------
    day : date
        The student's own calendar day, believed where the phone's clock can be, which knows the zone.
    started, ended, sent : datetime
        By the phone's clock, with their zone.
    now : datetime
        The server's clock when it came in.

    Raises
    ------
    InputError
        For a practice that ends before it starts, lasts too long, is still to come, or is older than any plan.
    """
    off = now - sent
    try:
        if abs(off) > CLOCK_OFF:
            started, ended = started + off, ended + off
        fits = started <= ended <= started + LONGEST
    except OverflowError as error:  # at the edge of the calendar
        expected = Message("take-home-time-last-days", days=OLDEST.days)
        raise InputError("started_at", started.isoformat(), expected) from error
    if not fits:
        raise InputError("ended_at", ended.isoformat(), Message("take-home-time-after-start-most-four"))
    if ended > now + CLOCK_OFF:
        raise InputError("ended_at", ended.isoformat(), Message("take-home-time-passed-when-entry-sent"))
    if started < now - OLDEST:
        raise InputError("started_at", started.isoformat(), Message("take-home-time-last-days", days=OLDEST.days))
    if abs(off) > timedelta(hours=12) or abs(day - started.date()) > timedelta(days=1):
        day = started.date()
    return day, started, ended


def merged(entries: Sequence[PracticeEntry]) -> list[PracticeEntry]:
    """Merge entries that overlap in time: from the first start to the last end, with the larger counts."""
    practices: list[PracticeEntry] = []
    for entry in sorted(entries, key=lambda e: (e.started_at, e.entry_id)):
        last = practices[-1] if practices else None
        if last is None or entry.started_at >= last.ended_at:
            practices.append(entry)
            continue
        fuller = max(last, entry, key=lambda e: e.felt + e.not_felt)
        practices[-1] = PracticeEntry(
            entry_id=last.entry_id,
            day=last.day,
            started_at=last.started_at,
            ended_at=max(last.ended_at, entry.ended_at),
            felt=fuller.felt,
            not_felt=fuller.not_felt,
            balls=max(last.balls, entry.balls, key=len),
            pain=last.pain or entry.pain,
            note=" ".join(dict.fromkeys(n for n in (last.note, entry.note) if n)),
        )
    return practices


def dose_of(entries: Sequence[PracticeEntry], planned: int) -> Dose:
    """Return the dose of a plan with ``planned`` days so far."""
    practices = merged(entries)
    days = len({p.day for p in practices if p.felt + p.not_felt or p.balls})
    seconds = sum((p.ended_at - p.started_at).total_seconds() for p in practices)
    return Dose(
        days=days,
        planned=planned,
        share=min(1.0, days / planned) if planned else None,
        repetitions=sum(p.felt + p.not_felt for p in practices),
        felt=sum(p.felt for p in practices),
        minutes=round(seconds / 60),
        balls=sum(len(p.balls) for p in practices),
        pains=tuple(dict.fromkeys(p.pain for p in practices if p.pain)),
    )

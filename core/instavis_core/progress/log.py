"""The practice log: what a phone sends checked, practice logged twice counted once, and the dose of it all.

A phone may be offline for days, and its clock may be wrong: it tells its own time of sending, and the difference to the
server's is taken off. Two phones that log the same practice overlap in time: such entries are one practice, with the
larger of their counts.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

from instavis_core.errors import InputError
from instavis_core.knowledge import vocabulary

MOST_COUNTED, MOST_BALLS, LONGEST_NOTE = 2000, 200, 300
LONGEST = timedelta(hours=4)
OLDEST = timedelta(days=70)  # an entry that waited longer than any plan lasts
CLOCK_OFF = timedelta(minutes=5)
STARTS, CURVES = ("left", "straight", "right"), ("left", "straight", "right")
CONTACTS = ("solid", "thin", "fat", "toe", "heel")
ENTRY_ID = re.compile(r"[0-9a-zA-Z-]{8,64}")


@dataclass(frozen=True, kw_only=True)
class PracticeEntry:
    """One practice as one phone saw it, server time; ``pain`` is the body region that stopped it, or empty."""

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
    """What was practised of a plan.

    ``days`` days with practice of ``planned`` that have passed; ``share`` of them, None before the first has;
    ``repetitions`` done, ``felt`` of them; ``minutes``; ``balls``; ``pains`` the regions that stopped a practice.
    """

    days: int
    planned: int
    share: float | None
    repetitions: int
    felt: int
    minutes: int
    balls: int
    pains: tuple[str, ...]


def read_entry(raw: dict[str, Any], now: datetime) -> PracticeEntry:
    """Check one entry.

    Parameters
    ----------
    raw : dict
        ``entry_id``, ``day``, ``started_at``, ``ended_at``, ``sent_at``, ``felt``, ``not_felt``, ``balls``, ``pain``,
        ``note``; times with their zone, by the phone's clock.
    now : datetime
        The server's clock.

    Raises
    ------
    InputError
        Naming the field, its value and what was expected.
    """
    entry_id = raw.get("entry_id")
    if not isinstance(entry_id, str) or not ENTRY_ID.fullmatch(entry_id):
        raise InputError("entry_id", entry_id, "8 to 64 letters, digits and dashes, the same whenever it is sent again")
    started, ended, sent = (_moment(raw, name) for name in ("started_at", "ended_at", "sent_at"))
    off = now - sent
    if abs(off) > CLOCK_OFF:
        started, ended = started + off, ended + off
    if not started <= ended <= started + LONGEST:
        raise InputError("ended_at", raw.get("ended_at"), "a time after the start, at most four hours later")
    if ended > now + CLOCK_OFF:
        raise InputError("ended_at", raw.get("ended_at"), "a time that has passed when the entry is sent")
    if started < now - OLDEST:
        raise InputError("started_at", raw.get("started_at"), f"a time in the last {OLDEST.days} days")
    pain = raw.get("pain") or ""
    if pain and pain not in vocabulary().words["region"]:
        raise InputError("pain", pain, "one of " + ", ".join(vocabulary().words["region"]))
    note = raw.get("note") or ""
    if not isinstance(note, str) or len(note) > LONGEST_NOTE:
        raise InputError("note", note, f"a text of at most {LONGEST_NOTE} characters")
    return PracticeEntry(
        entry_id=entry_id,
        day=_day(raw.get("day"), started, off),
        started_at=started,
        ended_at=ended,
        felt=_count(raw, "felt"),
        not_felt=_count(raw, "not_felt"),
        balls=_balls(raw.get("balls") or []),
        pain=pain,
        note=note,
    )


def _moment(raw: dict[str, Any], name: str) -> datetime:
    value = raw.get(name)
    if isinstance(value, str):
        try:
            value = datetime.fromisoformat(value)
        except ValueError:
            value = None
    if not isinstance(value, datetime) or value.tzinfo is None:
        raise InputError(name, raw.get(name), "a time with its zone, like 2026-05-04T09:12:31Z")
    return value


def _day(raw: Any, started: datetime, off: timedelta) -> date:
    """The student's own calendar day: as told where the phone's clock can be believed, which knows the zone."""
    try:
        told = raw if isinstance(raw, date) else date.fromisoformat(raw)
    except (TypeError, ValueError):
        raise InputError("day", raw, "a day like 2026-05-04") from None
    if abs(off) > timedelta(hours=12) or abs(told - started.date()) > timedelta(days=1):
        return started.date()
    return told


def _count(raw: dict[str, Any], name: str) -> int:
    value = raw.get(name, 0)
    if isinstance(value, bool) or not isinstance(value, int) or not 0 <= value <= MOST_COUNTED:
        raise InputError(name, value, f"a whole number from 0 to {MOST_COUNTED}")
    return value


def _balls(raw: Any) -> tuple[dict[str, str], ...]:
    if not isinstance(raw, list) or len(raw) > MOST_BALLS:
        raise InputError("balls", raw, f"a list of at most {MOST_BALLS} balls")
    allowed = {"start": STARTS, "curve": CURVES, "contact": CONTACTS}
    for i, ball in enumerate(raw):
        if not isinstance(ball, dict) or not ball or not ball.keys() <= allowed.keys():
            raise InputError(f"balls[{i}]", ball, "an object with start, curve or contact")
        for name, value in ball.items():
            if value not in allowed[name]:
                raise InputError(f"balls[{i}].{name}", value, "one of " + ", ".join(allowed[name]))
    return tuple(raw)


def merged(entries: Sequence[PracticeEntry]) -> list[PracticeEntry]:
    """Entries that overlap in time as one practice: from the first start to the last end, with the larger counts."""
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
    """The dose of a plan of which ``planned`` days have passed."""
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

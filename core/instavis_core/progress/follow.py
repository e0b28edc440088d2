"""The plan with the practice so far: moved, done and missed days, and the days to come."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from instavis_core.errors import InputError
from instavis_core.message import Message
from instavis_core.progress.schedule import MAX_DAYS, Session

STANDS_FOR = 2  # days after a planned one when practice still counts for it (assumption)
EASED_DAYS = 2  # days that restart at the first stage after a miss


@dataclass(frozen=True, kw_only=True)
class PlannedDay:
    """One day of the plan.

    ``planned`` is the original day and identifies it; ``day`` is the current one. ``state`` is done, missed, today or
    to-come; ``eased`` is true if it starts again at the first stage after a missed day.
    """

    planned: date
    day: date
    minutes: int
    stage: str
    repetitions: int
    text: Message
    state: str
    eased: bool


def follow_plan(
    sessions: Sequence[Session], moves: Mapping[date, date], practised: Collection[date], today: date
) -> list[PlannedDay]:
    """Return the plan on a given day.

    Parameters
    ----------
    sessions : sequence of Session
        As planned, by day.
    moves : mapping of date to date
        Days moved: the day as planned to the day it is now.
    practised : collection of date
        Days with practice in the log. Practice on an unplanned day stands for the planned day before it, up to two
        days later.
    today : date
    """
    placed = sorted(((moves.get(s.day, s.day), s) for s in sessions), key=lambda pair: pair[0])
    done = _done([day for day, _ in placed], practised)
    states = [_state(day, day in done, today) for day, _ in placed]
    past = [state for state in states if state in ("done", "missed")]
    ease = EASED_DAYS if past and past[-1] == "missed" else 0
    days = []
    for (day, session), state in zip(placed, states, strict=True):
        eased = ease > 0 and state in ("today", "to-come") and session.stage != sessions[0].stage
        ease -= state in ("today", "to-come")
        result = sessions[0] if eased else session
        days.append(
            PlannedDay(
                planned=session.day,
                day=day,
                minutes=session.minutes,
                stage=result.stage,
                repetitions=session.repetitions,
                text=result.text,
                state=state,
                eased=eased,
            )
        )
    return days


def _done(planned: list[date], practised: Collection[date]) -> set[date]:
    done = {day for day in planned if day in practised}
    for day in sorted(set(practised) - done):
        before = [p for p in planned if p not in done and timedelta(0) < day - p <= timedelta(STANDS_FOR)]
        if before:
            done.add(before[-1])
    return done


def _state(day: date, done: bool, today: date) -> str:
    if done:
        return "done"
    if day < today:
        return "missed"
    return "today" if day == today else "to-come"


def move_day(days: Sequence[PlannedDay], planned: date, to: date, until: date | None, today: date) -> None:
    """Raise an error if a day of the plan may not be moved.

    Parameters
    ----------
    days : sequence of PlannedDay
    planned : date
        The day as it was first planned.
    to : date
    until : date, optional
        The day of the next lesson.
    today : date

    Raises
    ------
    InputError
        For a day that is not planned or is done, a target in the past, on or after the next lesson, already practised
        on, or one that leaves no rest day in a week.
    """
    moved = next((d for d in days if d.planned == planned), None)
    if moved is None:
        raise InputError("planned", planned.isoformat(), Message("take-home-day-plan"))
    if moved.state == "done":
        raise InputError("planned", planned.isoformat(), Message("take-home-day-still-come-one-done"))
    if to < today:
        raise InputError("to", to.isoformat(), Message("take-home-day-today", today=today.isoformat()))
    if until is not None and to >= until:
        raise InputError(
            "to",
            to.isoformat(),
            Message("take-home-day-before-next-lesson", until=until.isoformat()),
        )
    others = [d.day for d in days if d is not moved]
    if to in others:
        raise InputError("to", to.isoformat(), Message("take-home-day-without-practice-twice-one"))
    week = timedelta(days=7)
    for start in (d for d in [*others, to] if d <= to < d + week):
        if sum(start <= d < start + week for d in [*others, to]) > MAX_DAYS:
            raise InputError(
                "to",
                to.isoformat(),
                Message("take-home-most-days-any-seven-so", most=MAX_DAYS),
            )

"""Practice between two lessons: spaced days, stages without a monitor, limits and rest days.

Spacing after Cepeda et al., *Psychol. Bull.* 132 (2006) 354: the same minutes spread over more days are retained
better. Limits follow general advice for young and old students and after an injury (assumptions).
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

from instavis_core.errors import InputError
from instavis_core.knowledge import Drill, vocabulary
from instavis_core.message import Message

LONGEST = 56  # days planned ahead at most
WITHOUT_DATE = 14  # days planned when the next lesson is not fixed
MINUTES = ((13, 10), (18, 15), (60, 25), (200, 15))  # upper age, maximum minutes a day
SORE_MINUTES, SORE_DAYS = 10, 4
MAX_DAYS = 6  # of a week: one rest day at least
REPETITIONS_A_MINUTE = 3.0
FEEL_SHARE, MIXED_FROM = 0.35, 0.8  # of the way: position first, everything in random order last


@dataclass(frozen=True, kw_only=True)
class PracticeNeeds:
    """What a plan must respect: minutes per day, days per week, age, limits by body region, equipment at home (None if
    unknown).

    With ``eyes_open``, for limited balance, no exercise is done with eyes closed.
    """

    minutes: int
    days_a_week: int
    age: int | None = None
    limits: tuple[tuple[str, str], ...] = ()
    kit: frozenset[str] | None = None
    eyes_open: bool = False


@dataclass(frozen=True, kw_only=True)
class Session:
    """One day of practice: minutes, stage, repetitions, and one sentence of instruction."""

    day: date
    minutes: int
    stage: str
    repetitions: int
    text: Message


def practice_schedule(first: date, until: date | None, drill: Drill, needs: PracticeNeeds) -> list[Session]:
    """Plan the days until the next lesson.

    Parameters
    ----------
    first : date
        The first day that may be practised on.
    until : date, optional
        The day of the next lesson, not practised on; two weeks are planned when it is not known.
    drill : Drill
    needs : PracticeNeeds

    Raises
    ------
    InputError
        For minutes or days out of range, or a lesson before the first day.
    """
    if not 1 <= needs.minutes <= 90:
        raise InputError("minutes", needs.minutes, Message("take-home-1-90-minutes-day"))
    if not 1 <= needs.days_a_week <= 7:
        raise InputError("days_a_week", needs.days_a_week, Message("take-home-1-7-days-week"))
    until = until or first + timedelta(days=WITHOUT_DATE)
    if until < first:
        raise InputError(
            "next_lesson",
            until.isoformat(),
            Message("common-day", first=first.isoformat()),
        )
    span = min((until - first).days, LONGEST)
    days = _days(first, span, _days_a_week(needs))
    return [_session(day, place, len(days), drill, needs) for place, day in enumerate(days)]


def _days_a_week(needs: PracticeNeeds) -> int:
    return min(needs.days_a_week, SORE_DAYS if _sore(needs) else MAX_DAYS)


def _sore(needs: PracticeNeeds) -> bool:
    return any(kind in ("pain", "injury") for _, kind in needs.limits)


def _days(first: date, span: int, a_week: int) -> list[date]:
    """Return evenly spread days, never more in any seven than requested."""
    count = max(1, round(span * a_week / 7)) if span else 0
    places = sorted({int((i + 0.5) * span / count) for i in range(count)})
    chosen: list[int] = []
    for place in places:
        while sum(place - p < 7 for p in chosen) >= a_week:
            place += 1
        if place < span and place not in chosen:
            chosen.append(place)
    return [first + timedelta(days=p) for p in chosen]


def most_minutes(needs: PracticeNeeds) -> int:
    """Return the limit for this student: by age, lower with pain or an injury."""
    years = 30 if needs.age is None else needs.age
    cap = next(m for upper, m in MINUTES if years < upper)
    return min(cap, SORE_MINUTES) if _sore(needs) else cap


def _session(day: date, place: int, count: int, drill: Drill, needs: PracticeNeeds) -> Session:
    stages = [s for s in drill.stages if not vocabulary().stages[s].ball] or ["rehearse"]
    share = place / max(count - 1, 1)
    stage = stages[0] if share < FEEL_SHARE or len(stages) == 1 else stages[-1]
    minutes = min(needs.minutes, most_minutes(needs))
    repetitions = max(3, int(minutes * REPETITIONS_A_MINUTE))
    return Session(
        day=day,
        minutes=minutes,
        stage=stage,
        repetitions=repetitions,
        text=_text(stage, share, repetitions, drill, needs),
    )


def _text(stage: str, share: float, repetitions: int, drill: Drill, needs: PracticeNeeds) -> Message:
    held = Message("take-home-hold") if needs.eyes_open else Message("take-home-hold-eyes-closed-every-third")
    words = {"feel": held, "rehearse": Message("take-home-slowly-both-directions")}
    what = words.get(stage, Message("take-home-slow"))
    if share >= MIXED_FROM:
        what = (
            Message("take-home-without-object-first")
            if drill.object != "none"
            else Message("take-home-slowly-first-your-own-pace")
            if needs.eyes_open
            else Message("take-home-eyes-closed-first-open")
        )
    lacking = drill.object != "none" and drill.kit and needs.kit is not None and not needs.kit & set(drill.kit)
    in_the_air = Message("take-home-no-object-home-do-air")
    place = in_the_air if lacking else ""
    return Message("take-home-times", name=drill.name, repetitions=repetitions, what=what, place=place)

"""The practice log: what a phone may send, its clock corrected, and each entry counted once."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import numpy as np
import pytest

from instavis_core.errors import InputError
from instavis_core.progress import dose_of, merged
from instavis_io.practice import read_log

NOW = datetime(2026, 3, 30, 18, 0, tzinfo=UTC)


def entry(minute=0, length=10, **changes):
    start = NOW - timedelta(hours=1) + timedelta(minutes=minute)
    return {
        "entry_id": f"entry-{minute:04d}",
        "day": start.date().isoformat(),
        "started_at": start.isoformat(),
        "ended_at": (start + timedelta(minutes=length)).isoformat(),
        "sent_at": NOW.isoformat(),
        "felt": 20,
        "not_felt": 10,
        **changes,
    }


def read_entry(raw, now):
    result = dict(raw)
    [read] = read_log({"sent_at": result.pop("sent_at"), "entries": [result]}, now)
    return read


def test_practice_entry_round_trips():
    balls = [{"start": "left", "curve": "right", "contact": "thin"}, {"contact": "solid"}]
    read = read_entry(entry(balls=balls, note="Windy."), NOW)
    assert (read.felt, read.not_felt, read.note, list(read.balls)) == (20, 10, "Windy.", balls)
    assert read.day == NOW.date()
    assert read.ended_at - read.started_at == timedelta(minutes=10)


@pytest.mark.parametrize("days_off", [-400, -1, 3, 900])
def test_wrong_phone_clock_is_corrected(days_off):
    """The phone is off by days; what it did an hour before sending was an hour before it came in."""
    off = timedelta(days=days_off)
    start, sent = NOW - timedelta(hours=1) + off, NOW + off
    raw = entry(
        day=start.date().isoformat(),
        started_at=start.isoformat(),
        ended_at=(start + timedelta(minutes=10)).isoformat(),
        sent_at=sent.isoformat(),
    )
    read = read_entry(raw, NOW)
    assert read.started_at == NOW - timedelta(hours=1)
    assert read.day == NOW.date()


def test_entry_may_be_sent_days_later():
    start = NOW - timedelta(days=5)
    raw = entry(
        day=start.date().isoformat(), started_at=start.isoformat(), ended_at=(start + timedelta(minutes=9)).isoformat()
    )
    assert read_entry(raw, NOW).day == start.date()


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"entry_id": "short"}, "entry_id"),
        ({"entry_id": "x" * 65}, "entry_id"),
        ({"entry_id": None}, "entry_id"),
        ({"entry_id": "with space!!"}, "entry_id"),
        ({"started_at": "yesterday"}, "started_at"),
        ({"started_at": "2026-03-30T17:00:00"}, "started_at"),
        ({"ended_at": "2026-03-30T16:59:00+00:00"}, "ended_at"),
        ({"ended_at": "2026-03-30T22:00:00+00:00"}, "ended_at"),
        ({"ended_at": "2026-03-30T18:30:00+00:00"}, "ended_at"),
        ({"started_at": "2025-03-30T17:00:00Z", "ended_at": "2025-03-30T17:10:00Z"}, "started_at"),
        ({"sent_at": 12}, "sent_at"),
        ({"day": "tomorrow"}, "day"),
        ({"day": 7}, "day"),
        ({"felt": -1}, "felt"),
        ({"felt": 2001}, "felt"),
        ({"felt": True}, "felt"),
        ({"felt": 1.5}, "felt"),
        ({"not_felt": float("nan")}, "not_felt"),
        ({"pain": "soul"}, "pain"),
        ({"note": "x" * 301}, "note"),
        ({"note": 3}, "note"),
        ({"balls": [{}]}, "balls[0]"),
        ({"balls": [{"start": "up"}]}, "balls[0].start"),
        ({"balls": [{"carry": 100}]}, "balls[0].carry"),
        ({"balls": [{"contact": "solid"}] * 201}, "balls"),
        ({"balls": "many"}, "balls"),
    ],
)
def test_invalid_practice_entry_names_the_field(changes, field):
    with pytest.raises(InputError) as caught:
        read_entry(entry(**changes), NOW)
    assert caught.value.field in (field, f"entries[0].{field}")


def test_two_phones_that_log_the_same_practice_count_once():
    one = read_entry(entry(0, 10, felt=20, not_felt=8), NOW)
    other = read_entry(entry(2, 9, entry_id="other-phone", felt=18, not_felt=12, pain="knee"), NOW)
    later = read_entry(entry(30, 5, felt=5, not_felt=0), NOW)
    practices = merged([later, other, one])
    assert [(p.felt, p.not_felt) for p in practices] == [(18, 12), (5, 0)]
    assert practices[0].pain == "knee"
    assert practices[0].ended_at == other.ended_at
    dose = dose_of([later, other, one], planned=3)
    assert (dose.days, dose.repetitions, dose.felt, dose.minutes) == (1, 35, 23, 16)
    assert dose.share == pytest.approx(1 / 3)
    assert dose.pains == ("knee",)


def test_order_of_arrival_does_not_matter():
    rng = np.random.default_rng(12)
    entries = [read_entry(entry(int(m), int(rng.integers(2, 12))), NOW) for m in rng.permutation(40)[:12]]
    doses = {dose_of([entries[i] for i in rng.permutation(12)], 4) for _ in range(20)}
    assert len(doses) == 1


def test_practice_stopped_at_once_by_pain_does_not_count():
    dose = dose_of([read_entry(entry(felt=0, not_felt=0, pain="hip"), NOW)], planned=2)
    assert dose.days == 0
    assert dose.pains == ("hip",)

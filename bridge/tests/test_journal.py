"""The journal writes what it found to disk before it acts, and survives any end of the program."""

from __future__ import annotations

import os

import pytest

from instavis_bridge.journal import Journal

HEAD = ("Club;Path;Face",)


def rows(*texts: str):
    return [(text, HEAD) for text in texts]


@pytest.fixture
def file(tmp_path):
    return tmp_path / "journal"


def test_journal_restores_rows_numbers_and_heads(file):
    journal = Journal(file)
    assert journal.take("a.csv", rows("7i;1;2", "7i;3;4")) == 2
    numbers = [e.number for e in journal.unsent]
    again = Journal(file)
    assert [(e.number, e.text, e.head) for e in again.unsent] == [
        (n, t, HEAD) for n, t in zip(numbers, ("7i;1;2", "7i;3;4"), strict=True)
    ]
    assert again.places["a.csv"].taken == journal.places["a.csv"].taken


def test_confirmed_rows_are_remembered_and_not_resent(file):
    journal = Journal(file)
    journal.take("a.csv", rows("1", "2", "3"))
    journal.confirmed(journal.batch(2))
    again = Journal(file)
    assert [e.text for e in again.unsent] == ["3"]
    assert sum(again.places["a.csv"].taken.values()) == 3
    # And once more, after it was begun anew.
    assert [e.text for e in Journal(file).unsent] == ["3"]
    assert sum(Journal(file).places["a.csv"].taken.values()) == 3


def test_numbers_are_unique_whatever_the_clock_does(file):
    journal = Journal(file, clock=2000.0)
    journal.take("a", rows("1"))
    used = journal.unsent[0].number
    later = Journal(file, clock=5.0)
    later.take("a", rows("2"))
    assert later.unsent[-1].number > used


@pytest.mark.parametrize("cut", range(1, 90, 4))
def test_torn_journal_loses_only_rows_that_are_found_again(file, cut):
    journal = Journal(file)
    journal.take("a.csv", rows("first"))
    size = file.stat().st_size
    journal.take("a.csv", rows("second", "third"))
    journal.close()
    with file.open("r+b") as out:
        out.truncate(max(size, file.stat().st_size - cut))
    again = Journal(file)
    texts = [e.text for e in again.unsent]
    assert texts == ["first", "second", "third"][: len(texts)]
    assert texts
    assert sum(again.places["a.csv"].taken.values()) == len(texts)


def test_full_disk_loses_nothing(file, monkeypatch):
    journal = Journal(file)
    journal.take("a.csv", rows("first"))

    def full(_):
        raise OSError(28, "No space left on device")

    with monkeypatch.context() as patched:
        patched.setattr(os, "fsync", full)
        with pytest.raises(OSError, match="No space"):
            journal.take("a.csv", [("second", ("another head",))])
    assert [e.text for e in journal.unsent] == ["first"]
    journal.take("a.csv", [("second", ("another head",))])
    again = Journal(file)
    assert [(e.text, e.head) for e in again.unsent] == [("first", HEAD), ("second", ("another head",))]


def test_batch_has_one_head_and_one_source(file):
    journal = Journal(file)
    journal.take("a", rows("1", "2"))
    journal.take("a", [("3", ("other",))])
    journal.take("b", [("4", ("other",))])
    sent = []
    while batch := journal.batch(10):
        sent.append([e.text for e in batch])
        journal.confirmed(batch)
    assert sent == [["1", "2"], ["3"], ["4"]]


def test_old_rows_are_not_sent(file):
    Journal(file).know("old.csv", ["1", "1", "2"])
    again = Journal(file)
    assert not again.unsent
    assert sorted(again.places["old.csv"].taken.values()) == [1, 2]

"""Files that grow, or are rewritten, replaced or half written: every row is sent once, old rows never."""

from __future__ import annotations

import json
import os
import random
import time

import pytest

from instavis_bridge.folder import Folder
from instavis_bridge.journal import Journal

HEAD = "Club;Club Speed [mph];Path;Face"


def ball(number: int) -> str:
    return f"7 Iron;{79 + number / 10:.1f};{number}.5;{number / 7:.2f}"


@pytest.fixture
def place(tmp_path):
    folder = tmp_path / "balls"
    folder.mkdir()
    return folder


@pytest.fixture
def watch(tmp_path, place):
    """watch() begins anew, as after a restart; its look() gives the texts that are new."""

    def begin(**more):
        journal = Journal(tmp_path / "journal")
        folder = Folder(place, journal, **more)

        def poll() -> list[str]:
            before = len(journal.unsent)
            folder.poll()
            return [e.text for e in list(journal.unsent)[before:]]

        poll.folder, poll.journal = folder, journal
        return poll

    return begin


def write(file, text: str, age: float = 0.0) -> None:
    file.write_bytes(text.encode())
    os.utime(file, (time.time() - age,) * 2)


def test_growing_file_is_read(place, watch):
    poll, file = watch(), place / "today.csv"
    write(file, HEAD + "\n")
    assert poll() == [HEAD]
    for n in range(5):
        with file.open("a") as out:
            out.write(ball(n) + "\n")
        assert poll() == [ball(n)]
    assert poll() == []
    assert list(poll.journal.unsent)[-1].head[0] == HEAD


def test_rewritten_file_is_read_with_averages(place, watch):
    poll, file = watch(), place / "today.csv"
    for n in range(5):
        lines = [HEAD, *(ball(k) for k in range(n, -1, -1)), f"Average;{n}.2;1.1;2.2"]
        part = place / "new.tmp"
        write(part, "\n".join(lines) + "\n")
        part.replace(file)
        new = poll()
        assert [t for t in new if t.startswith("7")] == [ball(n)]


@pytest.mark.parametrize("met", [2, 4])
@pytest.mark.parametrize("column", ["{n}", "27.11.2026 15:{n:02}"])
def test_newest_first_file_is_read_in_hitting_order(place, watch, column, met):
    def written(numbers) -> None:
        rows = [f"{column.format(n=n)};{ball(n)}" for n in numbers]
        write(place / "today.csv", "\n".join([f"No.;{HEAD}", *rows, "Average;7 Iron;80.2;1.1;2.2"]) + "\n")

    poll = watch()
    written(range(met, 0, -1))
    assert balls_in(poll()) == [ball(n) for n in range(1, met + 1)]
    written(range(met + 2, 0, -1))
    assert balls_in(poll()) == [ball(met + 1), ball(met + 2)]
    written(range(9, 0, -1))
    assert balls_in(poll()) == [ball(n) for n in range(met + 3, 10)]


def test_changed_title_does_not_reverse_the_order(place, watch):
    poll = watch()
    for last in (3, 5, 7):
        rows = [f"{n};{ball(n)}" for n in range(1, last + 1)]
        write(
            place / "today.csv",
            "\n".join([f"Report, ball {last}", f"No.;{HEAD}", *rows, f"Average;7 Iron;8{last};1;2"]) + "\n",
        )
        new = balls_in(poll())
        assert new == [ball(n) for n in range(last - len(new) + 1, last + 1)]
        assert len(new) in (2, 3)


def test_appended_balls_keep_their_order(place, watch):
    poll, file = watch(), place / "today.csv"
    write(file, f"{HEAD}\n{ball(9)}\n")
    poll()
    part = place / "new.tmp"
    write(part, "\n".join([HEAD, ball(9), ball(4), ball(3)]) + "\n")
    part.replace(file)
    assert balls_in(poll()) == [ball(4), ball(3)]


def test_falling_carries_do_not_reverse_the_order(place, watch):
    poll = watch()
    write(place / "today.csv", f"{HEAD};Carry\n{ball(1)};152\n{ball(2)};151\n")
    assert balls_in(poll()) == [f"{ball(1)};152", f"{ball(2)};151"]


def balls_in(texts: list[str]) -> list[str]:
    return [text[text.index("7 Iron") :] for text in texts if "7 Iron" in text and "Average" not in text]


def test_one_file_per_ball_is_read(place, watch):
    poll = watch()
    for n in range(3):
        write(place / f"shot-{n}.csv", f"{HEAD}\n{ball(n)}\n")
        assert poll()[-1] == ball(n)
        record = {"club": "7i", "path": n + 0.5}
        write(place / f"shot-{n}.json", json.dumps(record, indent=2))
        assert [json.loads(t) for t in poll()] == [record]


def test_incomplete_line_waits(place, watch):
    poll, file = watch(), place / "today.csv"
    write(file, f"{HEAD}\n{ball(1)}\n7 Iron;80")
    assert poll() == [HEAD, ball(1)]
    write(file, f"{HEAD}\n{ball(1)}\n7 Iron;80.1;3.3;2.2\n")
    assert poll() == ["7 Iron;80.1;3.3;2.2"]


def test_last_line_without_newline_is_read_after_a_pause(place, watch):
    poll, file = watch(), place / "today.csv"
    write(file, f"{HEAD}\n{ball(1)}")
    assert poll() == [HEAD]
    os.utime(file, (time.time() - 0.5,) * 2)
    assert poll() == [ball(1)]
    write(file, f"{HEAD}\n{ball(1)}\n{ball(2)}\n")
    assert poll() == [ball(2)]


def test_incomplete_document_waits(place, watch):
    poll, file = watch(), place / "session.json"
    complete = json.dumps([{"path": 1.5, "face": 2.5}, {"path": 3.5, "face": 4.5}], indent=1)
    write(file, complete[: len(complete) // 2])
    assert poll() == []
    write(file, complete)
    assert [json.loads(t)["path"] for t in poll()] == [1.5, 3.5]


def test_old_files_are_ignored_except_examples(place, watch):
    for n in range(30):
        write(place / f"old-{n}.csv", f"{HEAD}\n{ball(n)}\n", age=1000 - n)
    poll = watch()
    ((name, texts, head),) = poll.folder.know_what_is_there()
    assert (name, texts[-1], head[0]) == ("old-29.csv", ball(29), HEAD)
    assert poll() == []
    with (place / "old-3.csv").open("a") as out:
        out.write(ball(99) + "\n")
    assert poll() == [ball(99)]
    assert watch()() == []


def test_rows_written_while_off_are_found(place, watch):
    poll, file = watch(), place / "today.csv"
    write(file, f"{HEAD}\n{ball(1)}\n")
    poll()
    with file.open("a") as out:
        out.write(ball(2) + "\n")
    assert watch()() == [ball(2)]


def test_identical_rows_are_two_balls(place, watch):
    poll, file = watch(), place / "today.csv"
    write(file, f"{HEAD}\n7i;80;1;1\n7i;80;1;1\n")
    assert poll().count("7i;80;1;1") == 2
    write(file, f"{HEAD}\n7i;80;1;1\n7i;80;1;1\n7i;80;1;1\n")
    assert poll() == ["7i;80;1;1"]


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
def test_encodings(place, watch, encoding):
    poll, file = watch(), place / "today.csv"
    for n in range(1, 4):
        text = "Schläger;Fläche;Pfad\r\n" + "".join(f"Eisen 7;{k},5;−\r\n".replace("−", "1") for k in range(n))
        file.write_bytes(text.encode(encoding))
        new = poll()
        assert new[-1] == f"Eisen 7;{n - 1},5;1"
    assert poll.journal.unsent[0].text == "Schläger;Fläche;Pfad"


def test_new_column_mid_file_gets_its_own_head(place, watch):
    poll, file = watch(), place / "today.csv"
    write(file, f"{HEAD}\n{ball(1)}\n")
    poll()
    with file.open("a") as out:
        out.write(f"{HEAD};Spin\n{ball(2)};5400\n")
    poll()
    last = poll.journal.unsent[-1]
    assert f"{HEAD};Spin" in last.head
    # And the same for one who reads the file from its beginning.
    assert f"{HEAD};Spin" in Journal(place.parent / "journal").unsent[-1].head


def test_units_row_does_not_hide_the_headers(place, watch):
    poll = watch()
    write(place / "a.csv", "Title\nClub;Speed;Path;Face\n;mph;deg;deg\n7i;80.1;2.2;1.1\n")
    poll()
    assert "Club;Speed;Path;Face" in poll.journal.unsent[-1].head


def test_file_patterns_and_subfolders_are_respected(place, watch):
    poll = watch(patterns=["bay2*.csv"])
    (place / "deep" / "er").mkdir(parents=True)
    for name in ("bay1.csv", "notes.docx", "deep/er/Bay2-x.csv"):
        write(place / name, f"{ball(1)}\n")
    assert poll() == [ball(1)]
    assert poll.journal.unsent[0].name == "deep/er/Bay2-x.csv"


def test_unreadable_file_is_reported_and_retried(place, watch, monkeypatch):
    poll, file = watch(), place / "today.csv"
    write(file, f"{HEAD}\n{ball(1)}\n")
    real = type(file).read_bytes

    def locked(path):
        raise PermissionError(13, "Permission denied")

    with monkeypatch.context() as patched:
        patched.setattr(type(file), "read_bytes", locked)
        assert poll() == []
        assert "today.csv cannot be read" in poll.folder.problems["today.csv"]
    assert type(file).read_bytes is real
    assert poll() == [HEAD, ball(1)]
    assert not poll.folder.problems


def test_every_row_is_read_once_in_any_order_of_events(place, watch):
    rng = random.Random(7)  # noqa: S311
    poll, file, written, found = watch(), place / "today.csv", [], []
    for n in range(120):
        written.append(ball(n))
        match rng.randrange(3):
            case 0:
                with file.open("a") as out:
                    out.write(ball(n) + "\n")
            case 1:
                shuffled = written[:]
                rng.shuffle(shuffled)
                write(file, "\n".join([HEAD, *shuffled]) + "\n")
            case 2:
                write(file, "\n".join([HEAD, *written]) + "\n")
        if rng.random() < 0.5:
            found += poll()
        if rng.random() < 0.1:
            poll = watch()
    found += poll()
    balls = [e for e in Journal(place.parent / "journal").unsent if e.text.startswith("7")]
    assert sorted(e.text for e in balls) == sorted(written)

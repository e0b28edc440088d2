"""The bridge against a server that answers, is away, refuses, or forgets what it received."""

from __future__ import annotations

import json
import urllib.error
import urllib.request

import pytest

from instavis_bridge import settings as stored
from instavis_bridge.page import serve_page
from instavis_bridge.program import Bridge, main
from instavis_bridge.settings import AnotherOneError, Settings, only_one

from .conftest import until

HEAD = "Club;Path;Face"


def test_new_rows_are_sent_and_old_ones_are_examples(run, server, place):
    (place / "old.csv").write_text(f"{HEAD}\n7i;9.5;9.5\n")
    bridge = run()
    until(lambda: server.examples)
    assert server.examples == [HEAD, "7i;9.5;9.5"]
    (place / "new.csv").write_text(f"{HEAD}\n7i;1.5;2.5\n")
    until(lambda: "7i;1.5;2.5" in server.rows.values())
    assert "7i;9.5;9.5" not in server.rows.values()
    until(lambda: bridge.status()["waiting"] == 0)
    assert bridge.status()["stored"] == 2


def test_lost_response_loses_and_duplicates_nothing(run, server, place):
    run()
    server.lose_answers = 2
    (place / "new.csv").write_text(f"{HEAD}\n7i;1.5;2.5\n")
    until(lambda: server.doubled >= 2)
    assert sorted(server.rows.values()) == sorted([HEAD, "7i;1.5;2.5"])


def test_rows_during_an_outage_are_sent_later(run, server, place):
    server.answer = lambda what, body: 503
    bridge = run()
    (place / "new.csv").write_text(f"{HEAD}\n7i;1.5;2.5\n")
    until(lambda: bridge.status()["waiting"] == 2 and bridge.status()["problem"])
    run.end()
    server.answer = lambda what, body: None
    run()
    until(lambda: "7i;1.5;2.5" in server.rows.values())


def test_disconnected_bridge_keeps_rows_until_paired_again(run, server, place):
    server.answer = lambda what, body: 401 if what != "pair" else None
    bridge = run()
    (place / "new.csv").write_text(f"{HEAD}\n7i;1.5;2.5\n")
    until(lambda: bridge.status()["revoked"] and bridge.status()["waiting"] == 2)
    assert "ended on the Bays page" in bridge.status()["problem"]
    server.answer = lambda what, body: None
    with serve_page(bridge, 0) as address:
        page = urllib.request.urlopen(address).read().decode()
        key = page.partition('key: "')[2].partition('"')[0]
        ask(address, {"key": "wrong", "code": "123456"}, 403)
        assert ask(address, {"key": key, "code": "123456", "name": "Laptop"})["paired"]
        until(lambda: "7i;1.5;2.5" in server.rows.values())
        assert ask(address, [], 422) is None
    assert stored.load(bridge.folder).token == "iv_secret"
    assert (bridge.folder / "settings.json").stat().st_mode & 0o077 == 0


def ask(address: str, body: object, status: int = 200) -> dict | None:
    request = urllib.request.Request(address, json.dumps(body).encode(), method="POST")
    try:
        with urllib.request.urlopen(request) as answer:
            assert answer.status == status
            return json.load(answer)
    except urllib.error.HTTPError as error:
        refused = error
    assert refused.code == status
    return None


def test_the_page_is_for_this_computer_only(run, server):
    with serve_page(run(), 0) as address:
        request = urllib.request.Request(address, headers={"Host": "evil.example:80"})
        with pytest.raises(urllib.error.HTTPError) as result:
            urllib.request.urlopen(request)
        assert result.value.code == 403


def test_permanently_refused_row_blocks_nothing(run, server, place):
    server.answer = lambda what, body: 422 if what == "rows" and any("odd" in r["text"] for r in body["rows"]) else None
    bridge = run()
    (place / "new.csv").write_text(f"{HEAD}\n7i;1.5;2.5\n7i;odd;2.5\n7i;3.5;2.5\n")
    until(lambda: "7i;3.5;2.5" in server.rows.values())
    until(lambda: bridge.status()["refused"])
    (aside,) = (bridge.folder / "put-aside.ndjson").read_text().splitlines()
    assert json.loads(aside)["text"] == "7i;odd;2.5"


def test_second_bridge_on_one_folder_is_refused(run, server, place, tmp_path):
    run()
    other = Bridge(tmp_path, Settings(server=server.address, token="x", source=str(place)))
    until(lambda: run is not None and (other._scan() or "Another bridge" in other.status()["problem"]))
    with only_one(tmp_path / "lock"), pytest.raises(AnotherOneError):
        only_one(tmp_path / "lock")


def test_bridge_pairs_from_the_shell_once(server, place, tmp_path, capsys, monkeypatch):
    monkeypatch.setattr(Bridge, "run", lambda self: None)
    state = tmp_path / "state"
    words = [
        str(place),
        f"--server={server.address}",
        "--code=123456",
        "--name=Bay PC",
        f"--state={state}",
        "--page=-1",
    ]
    assert main(words) == 0
    assert "paired with Mat one as Bay PC" in capsys.readouterr().out
    assert stored.load(state).token == "iv_secret"
    server.answer = lambda what, body: 404
    assert main(words) == 1
    assert "not paired: refused 404" in capsys.readouterr().err
    assert main([f"--state={state}", "--page=-1"]) == 0
    assert stored.load(state).source == str(place)


def test_broken_settings_are_ignored(tmp_path):
    (tmp_path / "settings.json").write_text("{{{")
    assert stored.load(tmp_path) == Settings()

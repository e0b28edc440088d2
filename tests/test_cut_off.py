"""A start that is interrupted at any moment leaves a folder that starts."""

from __future__ import annotations

import contextlib
import os
import re
import signal
import subprocess
import time
from pathlib import Path

import httpx
import pytest

from launcher import mariadb
from launcher.dumps import Access

PATIENCE_SECONDS = 120


@pytest.fixture
def academy(root, tmp_path, monkeypatch):
    """start() serves an academy of its own and gives process and log; everything of it is gone afterwards."""
    folder = tmp_path / "academy"
    monkeypatch.setenv("INSTAVIS_DATA", str(folder))
    started = []

    def start() -> tuple[subprocess.Popen, Path]:
        monkeypatch.setenv("INSTAVIS_PORT", str(mariadb.free_port()))
        log = tmp_path / f"log-{len(started)}"
        with log.open("w") as sink:
            process = subprocess.Popen(
                [root / "instavis", "serve"],
                stdout=sink,
                stderr=sink,
                preexec_fn=lambda: signal.signal(signal.SIGINT, signal.default_int_handler),
            )
        started.append(process)
        return process, log

    start.folder = folder
    yield start
    for process in started:
        if process.poll() is None:
            process.send_signal(signal.SIGINT)
            process.wait(PATIENCE_SECONDS)
    kill_all(folder)


def kill_all(folder: Path) -> None:
    """What a power cut does to everything that works on a folder, and to what that has just started."""
    while _killed(folder):
        pass


def _killed(folder: Path) -> int:
    killed = 0
    for entry in Path("/proc").iterdir():
        if entry.name.isdigit() and entry.name != str(os.getpid()):
            with contextlib.suppress(OSError):
                command, environment = (entry / "cmdline").read_bytes(), (entry / "environ").read_bytes()
                if str(folder).encode() in command + environment and b"pytest" not in command:
                    os.kill(int(entry.name), signal.SIGKILL)
                    killed += 1
    return killed


def wait_for(process: subprocess.Popen, log: Path, found) -> None:
    deadline = time.monotonic() + PATIENCE_SECONDS
    while not found():
        assert process.poll() is None, log.read_text()
        assert time.monotonic() < deadline, log.read_text()
        time.sleep(0.05)


def tables_made(folder: Path) -> int:
    """How many tables the academy has by now; 0 while nobody answers."""
    try:
        port, password = (folder / "database" / name for name in ("port", "password"))
        access = Access(mariadb.address_at(int(port.read_text()), password.read_text()))
        return len(access.ask("instavis", "SHOW TABLES"))
    except Exception:
        return 0


def sign_in_works(log: Path) -> None:
    result = log.read_text()
    address = re.search(r"http://127\.0\.0\.1:\d+", result).group()
    name, password = re.search(r"sign in as (\S+) with (\S+)", result).groups()
    with httpx.Client(base_url=address, trust_env=False) as client:
        client.get("/")
        client.headers["X-CSRFToken"] = client.cookies["instavis_csrf"]
        assert client.post("/api/v1/session", json={"username": name, "password": password}).status_code == 200


def until_it_serves(process: subprocess.Popen, log: Path, *words: str) -> None:
    wait_for(process, log, lambda: all(word in log.read_text() for word in ("serving", *words)))


def test_interrupted_first_start_recovers(academy):
    process, log = academy()
    wait_for(process, log, lambda: tables_made(academy.folder) >= 12)
    kill_all(academy.folder)
    process.wait(PATIENCE_SECONDS)
    process, log = academy()
    until_it_serves(process, log, "sign in as")
    sign_in_works(log)


def test_interrupted_data_folder_is_created_again(academy):
    process, log = academy()
    place = academy.folder / "database"
    wait_for(process, log, lambda: list(place.glob("data*/mysql")))
    kill_all(academy.folder)
    [left] = place.glob("data*")
    scribble = (
        "while sleep 0.02; do mkdir -p $0/mysql && for f in db proxies_priv; do echo x > $0/mysql/$f.MAI; done; done"
    )
    survivor = subprocess.Popen(["/bin/sh", "-c", scribble, left], stderr=subprocess.DEVNULL)
    try:
        process, log = academy()
        until_it_serves(process, log, "sign in as")
    finally:
        survivor.kill()
        survivor.wait()
    sign_in_works(log)
    # A launcher that is killed leaves no database behind that stops the next one.
    process.kill()
    process.wait(PATIENCE_SECONDS)
    until_it_serves(*academy())


def test_ctrl_c_waits_until_tables_are_complete(academy):
    process, log = academy()
    wait_for(process, log, lambda: tables_made(academy.folder) >= 12)
    process.send_signal(signal.SIGINT)
    process.wait(PATIENCE_SECONDS)
    # What a start does that finds this mark is in the test of the cut above.
    assert not (academy.folder / "upgrading").exists()
    assert "Traceback" not in log.read_text()

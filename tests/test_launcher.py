"""The launcher in use: one command, one demo at a time, nothing left behind."""

from __future__ import annotations

import json
import os
import re
import shutil
import signal
import subprocess
import time
from pathlib import Path

import httpx
import pytest

from .conftest import made_once

READY_SECONDS = 120


def launcher(root: Path, *arguments: str, **options) -> subprocess.Popen:
    return subprocess.Popen([root / "instavis", *arguments], text=True, **options)


@pytest.fixture
def demo(root, tmp_path, tmp_path_factory, monkeypatch):
    """A running demo with data of its own; environment and sample academy are those that are there."""
    state = tmp_path / "state"
    state.mkdir()
    here = Path(os.environ["INSTAVIS_STATE"])
    for made in (here / "venv-app", here / "venv-tools", *here.glob("static-*")):
        (state / made.name).symlink_to(made)
    shutil.copytree(made_once(tmp_path_factory), state / "demo")
    monkeypatch.setenv("INSTAVIS_STATE", str(state))
    log = tmp_path / "log"
    with log.open("w") as sink:
        process = launcher(
            root,
            "demo",
            stdout=sink,
            stderr=sink,
            preexec_fn=lambda: signal.signal(signal.SIGINT, signal.default_int_handler),
        )
    try:
        deadline = time.monotonic() + READY_SECONDS
        while "Ctrl-C stops everything" not in log.read_text():
            assert process.poll() is None, log.read_text()
            assert time.monotonic() < deadline, log.read_text()
            time.sleep(0.2)
        yield process, log, state
    finally:
        if process.poll() is None:
            process.send_signal(signal.SIGINT)
            process.wait(READY_SECONDS)


def alive(state: Path) -> list[str]:
    """Command lines of processes that belong to this demo."""
    found = []
    for entry in Path("/proc").iterdir():
        if entry.name.isdigit():
            try:
                command = (entry / "cmdline").read_bytes().replace(b"\0", b" ").decode()
            except OSError:
                continue
            if str(state) in command:
                found.append(command)
    return found


def test_demo_runs_once_and_cleans_up(root, demo):
    process, log, state = demo
    address = re.search(r"http://127\.0\.0\.1:\d+", log.read_text()).group()
    assert httpx.get(address, trust_env=False).status_code == 200
    second = launcher(root, "demo", stderr=subprocess.PIPE)
    assert second.wait(60) == 1
    assert address in second.stderr.read()
    assert any("mariadbd" in command for command in alive(state))
    process.send_signal(signal.SIGINT)
    assert process.wait(30) == 0
    assert alive(state) == []


def test_core_verbs_answer_as_programs(root):
    shot = {"launch": {"ball_speed_mps": 60, "launch_angle_deg": 14, "spin_rpm": 4000}}
    done = subprocess.run(
        [root / "instavis", "fly"], input=json.dumps(shot), capture_output=True, text=True, check=True
    )
    assert json.loads(done.stdout)["carry_m"] > 100
    bad = subprocess.run([root / "instavis", "fly"], input="{}", capture_output=True, text=True, check=False)
    assert bad.returncode == 2
    assert json.loads(bad.stdout)["error"]["line"] == 1


def test_unknown_verb_lists_the_verbs(root):
    done = subprocess.run([root / "instavis", "dance"], capture_output=True, text=True, check=False)
    assert done.returncode == 64
    assert "demo" in done.stderr


def test_export_and_import_need_an_academy(root, tmp_path):
    empty = {**os.environ, "INSTAVIS_DATA": str(tmp_path / "nothing")}
    result = subprocess.run(
        [root / "instavis", "export", "lesson", "1", "x.zip"], env=empty, capture_output=True, text=True, check=False
    )
    assert result.returncode == 1
    assert "no academy" in result.stderr

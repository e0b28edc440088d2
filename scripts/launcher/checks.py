"""Every check, counted: style, layers, core, server, browser, front end."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
import tempfile
from pathlib import Path

from launcher import mariadb
from launcher.paths import ROOT, STATE, WEB

TEST_SECRET = "a-key-for-tests-only-that-protects-nothing"  # noqa: S105


def run_all(arguments: list[str]) -> int:
    """Run everything; the last line is ``N passed, N failed``. Arguments go to pytest (and skip the rest)."""
    passed = failed = 0
    for good, bad in _all_counts(arguments):
        passed, failed = passed + good, failed + bad
    print(f"{passed} passed, {failed} failed")
    return 1 if failed or not passed else 0


def _all_counts(arguments: list[str]):
    if not arguments:
        yield _command("ruff", [sys.executable, "-m", "ruff", "check", "."], ROOT)
        yield _command("ruff format", [sys.executable, "-m", "ruff", "format", "--check", "."], ROOT)
        yield _command("types", [_tool("tsc"), "--noEmit"], WEB)
        yield _vitest()
    yield _pytest(arguments)


def _command(name: str, command: list[str], folder: Path) -> tuple[int, int]:
    print(f"== {name}", flush=True)
    done = subprocess.run(command, cwd=folder, check=False)
    return (0, 1) if done.returncode else (1, 0)


def _vitest() -> tuple[int, int]:
    print("== front end", flush=True)
    with tempfile.TemporaryDirectory() as folder:
        report = Path(folder) / "report.json"
        command = [_tool("vitest"), "run", "--reporter=default", "--reporter=json", f"--outputFile.json={report}"]
        done = subprocess.run(command, cwd=WEB, check=False)
        if not report.exists():
            return 0, 1
        told = json.loads(report.read_text())
    failed = told["numFailedTests"]
    return told["numPassedTests"], failed if failed or not done.returncode else 1


def _pytest(arguments: list[str]) -> tuple[int, int]:
    print("== core, server, browser", flush=True)
    database = mariadb.start(STATE / "test" / "database", quick=True)
    try:
        environment = {**os.environ, **database.environment(), "INSTAVIS_SECRET_KEY": TEST_SECRET}
        command = [sys.executable, "-m", "pytest", *arguments]
        last, failing = _followed(command, environment)
    finally:
        database.stop()
    counts = dict.fromkeys(("passed", "failed", "error", "errors"), 0)
    for number, word in re.findall(r"(\d+) (passed|failed|errors?)\b", last):
        counts[word] = int(number)
    failed = counts["failed"] + counts["error"] + counts["errors"]
    return counts["passed"], failed if failed or not failing else 1


def _followed(command: list[str], environment: dict[str, str]) -> tuple[str, int]:
    """Run a command, show what it says as it says it; gives its last line and its exit status."""
    last = ""
    with subprocess.Popen(command, cwd=ROOT, env=environment, stdout=subprocess.PIPE, text=True) as process:
        try:
            for line in process.stdout:
                print(line, end="", flush=True)
                last = line.strip() or last
        except BaseException:
            process.terminate()
            raise
    return last, process.returncode


def _tool(name: str) -> str:
    return str(WEB / "node_modules" / ".bin" / name)

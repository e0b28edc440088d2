"""Every check, counted, in three lanes: `unit` (seconds, no database), `server`, and `e2e` (the running product)."""

from __future__ import annotations

import json
import os
import re
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from audit.compare import NOTHING_TO_COMPARE

from launcher import mariadb, redis
from launcher.paths import ROOT, STATE, WEB

TEST_SECRET = "a-key-for-tests-only-that-protects-nothing"  # noqa: S105
SETTINGS = "instavis.project.settings_for_tests"
WITHOUT_DATABASE = {
    "INSTAVIS_SECRET_KEY": TEST_SECRET,
    "INSTAVIS_DATABASE_URL": "mysql://nobody@127.0.0.1:1/nothing",
    "INSTAVIS_REDIS_URL": "redis://127.0.0.1:1/0",
}
WORKERS = 3  # two cores: tests often wait for a browser or a database, and other checks run at the same time

REPEATED_LINES = 40
"""Last lines of a failed check outside the tests, repeated at the end of the output."""

Counts = tuple[int, int]


@dataclass(frozen=True)
class Lane:
    """Folders of tests that need the same things."""

    folders: tuple[str, ...]
    database: bool


LANES = {
    "unit": Lane(
        ("core/tests", "report/tests", "formats/tests", "camera/tests", "bridge/tests", "standins/tests"),
        database=False,
    ),
    "server": Lane(("server/tests",), database=True),
    "e2e": Lane(("tests",), database=False),
}


def run_all(arguments: list[str]) -> int:
    """Run all lanes, or the named one; the last line is ``N passed, N failed``.

    Further arguments go to pytest.
    """
    begun = time.monotonic()
    lanes = list(LANES)
    if arguments and arguments[0] in LANES:
        lanes, arguments = [arguments[0]], arguments[1:]
    passed = failed = 0
    failures: list[str] = []
    # Temporary files of the checked programs are removed with the folder.
    with tempfile.TemporaryDirectory(prefix="instavis-test-", ignore_cleanup_errors=True) as place:
        os.environ["TMPDIR"], tempfile.tempdir = place, place
        for good, bad in _counts(lanes, arguments, failures):
            passed, failed = passed + good, failed + bad
    for failure in failures:
        print(failure, flush=True)
    print(f"== {', '.join(lanes)}: {time.monotonic() - begun:.0f} s", flush=True)
    print(f"{passed} passed, {failed} failed")
    return 1 if failed or not passed else 0


def _counts(lanes: list[str], arguments: list[str], failures: list[str]) -> Iterator[Counts]:
    database_wanted = any(LANES[lane].database for lane in lanes)
    if arguments:
        yield _pytest(database_wanted, arguments)
        return
    if "e2e" in lanes:
        _compress()
    # Longest first, so that they do not run alone at the end.
    folders = [folder for lane in reversed(lanes) for folder in LANES[lane].folders]
    with ThreadPoolExecutor(1) as beside:
        rest = beside.submit(_without_pytest, failures) if "unit" in lanes else None
        # Django creates the tables from the models; a separate test compares them with the migrations.
        shared = ["-n", str(WORKERS), "--dist=loadfile", "--no-loadscope-reorder", "--nomigrations"]
        yield _pytest(database_wanted, [*shared, *folders])
        if rest:
            yield from rest.result()


def _without_pytest(failures: list[str]) -> list[Counts]:
    """Run the checks that are not tests, and the tests of the front end, one after another."""
    python = [sys.executable, "-m"]
    result = _Output(failures)
    return [
        result.command("ruff", [*python, "ruff", "check", "."], ROOT),
        result.command("ruff format", [*python, "ruff", "format", "--check", "."], ROOT),
        result.command("style of the front end", [_tool("biome"), "check", "--error-on-warnings", "."], WEB),
        result.command("types of the front end", [_tool("tsc"), "--noEmit"], WEB),
        result.vitest(),
        result.command("types", [*python, "mypy"], ROOT, WITHOUT_DATABASE),
        result.audited([*python, "audit"]),
    ]


def _compress() -> None:
    """Compress the static files once, before several workers start servers that would each do it."""
    subprocess.run([sys.executable, "-m", "launcher.static"], env={**os.environ, **WITHOUT_DATABASE}, check=True)


@dataclass(frozen=True)
class _Output:
    """Commands that run beside the tests: each one's output in one piece, and the end of a failed one again."""

    failures: list[str]

    def command(self, name: str, command: list[str], folder: Path, settings: dict[str, str] | None = None) -> Counts:
        """One check."""
        return (0, 1) if self._status(name, command, folder, settings or {}) else (1, 0)

    def audited(self, command: list[str]) -> Counts:
        """Check the locked packages for known vulnerabilities; without advisories it counts neither as passed nor
        failed.
        """
        name = "known weaknesses of the packages"
        status = self._status(name, command, ROOT, {}, fine=(0, NOTHING_TO_COMPARE))
        return {0: (1, 0), NOTHING_TO_COMPARE: (0, 0)}.get(status, (0, 1))

    def vitest(self) -> Counts:
        """Run the tests of the front end, each counted."""
        with tempfile.TemporaryDirectory() as folder:
            report = Path(folder) / "report.json"
            reporters = ["--reporter=default", "--reporter=json", f"--outputFile.json={report}"]
            command = [_tool("vitest"), "run", "--maxWorkers=1", *reporters]
            status = self._status("front end", command, WEB, {})
            if not report.exists():
                return 0, 1
            result = json.loads(report.read_text())
        failed = result["numFailedTests"]
        return result["numPassedTests"], failed if failed or not status else 1

    def _status(
        self, name: str, command: list[str], folder: Path, settings: dict[str, str], fine: tuple[int, ...] = (0,)
    ) -> int:
        done = subprocess.run(
            command,
            cwd=folder,
            env={**os.environ, **settings},
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
            check=False,
        )
        print(f"\n== {name}\n{done.stdout}", end="", flush=True)
        if done.returncode not in fine:
            end = "\n".join(done.stdout.splitlines()[-REPEATED_LINES:])
            self.failures.append(f"== {name}: failed with status {done.returncode}\n{end}")
        return done.returncode


def _pytest(database_wanted: bool, arguments: list[str]) -> Counts:
    print("== tests", flush=True)
    command = [sys.executable, "-m", "pytest", *arguments]
    # The browser's driver keeps an event loop running in the worker, which Django would mistake for an async view.
    environment = {**os.environ, "INSTAVIS_SECRET_KEY": TEST_SECRET, "DJANGO_ALLOW_ASYNC_UNSAFE": "true"}
    if not database_wanted:
        return _counted(*_followed(command, environment))
    database = mariadb.start(STATE / "test" / "database", quick=True)
    try:
        shared = redis.start(STATE / "test" / "redis")
        try:
            where = {"INSTAVIS_DATABASE_URL": database.address.url, "INSTAVIS_REDIS_URL": shared.url}
            return _counted(*_followed([*command, f"--ds={SETTINGS}"], environment | where))
        finally:
            shared.stop()
    finally:
        database.stop()


def _counted(last: str, failing: int) -> Counts:
    counts = dict.fromkeys(("passed", "failed", "error", "errors"), 0)
    for number, word in re.findall(r"(\d+) (passed|failed|errors?)\b", last):
        counts[word] = int(number)
    failed = counts["failed"] + counts["error"] + counts["errors"]
    return counts["passed"], failed if failed or not failing else 1


def _followed(command: list[str], environment: dict[str, str]) -> tuple[str, int]:
    """Run a command and show its output as it comes; return its last line and exit status."""
    last = ""
    with subprocess.Popen(command, cwd=ROOT, env=environment, stdout=subprocess.PIPE, text=True) as process:
        assert process.stdout is not None
        try:
            for line in process.stdout:
                print(line, end="", flush=True)
                last = line.strip() or last
        except BaseException:
            process.send_signal(signal.SIGINT)  # fixtures stop what they started
            raise
    return last, process.returncode


def _tool(name: str) -> str:
    return str(WEB / "node_modules" / ".bin" / name)

"""Running the application: database, migrations, server, and in the demo the stand-in monitors."""

from __future__ import annotations

import contextlib
import fcntl
import json
import os
import secrets
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from launcher import mariadb
from launcher.paths import SERVER, STATE
from launcher.processes import running, spawn, stop

DEMO_PORT = 8765
READY_SECONDS = 60
# What stands in each bay of the demo; right- and left-handed, one of them learns.
STAND_INS = {
    "North mat": ["--fault", "upper-body-first", "--handicap", "18", "--seed", "311"],
    "South mat": [
        "--fault",
        "early-extension/from-inside",
        "--hand",
        "left",
        "--handicap",
        "9",
        "--seed",
        "23",
        "--learn",
    ],
}


@dataclass(frozen=True)
class Running:
    """A served application: its address, what getting it ready printed, its settings, its process."""

    address: str
    told: str
    environment: dict[str, str]
    pid: int


def demo(arguments: list[str]) -> int:
    """The sample academy with stand-in monitors, until Ctrl-C."""
    folder = STATE / "demo"
    folder.mkdir(parents=True, exist_ok=True)
    with only_one(folder / "lock") as lock:
        if lock is None:
            address = (folder / "lock").read_text().strip() or "its address is not known yet"
            print(f"instavis: the demo is running already: {address}", file=sys.stderr)
            return 1
        with served(folder, mariadb.free_port(DEMO_PORT), "demo") as running:
            address = running.address
            lock.truncate(0)
            lock.seek(0)
            lock.write(address)
            lock.flush()
            facts = json.loads(running.told)
            with _stand_ins(address, facts, folder) as pages:
                _introduce(address, facts, pages)
                _wait_for_the_end()
    return 0


def serve(arguments: list[str]) -> int:
    """The application for real use, settings from the environment."""
    folder = Path(os.environ.get("INSTAVIS_DATA", STATE / "serve"))
    folder.mkdir(parents=True, exist_ok=True)
    host, port = os.environ.get("INSTAVIS_BIND", "127.0.0.1"), int(os.environ.get("INSTAVIS_PORT", "8000"))
    with only_one(folder / "lock") as lock:
        if lock is None:
            print(f"instavis: {folder} is being served already.", file=sys.stderr)
            return 1
        with served(folder, port, "academy", host=host) as running:
            _say(f"serving {running.address}; Ctrl-C stops it")
            first = json.loads(running.told)
            if first:
                _say(f"first start: sign in as {first['username']} with {first['password']} (told only now)")
            _wait_for_the_end()
    return 0


def move_archives(arguments: list[str]) -> int:
    """`export` and `import`: between files and the academy's database, while nobody serves it."""
    folder = Path(os.environ.get("INSTAVIS_DATA", STATE / "serve"))
    if not (folder / "database").is_dir():
        print(f"instavis: there is no academy in {folder} yet; start it once with serve.", file=sys.stderr)
        return 1
    with only_one(folder / "lock") as lock:
        if lock is None:
            text = "is being served: export and import on its Students page, or stop it first."
            print(f"instavis: {folder} {text}", file=sys.stderr)
            return 1
        database = mariadb.start(folder / "database")
        try:
            environment = database.environment() | {"INSTAVIS_SECRET_KEY": _secret(folder / "secret")}
            environment["INSTAVIS_STATIC_ROOT"] = str(folder / "static")
            make_ready(environment)
            command = [sys.executable, str(SERVER / "manage.py"), "archive", *arguments]
            return subprocess.run(command, env={**os.environ, **environment}, check=False).returncode
        finally:
            database.stop()


def make_ready(environment: dict[str, str], *wanted: str) -> str:
    """Tables, static files and (wanted) the sample academy; gives back what it printed."""
    done = subprocess.run(
        [sys.executable, "-m", "launcher.ready", *wanted],
        cwd=SERVER,
        env={**os.environ, **environment},
        capture_output=True,
        text=True,
        check=False,
    )
    if done.returncode:
        raise mariadb.DatabaseError(f"The tables could not be prepared:\n{done.stdout}{done.stderr}")
    return done.stdout


@contextlib.contextmanager
def served(folder: Path, port: int, *wanted: str, host: str = "127.0.0.1") -> Iterator[Running]:
    """Database and server, ready; ends both."""
    _say("starting the database")
    database = mariadb.start(folder / "database")
    try:
        environment = database.environment() | {"INSTAVIS_SECRET_KEY": _secret(folder / "secret")}
        environment["INSTAVIS_STATIC_ROOT"] = str(folder / "static")
        environment["INSTAVIS_DRAFTS"] = str(folder / "drafts")
        # Small matrices are slower on many threads, and several requests compute at once.
        environment["OPENBLAS_NUM_THREADS"] = "1"
        _say("preparing tables and static files")
        told = make_ready(environment, *wanted)
        _say("starting the server")
        with running(server_command(port, host), environment, folder / "server.log") as server:
            address = f"http://{host}:{port}"
            wait_until_answering(address, server)
            yield Running(address, told, environment, server.pid)
    finally:
        database.stop()


def server_command(port: int, host: str = "127.0.0.1") -> list[str]:
    """The ASGI server's command line; one process, because the live channel lives in it."""
    return [
        sys.executable,
        "-m",
        "uvicorn",
        "instavis.config.asgi:application",
        f"--host={host}",
        f"--port={port}",
        "--log-level=warning",
        "--no-server-header",
        "--timeout-graceful-shutdown=3",
    ]


def wait_until_answering(address: str, server: subprocess.Popen) -> None:
    """Until the server answers anything at all.

    Raises
    ------
    DatabaseError
        When it ended or took too long.
    """
    deadline = time.monotonic() + READY_SECONDS
    opener = urllib.request.build_opener(urllib.request.ProxyHandler({}))
    while time.monotonic() < deadline and server.poll() is None:
        try:
            opener.open(f"{address}/api/v1/session", timeout=2)
        except urllib.error.HTTPError:
            return
        except OSError:
            time.sleep(0.1)
    raise mariadb.DatabaseError("The server did not start; see server.log beside the database.")


@contextlib.contextmanager
def _stand_ins(address: str, facts: dict, folder: Path) -> Iterator[dict[str, str]]:
    """Monitor, belt and mat in every bay; they work while a lesson listens. Gives the monitors' pages by bay."""
    children, pages = [], {}

    def start(program: str, token: str, *options: str) -> None:
        file = folder / f"token-{len(children)}"
        file.touch(mode=0o600)
        file.write_text(token)
        command = [sys.executable, "-m", f"instavis_standins.{program}", f"--server={address}", f"--token-file={file}"]
        children.append(spawn([*command, *options], {}, folder / "stand-ins.log"))

    try:
        for bay, token in facts["tokens"].items():
            golfer, port = STAND_INS.get(bay, []), mariadb.free_port()
            pages[bay] = f"http://127.0.0.1:{port}"
            start("monitor", token, "--only-listening", "--pace=9", f"--page={port}", *golfer)
            start("belt", facts["belts"][bay], *golfer)
            start("mat", facts["mats"][bay], *golfer)
        yield pages
    finally:
        for child in children:
            stop(child)


@contextlib.contextmanager
def only_one(file: Path) -> Iterator[object]:
    """An open, locked file, or None when another launcher holds it."""
    with file.open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            yield None
            return
        yield lock
        lock.truncate(0)


def _secret(file: Path) -> str:
    if not file.exists():
        file.touch(mode=0o600)
        file.write_text(secrets.token_urlsafe(48))
    return file.read_text().strip()


def _introduce(address: str, facts: dict, pages: dict[str, str]) -> None:
    print(f"\n  Instavis runs at {address}\n")
    for login in facts["logins"]:
        print(f"  {login['name']:<16} user {login['username']:<6} password {login['password']}")
    print("\n  Stand-in monitor, motion belt and pressure mat in each bay work while a lesson listens; steer them:")
    for bay, page in pages.items():
        print(f"  {bay:<16} {page}")
    if facts["home"]:
        print(f"\n  A student's page, for a phone: {address}{facts['home']}")
    print("\n  Ctrl-C stops everything.\n")
    sys.stdout.flush()


def _wait_for_the_end() -> None:
    try:
        while True:
            time.sleep(3600)
    except KeyboardInterrupt:
        _say("stopping")


def _say(text: str) -> None:
    print(f"instavis: {text}", file=sys.stderr, flush=True)

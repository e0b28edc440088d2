"""Runs the application: its services, tables, web processes and workers, and in the demo the stand-in monitors."""

from __future__ import annotations

import contextlib
import json
import os
import secrets
import shutil
import signal
import sys
import tempfile
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from instavis.project.listening import listen
from launcher import mariadb
from launcher.academy import database_of, folder_of_data, is_there, only_one, say, start_database
from launcher.files import keep
from launcher.loaded import Loader, loaded
from launcher.paths import STATE
from launcher.processes import spawn, stop
from launcher.shape import Shape, keep_loader, keep_web, keep_workers, read_shape, redis_for, settings_for, supervised
from launcher.status import own_host, status_page
from launcher.supervisor import Supervisor

DEMO_PORT = 8765
READY_SECONDS, MAX_RESTARTS = 60, 3
NO_REDIS = "redis://127.0.0.1:0/0"  # what only reads and writes the database needs none
# The stand-ins of each bay in the demo; right- and left-handed, and one of them learns.
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


@dataclass(frozen=True, kw_only=True)
class Running:
    """A running application: its address, the output of its preparation, the loader, its processes."""

    address: str
    output: str
    loader: Loader
    supervisor: Supervisor

    @property
    def pid(self) -> int:
        """The first web process."""
        return next(program.process.pid for program in self.supervisor.programs if program.name.startswith("web"))


def demo(arguments: list[str]) -> int:
    """Run the sample academy with stand-in monitors until Ctrl-C."""
    shape = read_shape("demo", arguments)
    folder = STATE / "demo"
    folder.mkdir(parents=True, exist_ok=True)
    with only_one(folder / "lock") as lock:
        if lock is None:
            address = (folder / "lock").read_text().strip() or "its address is not known yet"
            print(f"instavis: the demo is already running: {address}", file=sys.stderr)
            return 1
        with served(folder, mariadb.free_port(DEMO_PORT), "demo", shape=shape) as running:
            address = running.address
            lock.truncate(0)
            lock.seek(0)
            lock.write(address)
            lock.flush()
            facts = json.loads(running.output)
            with _stand_ins(address, facts, folder) as pages:
                _introduce(address, facts, pages)
                _wait_for_the_end()
    return 0


def serve(arguments: list[str]) -> int:
    """Run the application for real use, with settings from the environment."""
    shape = read_shape("serve", arguments)
    folder = folder_of_data()
    folder.mkdir(parents=True, exist_ok=True)
    host, port = os.environ.get("INSTAVIS_BIND", "127.0.0.1"), int(os.environ.get("INSTAVIS_PORT", "8000"))
    with only_one(folder / "lock") as lock:
        if lock is None:
            print(f"instavis: {folder} is already being served.", file=sys.stderr)
            return 1
        first_password = folder / "first-password"
        if not (folder / "database").is_dir():
            keep(first_password, "-".join(secrets.token_hex(3) for _ in range(3)))
        password = first_password.read_text() if first_password.exists() else ""
        with served(folder, port, f"academy|--password={password}", host=host, shape=shape) as running:
            say(f"serving {running.address}; Ctrl-C stops it")
            first = json.loads(running.output)
            if first:
                say(f"first start: sign in as {first['username']} with {first['password']} (shown only now)")
            first_password.unlink(missing_ok=True)
            _wait_for_the_end()
    return 0


def move_archives(arguments: list[str]) -> int:
    """`export` and `import`: between files and the academy's database, while it is not served."""
    folder = folder_of_data()
    if not is_there(folder):
        print(f"instavis: there is no academy in {folder} yet; run serve once.", file=sys.stderr)
        return 1
    with only_one(folder / "lock") as lock:
        if lock is None:
            text = "is being served: export and import on its Students page, or stop it first."
            print(f"instavis: {folder} {text}", file=sys.stderr)
            return 1
        with database_of(folder) as access:
            environment = settings_for(folder, access.address, NO_REDIS)
            with loaded(environment, folder / "loader.log") as loader:
                make_ready(folder, loader)
                return loader.copy("archive", "manage", ["archive", *arguments], files=(0, 1, 2)).wait()


def make_ready(folder: Path, loader: Loader, *wanted: str) -> str:
    """Prepare tables, static files and, if requested, the sample academy; return the output.

    Ctrl-C waits until the tables are complete; a second one does not.
    """
    with (
        open(os.devnull) as nothing,
        tempfile.TemporaryFile("w+") as result,
        tempfile.TemporaryFile("w+") as complaints,
    ):
        files = (nothing.fileno(), result.fileno(), complaints.fileno())
        process = loader.copy("ready", "ready", [str(folder), *wanted], files=files)
        try:
            status = process.wait()
        except KeyboardInterrupt:
            say("stopping once the tables are complete")
            process.wait()
            raise
        for text in (result, complaints):
            text.seek(0)
        if status:
            raise mariadb.DatabaseError(f"The tables could not be prepared:\n{result.read()}{complaints.read()}")
        return result.read()


@contextlib.contextmanager
def served(
    folder: Path,
    port: int,
    *wanted: str,
    host: str = "127.0.0.1",
    shape: Shape = Shape(),  # noqa: B008 (frozen)
) -> Iterator[Running]:
    """Start everything, keep it running, and end it afterwards."""
    with contextlib.closing(_listening(host, port)) as listening, supervised(say) as supervisor:
        say("starting the database")
        database = start_database(folder, supervisor).address
        environment = settings_for(folder, database, redis_for(folder, supervisor))
        metrics = Path(environment["PROMETHEUS_MULTIPROC_DIR"])
        shutil.rmtree(metrics, ignore_errors=True)
        say("preparing tables and static files")
        loader = keep_loader(supervisor, environment, folder / "loader.log")
        result = make_ready(folder, loader, *wanted)
        say("starting the server")
        keep_workers(supervisor, shape.workers, loader, folder / "worker.log")
        keep_web(supervisor, shape.web, listening.fileno(), loader, folder / "server.log")
        address = f"http://{host}:{port}"
        if shape.web:
            wait_until_answering(address, supervisor)
        with status_page(supervisor, metrics, address if shape.web else ""):
            yield Running(address=address, output=result, loader=loader, supervisor=supervisor)


def _listening(host: str, port: int):
    try:
        return listen(host, port)
    except OSError as error:
        text = f"{host}:{port} cannot be listened at ({error.strerror}): set INSTAVIS_BIND or INSTAVIS_PORT."
        raise mariadb.DatabaseError(text) from error


def wait_until_answering(address: str, supervisor: Supervisor) -> None:
    """Until the server answers.

    Raises
    ------
    DatabaseError
        When a web process keeps ending, or none answers in time.
    """
    deadline = time.monotonic() + READY_SECONDS
    opener = urllib.request.build_opener(urllib.request.ProxyHandler({}))
    while time.monotonic() < deadline and all(program.restarts < MAX_RESTARTS for program in supervisor.programs):
        try:
            # By address: it may answer to names that cannot be resolved here.
            request = urllib.request.Request(f"{address}/healthz", headers={"Host": own_host()})
            opener.open(request, timeout=2)
            return
        except OSError:
            time.sleep(0.05)
    raise mariadb.DatabaseError("The server did not start; see server.log beside the database.")


@contextlib.contextmanager
def _stand_ins(address: str, facts: dict, folder: Path) -> Iterator[dict[str, str]]:
    """Start monitor, belt and mat in every bay; they work while a lesson is active.

    Return the monitors' pages by bay.
    """
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
            for kind in ("belt", "mat"):
                start(kind, facts[f"{kind}s"][bay], f"--monitor={pages[bay]}", *golfer)
        yield pages
    finally:
        for child in children:
            stop(child)


def _introduce(address: str, facts: dict, pages: dict[str, str]) -> None:
    print(f"\n  Instavis runs at {address}\n")
    for login in facts["logins"]:
        print(f"  {login['name']:<16} user {login['username']:<6} password {login['password']}")
    print("\n  Each bay has a stand-in monitor, belt and pressure mat that run while a lesson uses it. Control them:")
    for bay, page in pages.items():
        print(f"  {bay:<16} {page}")
    if facts["home"]:
        print(f"\n  A student's page, for a phone: {address}{facts['home']}")
    print("\n  Ctrl-C stops everything.\n")
    sys.stdout.flush()


def _wait_for_the_end() -> None:
    try:
        while True:
            signal.pause()
    except KeyboardInterrupt:
        say("stopping")
